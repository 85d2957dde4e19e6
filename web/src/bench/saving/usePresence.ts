/** Telling that this page has the look open, and learning who else has. */
import { useEffect, useState } from "react";
import { tellPresence } from "../../api/looks";
import type { Presence } from "../../api/types";
import { useBench } from "../../look/useBench";

const EVERY = 6000;

/** Who else has it open, and the revision the server holds. */
export function usePresence(): Presence {
  const { id, store } = useBench();
  const [found, setFound] = useState<Presence>({ others: [], revision: 0 });
  useEffect(() => {
    const page = crypto.randomUUID();
    let told = store.get().whole;
    let closed = false;
    const tell = async (leaving = false) => {
      const now = store.get().whole;
      const body = { page, edited: now !== told, leaving };
      told = now;
      try {
        const answer = await tellPresence(id, body);
        if (!closed) setFound(answer);
      } catch {
        // Who else is here is not worth a word while the server cannot be reached.
      }
    };
    void tell();
    const clock = setInterval(() => void tell(), EVERY);
    const gone = () => void tell(true);
    window.addEventListener("pagehide", gone);
    return () => {
      closed = true;
      clearInterval(clock);
      window.removeEventListener("pagehide", gone);
      void tell(true);
    };
  }, [id, store]);
  return found;
}
