/** Which picture looks are previewed on; remembered in this browser. */
import { useQuery } from "@tanstack/react-query";
import { pictures as picturesQuery } from "../api/pictures";
import type { Picture } from "../api/types";
import { useKept } from "../browser/kept";

const numberIn = (found: unknown) => Number(found) || 0;

/** asked: the picture that an address names, which comes before the one used last */
export function usePictureChoice(asked: number | null = null): {
  pictures: readonly Picture[];
  chosen: Picture | undefined;
  choose: (id: number) => void;
} {
  const { data: pictures = [] } = useQuery(picturesQuery);
  const [id, choose] = useKept("preview-picture", numberIn);
  return {
    pictures,
    chosen: pictures.find((picture) => picture.id === (asked ?? id)) ?? pictures[0],
    choose,
  };
}
