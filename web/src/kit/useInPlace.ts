import { useState, type KeyboardEvent as Pressed } from "react";

/** What opens in the place of its button: Escape closes it as its own button does, and the keys are at the first button again. */
export function useInPlace() {
  const [state, setState] = useState<"closed" | "open" | "left">("closed");
  const close = () => setState("left");
  /** Somebody has gone elsewhere: their keys stay there. */
  const fold = () => setState("closed");
  return {
    isOpen: state === "open",
    open: () => setState("open"),
    close,
    fold,
    /** Of the button that opens it: it is made anew when it comes back. */
    autoFocus: state === "left",
    /** Of what stands around that which was opened. */
    onKeyDown: (event: Pressed) => {
      if (event.key !== "Escape" || state !== "open") return;
      event.stopPropagation();
      close();
    },
  };
}
