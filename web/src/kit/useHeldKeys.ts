/** Keys that are pressed in a search before its results have come: kept, and done once they are there. */
import { useEffect, useRef, type KeyboardEvent as Pressed } from "react";

const HELD = new Set(["Enter", "ArrowDown", "ArrowUp"]);
const MODIFIERS = new Set(["Shift", "Control", "Alt", "Meta"]);
/** How many frames a list takes to stand once its items are known: it is built in one and drawn in the next. */
const FRAMES = 2;
const done = new WeakSet<Event>();

function press(field: Element, key: string): void {
  for (const type of ["keydown", "keyup"]) {
    const event = new KeyboardEvent(type, { key, code: key, bubbles: true, cancelable: true });
    done.add(event);
    field.dispatchEvent(event);
  }
}

/**
 * The handler goes around the field, in the capturing phase. Typing on, or Escape, forgets what was held.
 *
 * @param isSettled do the results belong to what stands in the field?
 */
export function useHeldKeys(isSettled: boolean): (event: Pressed<HTMLElement>) => void {
  const held = useRef<{ keys: string[]; field: Element | null }>({ keys: [], field: null });
  useEffect(() => {
    if (!isSettled || held.current.keys.length === 0) return undefined;
    let waiting = FRAMES;
    const next = () => {
      waiting -= 1;
      if (waiting > 0) {
        frame = requestAnimationFrame(next);
        return;
      }
      const { keys, field } = held.current;
      held.current = { keys: [], field: null };
      if (field !== null) for (const key of keys) if (field.isConnected) press(field, key);
    };
    let frame = requestAnimationFrame(next);
    return () => cancelAnimationFrame(frame);
  }, [isSettled]);
  return (event) => {
    if (done.has(event.nativeEvent) || MODIFIERS.has(event.key)) return;
    if (!HELD.has(event.key)) {
      held.current.keys = [];
      return;
    }
    if ((isSettled && held.current.keys.length === 0) || !(event.target instanceof HTMLInputElement)) return;
    event.preventDefault();
    event.stopPropagation();
    held.current.keys.push(event.key);
    held.current.field = event.target;
  };
}
