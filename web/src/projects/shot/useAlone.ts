import { useEffect, useState } from "react";
import { useActions } from "../../browser/actions";

const isElsewhere = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest("input:not([type=range]), textarea, [role='dialog']") !== null;

/** Is the picture of a shot seen alone? By V, and back by V or Escape; it stays so from one shot to the next. */
export function useAlone(): readonly [boolean, (next: boolean) => void] {
  const [isAlone, setAlone] = useState(false);
  useActions([{ name: "The picture alone", keys: "V", run: () => setAlone(true) }]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || isElsewhere(event.target)) return;
      if (event.key === "v") setAlone((now) => !now);
      else if (event.key === "Escape") setAlone(false);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return [isAlone, setAlone];
}
