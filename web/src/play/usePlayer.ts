import { useEffect, useRef, useState } from "react";
import type { Player } from "./player";

/** A player as long as what it plays stays the same. key: what that is */
export function usePlayer(key: string, make: () => Player): Player | null {
  const [player, setPlayer] = useState<Player | null>(null);
  const current = useRef(make);
  useEffect(() => {
    current.current = make;
  });
  useEffect(() => {
    const made = current.current();
    // It lives outside React, from here until the key is another.
    setPlayer(made);
    return () => made.close();
  }, [key]);
  return player;
}
