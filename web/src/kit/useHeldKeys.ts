/** Keys that are pressed in a search before its results have come: kept, and done once they are there. */
import { useEffect, useRef, type KeyboardEvent as Pressed } from "react";

const HELD = new Set(["Enter", "ArrowDown", "ArrowUp"]);
const MODIFIERS = new Set(["Shift", "Control", "Alt", "Meta"]);
/** How many frames a list takes to stand once its items are known: it is built in one and drawn in the next. */
const FRAMES = 2;
const done = new WeakSet<Event>();

type Held = Pick<KeyboardEvent, "key" | "code" | "shiftKey" | "altKey">;

function press(field: Element, held: Held): void {
  for (const type of ["keydown", "keyup"]) {
    const event = new KeyboardEvent(type, { ...held, bubbles: true, cancelable: true });
    done.add(event);
    field.dispatchEvent(event);
  }
}

/**
 * The handler goes around the field, in the capturing phase. Typing on, or Escape, forgets what was held.
 *
 * @param isSettled do the results belong to what stands in the field?
 * @param isCommand keys of the search's own that are held too
 */
export function useHeldKeys(
  isSettled: boolean,
  isCommand: (event: Pressed<HTMLElement>) => boolean = () => false,
): (event: Pressed<HTMLElement>) => void {
  const held = useRef<{ keys: Held[]; field: Element | null }>({ keys: [], field: null });
  useEffect(() => {
    if (!isSettled || held.current.keys.length === 0) return undefined;
    let waiting = FRAMES;
    // A frame for each: what one key chooses has to be drawn before the next is about it.
    const next = () => {
      waiting -= 1;
      if (waiting <= 0) {
        const { keys, field } = held.current;
        const [first, ...others] = keys;
        held.current.keys = others;
        if (first && field?.isConnected) press(field, first);
        if (others.length === 0) return;
      }
      frame = requestAnimationFrame(next);
    };
    let frame = requestAnimationFrame(next);
    return () => cancelAnimationFrame(frame);
  }, [isSettled]);
  return (event) => {
    if (done.has(event.nativeEvent) || MODIFIERS.has(event.key)) return;
    if (!HELD.has(event.key) && !isCommand(event)) {
      held.current.keys = [];
      return;
    }
    if ((isSettled && held.current.keys.length === 0) || !(event.target instanceof HTMLInputElement)) return;
    event.preventDefault();
    event.stopPropagation();
    const { key, code, shiftKey, altKey } = event;
    held.current.keys.push({ key, code, shiftKey, altKey });
    held.current.field = event.target;
  };
}
