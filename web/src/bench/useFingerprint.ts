/** The disc that shows what a look does, as the engine draws it. */
import { useEffect, useState } from "react";
import { callImage } from "../api/client";
import type { Look } from "../api/types";

export function useFingerprint(look: Look | null, size = 192): string | null {
  const [url, setUrl] = useState<string | null>(null);
  const text = look ? JSON.stringify(look) : null;
  useEffect(() => {
    if (text === null) return undefined;
    const stop = new AbortController();
    let made: string | null = null;
    const draw = async () => {
      const bitmap = await callImage(`/looks/fingerprint?size=${size}`, JSON.parse(text), stop.signal);
      const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
      canvas.getContext("2d")?.drawImage(bitmap, 0, 0);
      bitmap.close();
      const blob = await canvas.convertToBlob();
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
