/** Pixels of the picture at its own size for what is in sight at a zoom, both sides, once the look is at rest. */
import { useEffect, useRef, useState } from "react";
import { fetchRegion, type Seen } from "../../api/seen";
import { screenFor, type Screen } from "../../browser/screen";
import { Latest } from "../../api/latest";
import type { Look, Picture } from "../../api/types";
import type { Part, Sight } from "../../kit/Compare";
import type { Painter } from "../../look/frames/painter";
import { shownLook } from "../../look/store";
import { seenAs } from "../../look/view/view";
import { useBenchPart, useViewPart } from "../../look/useBench";
import { usePainted } from "../../look/frames/useFrames";

const LARGEST = 2048;

interface Wanted {
  readonly key: string;
  readonly sight: Sight;
  readonly picture: Seen;
  readonly after: Look | null;
  readonly before: Look | null;
  readonly steps: number | null;
  readonly screen: Screen;
}

interface Parts {
  readonly key: string;
  readonly after: Part | null;
  readonly before: Part | null;
}

const nothing: Parts = { key: "", after: null, before: null };
let looksSeen = 0;
const numbers = new WeakMap<object, number>();

/** A number for each look object, so that a request can be told from the next by it. */
function numberOf(look: Look | null): number {
  if (!look) return 0;
  const known = numbers.get(look) ?? (looksSeen += 1);
  numbers.set(look, known);
  return known;
}

function limited(sight: Sight): Sight {
  const width = Math.min(sight.width, LARGEST);
  const height = Math.min(sight.height, LARGEST);
  return {
    left: sight.left + Math.floor((sight.width - width) / 2),
    top: sight.top + Math.floor((sight.height - height) / 2),
    width,
    height,
  };
}

export function useDetail(painter: Painter, picture: Picture, sight: Sight | null): Parts {
  const [parts, setParts] = useState<Parts>(nothing);
  const channel = useRef<Latest<Wanted, Parts> | null>(null);
  const shown = useViewPart((view) => view.shown);
  const against = useViewPart((view) => view.against);
  const stage = useViewPart((view) => view.stage);
  const readAs = useViewPart((view) => view.readAs);
  const look = useBenchPart(shownLook);
  const settled = usePainted(painter, (painted) => painted.settled);
  const screen = screenFor(useViewPart((view) => view.proof));
  const compared = useViewPart((view) => view.mode !== "single" || view.held);

  useEffect(() => {
    const latest = new Latest<Wanted, Parts>(
      async ({ key, sight: { left, top, width, height }, picture: seen, after, before, steps, screen }, signal) => {
        const part = async (one: Look | null, some: number | null): Promise<Part | null> => {
          if (!one) return null;
          const bitmap = await fetchRegion(
            { look: one, ...seen, left, top, width, height, steps: some, screen },
            signal,
          );
          return { bitmap, left, top, width: bitmap.width, height: bitmap.height };
        };
        return { key, after: await part(after, steps), before: await part(before, null) };
      },
      (found) =>
        setParts((last) => {
          last.after?.bitmap.close();
          last.before?.bitmap.close();
          return found;
        }),
      () => undefined,
    );
    channel.current = latest;
    return () => latest.close();
  }, []);

  const ready = sight !== null && (shown !== "draft" || settled === look);
  const after = ready ? painter.lookOf(shown) : null;
  const before = ready && compared ? painter.lookOf(against) : null;
  const held = sight ? limited(sight) : null;
  const key =
    ready && held
      ? [
          picture.id,
          `${picture.state}${readAs[picture.id] ?? ""}`,
          held.left,
          held.top,
          held.width,
          held.height,
          numberOf(after),
          numberOf(before),
          stage,
          screen,
        ].join(" ")
      : "";
  useEffect(() => {
    if (!key || !held) return undefined;
    // While the picture is panned its proxy is enough.
    const wait = setTimeout(
      () =>
        channel.current?.ask({
          key,
          sight: held,
          picture: seenAs({ readAs }, picture.id),
          after,
          before,
          steps: shown === "draft" ? stage : null,
          screen,
        }),
      120,
    );
    return () => clearTimeout(wait);
  }, [key]); // oxlint-disable-line react-hooks/exhaustive-deps
  return parts.key === key || (key !== "" && sameLooks(parts.key, key)) ? parts : nothing;
}

/** The same looks on the same picture, seen elsewhere: what was fetched still is true where it lies. */
function sameLooks(one: string, other: string): boolean {
  const [a, b] = [one.split(" "), other.split(" ")];
  return [0, 1, 6, 7, 8, 9].every((index) => a[index] === b[index]);
}
