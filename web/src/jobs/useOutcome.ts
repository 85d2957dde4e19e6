import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import type { Job } from "../api/types";
import { useJob } from "./JobLine";

/** Once a job is done: what it made stale is fetched anew, and `onDone` is told, once. */
export function useOutcome(id: number | null, stale: readonly string[], onDone: (job: Job) => void) {
  const { job, running } = useJob(id);
  const client = useQueryClient();
  const told = useRef<number | null>(null);
  const current = useRef({ stale, onDone });
  useEffect(() => {
    current.current = { stale, onDone };
  });
  useEffect(() => {
    if (job?.state !== "done" || job.id !== id || told.current === id) return;
    told.current = id;
    for (const key of current.current.stale) void client.invalidateQueries({ queryKey: [key] });
    current.current.onDone(job);
  }, [job, id, client]);
  return { job, running };
}
