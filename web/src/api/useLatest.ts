import { useCallback, useEffect, useRef } from "react";
import { Latest } from "./latest";

/** A `Latest` that lives as long as the component; returns the function that asks. The three functions are taken as they are at first. */
export function useLatest<Input, Result>(
  run: (input: Input, signal: AbortSignal) => Promise<Result>,
  onResult: (result: Result, input: Input) => void,
  onError: (error: unknown, input: Input) => void = () => undefined,
): (input: Input) => void {
  const first = useRef({ run, onResult, onError });
  const latest = useRef<Latest<Input, Result> | null>(null);
  useEffect(() => {
    const channel = new Latest<Input, Result>(first.current.run, first.current.onResult, first.current.onError);
    latest.current = channel;
    return () => channel.close();
  }, []);
  return useCallback((input: Input) => latest.current?.ask(input), []);
}
