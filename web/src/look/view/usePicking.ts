import { useEffect } from "react";
import { useBench, useViewPart } from "../useBench";
import type { Handlers } from "./picking";

/** Whether the picture is being picked from for this editor, and the switches for it. */
export function usePicking(
  words: string,
  handlers: Handlers,
): { picking: boolean; toggle: () => void; stop: () => void } {
  const { view, picker } = useBench();
  const picking = useViewPart((one) => one.picking === words);
  useEffect(() => {
    if (picking) picker.wait(handlers);
  });
  useEffect(
    () => () => {
      if (picking) picker.wait(null);
    },
    [picking, picker],
  );
  useEffect(() => () => view.set({ picking: null }), [view]);
  return {
    picking,
    toggle: () => view.set({ picking: picking ? null : words }),
    stop: () => view.set({ picking: null }),
  };
}
