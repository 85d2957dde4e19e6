import { useEffect, useState } from "react";

const PAUSE = 350;

/** A value once it has stood still for a moment: what is costly is not made at every move of a drag. */
export function useRested<Value>(value: Value): Value {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const wait = setTimeout(() => setRested(value), PAUSE);
    return () => clearTimeout(wait);
  }, [value]);
  return rested;
}
