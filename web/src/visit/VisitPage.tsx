import { useQuery } from "@tanstack/react-query";
import { wordsFor } from "../api/client";
import { door as doorQuery } from "../api/visit";
import { Notice } from "../kit/Notice";
import { OnPlate } from "../kit/Plate";
import { Door } from "./Door";
import { ShownWall } from "./ShownWall";

/** What somebody without an account has before them. */
export function VisitPage({ code }: { code: string }) {
  const { data: door, error } = useQuery(doorQuery(code));
  if (error && !door)
    return (
      <OnPlate onSubmit={() => undefined}>
        <Notice>{wordsFor(error)}</Notice>
      </OnPlate>
    );
  if (!door) return null;
  return door.name === null ? <Door code={code} door={door} /> : <ShownWall code={code} door={door} name={door.name} />;
}
