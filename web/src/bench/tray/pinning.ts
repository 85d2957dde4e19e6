import type { Picture } from "../../api/types";
import type { Painter } from "../../look/frames/painter";
import { seenAs, type ViewStore } from "../../look/view/view";

/** The picture in view, as the side that is seen shows it, becomes what others are held against. What is pinned stays so while looks change. */
export function pinInView(
  view: ViewStore,
  painter: Painter,
  picture: Picture | undefined,
  onSaid: (words: string) => void,
): void {
  if (!picture) return;
  const { held, against, shown } = view.get();
  const side = held ? against : shown;
  if (side === "reference") return;
  const look = side === "original" ? null : painter.lookOf(side);
  if (side !== "original" && !look) return;
  const { read_as = "" } = seenAs(view.get(), picture.id);
  const through = look === null ? "as it came" : look.name ? `through ${look.name}` : "graded";
  const name = `${picture.name}, ${through}`;
  view.set({
    reference: { picture: picture.id, look, at: painter.frameOf(picture.id), read_as, name },
    against: "reference",
    mode: "beside",
  });
  onSaid(`Pinned: ${name}`);
}
