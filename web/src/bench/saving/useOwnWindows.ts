/** Several windows of one person at one look: what is saved in one is shown in the others, where nothing there waits to be saved. */
import { useEffect } from "react";
import type { Presence } from "../../api/types";
import { useBench, useSaving } from "../../look/useBench";

interface Saved {
  readonly id: number;
  readonly revision: number;
}

export function useOwnWindows(presence: Presence): void {
  const { id, store, follow } = useBench();
  const { saving, entry } = useSaving();
  const isSaved = saving.kind === "saved";
  const { revision } = entry;
  // Of this browser at once; of another one when the server says so, unless somebody else may have been it.
  const isOwn = presence.others.length > 0 && presence.others.every((one) => one.same_person);
  const told = isOwn ? presence.revision : 0;
  useEffect(() => {
    const channel = new BroadcastChannel("saucer-saved");
    const show = (saved: number) => {
      const { gesture, trial } = store.get();
      if (isSaved && saved > revision && gesture === null && trial === null) void follow().catch(() => undefined);
    };
    channel.onmessage = ({ data }: MessageEvent<Saved>) => {
      if (data.id === id) show(data.revision);
    };
    show(told);
    if (isSaved) channel.postMessage({ id, revision } satisfies Saved);
    return () => channel.close();
  }, [id, store, follow, isSaved, revision, told]);
}
