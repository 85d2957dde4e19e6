/**
 * What this browser remembers for the person: the one place that knows where. Under a name each, as JSON; a plain word that is none stands for
 * itself. What no longer reads counts as never kept, and a full store stops nobody's work.
 */
import { useCallback, useMemo, useSyncExternalStore } from "react";

const listeners = new Set<() => void>();
const whole = (name: string) => `saucer.${name}`;

function parse(text: string | null): unknown {
  if (text === null) return null;
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
}

/** What is kept under a name, whatever that is; null where nothing is. */
export const recall = (name: string, where: Storage = localStorage): unknown => parse(where.getItem(whole(name)));

export function remember(name: string, value: unknown, where: Storage = localStorage): void {
  try {
    where.setItem(whole(name), JSON.stringify(value));
  } catch {
    // A full store must not stop the work; what counts is at the server.
  }
  for (const tell of listeners) tell();
}

export function forget(name: string, where: Storage = localStorage): void {
  where.removeItem(whole(name));
  for (const tell of listeners) tell();
}

function listen(tell: () => void): () => void {
  listeners.add(tell);
  return () => listeners.delete(tell);
}

/** A remembered value and how to set it, the same for everything on the page that asks for this name. `read` makes what it is of what was found. */
export function useKept<T>(name: string, read: (found: unknown) => T): readonly [T, (next: T) => void] {
  const text = useSyncExternalStore(listen, () => localStorage.getItem(whole(name)));
  const value = useMemo(() => read(parse(text)), [text, read]);
  return [value, useCallback((next: T) => remember(name, next), [name])];
}
