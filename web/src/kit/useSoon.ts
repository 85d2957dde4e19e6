import { useCallback, useEffect, useRef } from "react";

const KEPT_AFTER = 300;

/** Does it once nothing more comes for a moment; at once when the page is left. */
export function useSoon<Item>(run: (item: Item) => void): (item: Item) => void {
  const waiting = useRef<Item | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const current = useRef(run);
  useEffect(() => {
    current.current = run;
  });
  const flush = useCallback(() => {
    clearTimeout(timer.current);
    if (waiting.current !== null) current.current(waiting.current);
    waiting.current = null;
  }, []);
  useEffect(() => flush, [flush]);
  return useCallback(
    (item) => {
      waiting.current = item;
      clearTimeout(timer.current);
      timer.current = setTimeout(flush, KEPT_AFTER);
    },
    [flush],
  );
}
