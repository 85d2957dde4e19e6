/** The disc that shows what a look does, as the engine draws it. */
import { useEffect, useState } from "react";
import { fetchFingerprint } from "../../api/seen";
import type { Look } from "../../api/types";

export function useFingerprint(look: Look | null, size = 192): string | null {
  const [url, setUrl] = useState<string | null>(null);
  const text = look ? JSON.stringify(look) : null;
  useEffect(() => {
    if (text === null) return undefined;
    const stop = new AbortController();
    let made: string | null = null;
    const draw = async () => {
      const blob = await fetchFingerprint(JSON.parse(text) as Look, size, stop.signal);
      if (stop.signal.aborted) return;
      made = URL.createObjectURL(blob);
      setUrl(made);
    };
    draw().catch(() => undefined);
    return () => {
      stop.abort();
      if (made) setTimeout(() => made && URL.revokeObjectURL(made), 500);
    };
  }, [text, size]);
  return text === null ? null : url;
}
