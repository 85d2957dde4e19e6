/** What can be done on the page in view, as its parts say: found in the search over everything, beside the places one can go to. */
import { useEffect, useRef, type RefObject } from "react";

export interface Action {
  /** What it does, as its button says it. */
  readonly name: string;
  /** The keys that do it, as they are shown. */
  readonly keys?: string;
  readonly run: () => void;
}

const parts = new Set<RefObject<readonly Action[]>>();

/** Offers these while the part is there. Only what this person may do here is given. */
export function useActions(actions: readonly Action[]): void {
  const latest = useRef(actions);
  useEffect(() => {
    latest.current = actions;
  });
  useEffect(() => {
    parts.add(latest);
    return () => void parts.delete(latest);
  }, []);
}

/** What is offered now; of several with one name the one that came last. */
export function actionsHere(): readonly Action[] {
  return [...new Map([...parts].flatMap((part) => part.current.map((one) => [one.name, one]))).values()];
}

/** Longer than this is no name, but what a card says. */
const LONGEST_NAME = 80;

/** Every button in view that can be pressed, by the name it has for whoever cannot see it; of several with one name the first. */
export function buttonsHere(): readonly Action[] {
  const found = new Map<string, HTMLButtonElement>();
  for (const one of document.querySelectorAll<HTMLButtonElement>("button:not(:disabled)")) {
    const name = (one.getAttribute("aria-label") ?? one.textContent).replace(/\s+/g, " ").trim();
    const isMeant =
      name !== "" && name.length <= LONGEST_NAME && !found.has(name) && one.closest("[data-veil]") === null;
    if (isMeant && one.checkVisibility()) found.set(name, one);
  }
  return [...found].map(([name, one]) => ({
    name,
    run: () => {
      one.focus();
      one.click();
    },
  }));
}
