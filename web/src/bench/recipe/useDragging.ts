/** Dragging lines of the recipe by their numbers. */
import { useCallback, useRef, useState, type PointerEvent as ReactPointer } from "react";
import { findStep, movedTo, outline, type Place } from "../../look/arrange";
import { useBench } from "../../look/useBench";
import { titleOf } from "../../look/titles";

export interface Drop extends Place {
  /** The line that shows where it goes, and on which of its edges. */
  readonly line: string;
  readonly edge: "before" | "after";
}

const FAR = 4;

/** Where the pointer would drop: read off the lines as they stand on screen. */
function dropAt(list: HTMLElement, x: number, y: number): Drop | null {
  const lines = [...list.querySelectorAll<HTMLElement>("[data-step]")];
  let last: HTMLElement | undefined;
  for (const line of lines) {
    const box = line.getBoundingClientRect();
    if (y < box.top + box.height / 2) return before(line);
    if (y < box.bottom) return after(line, lines, x < box.left);
    last = line;
  }
  return last ? { into: null, before: null, line: last.dataset.step ?? "", edge: "after" } : null;
}

const groupOf = (line: HTMLElement) => line.dataset.within || null;

function before(line: HTMLElement): Drop {
  return { into: groupOf(line), before: line.dataset.step ?? null, line: line.dataset.step ?? "", edge: "before" };
}

function after(line: HTMLElement, lines: readonly HTMLElement[], leaves: boolean): Drop {
  const id = line.dataset.step ?? "";
  const next = lines[lines.indexOf(line) + 1];
  if (line.dataset.group !== undefined)
    return {
      into: id,
      before: next && groupOf(next) === id ? (next.dataset.step ?? null) : null,
      line: id,
      edge: "after",
    };
  const within = groupOf(line);
  const following = lines.slice(lines.indexOf(line) + 1);
  if (within && leaves) {
    // Left of a group's lines: after the group.
    const outside = following.find((one) => groupOf(one) !== within);
    return { into: null, before: outside?.dataset.step ?? null, line: id, edge: "after" };
  }
  return {
    into: within,
    before: following.find((one) => groupOf(one) === within)?.dataset.step ?? null,
    line: id,
    edge: "after",
  };
}

export function useDragging(list: { readonly current: HTMLElement | null }) {
  const { store } = useBench();
  const [drop, setDrop] = useState<Drop | null>(null);
  const now = useRef<Drop | null>(null);

  const onGrip = useCallback(
    (id: string, down: ReactPointer) => {
      if (down.button !== 0 || down.shiftKey || down.ctrlKey || down.metaKey) return;
      const start = { x: down.clientX, y: down.clientY };
      let moving = false;
      const move = (event: PointerEvent) => {
        if (!moving && Math.hypot(event.clientX - start.x, event.clientY - start.y) < FAR) return;
        moving = true;
        const box = list.current?.getBoundingClientRect();
        if (list.current && box) {
          if (event.clientY < box.top + 24) list.current.scrollTop -= 12;
          if (event.clientY > box.bottom - 24) list.current.scrollTop += 12;
          now.current = dropAt(list.current, event.clientX, event.clientY);
        }
        setDrop(now.current);
      };
      const stop = () => {
        window.removeEventListener("pointermove", move);
        window.removeEventListener("pointerup", up);
        window.removeEventListener("keydown", key, true);
        now.current = null;
        setDrop(null);
      };
      const up = () => {
        const place = now.current;
        stop();
        if (!moving || !place) return;
        const { look, marked } = store.get();
        const ids = new Set(marked.includes(id) ? marked : [id]);
        const moved = movedTo(look.steps ?? [], ids, place);
        const step = findStep(look, id);
        if (step && outline(moved) !== outline(look.steps ?? []))
          store.edit(ids.size > 1 ? `Move ${ids.size} steps` : `Move ${titleOf(step)}`, (was) => ({
            ...was,
            steps: moved,
          }));
      };
      const key = (event: KeyboardEvent) => {
        if (event.key !== "Escape") return;
        event.preventDefault();
        stop();
      };
      window.addEventListener("pointermove", move);
      window.addEventListener("pointerup", up);
      window.addEventListener("keydown", key, true);
    },
    [list, store],
  );

  return { drop, onGrip };
}
