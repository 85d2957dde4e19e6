/** The rows of a pack as the person has them: what they correct is sent a moment later, and is there when they come back. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { correctRow, packRows } from "../../api/making";
import type { Correction, PackRow } from "../../api/types";

const PAUSE = 400;

/** A row unless it was said otherwise: what could be read, is not here already, and was not put on the Shelf before. */
export const isKept = (row: PackRow) => row.keep ?? (row.problem === "" && row.same_as === "" && row.entry === null);

function withChange(row: PackRow, change: Correction): PackRow {
  const given = Object.fromEntries(Object.entries(change).filter(([, value]) => value !== null));
  return { ...row, ...given, corrected: row.corrected || Object.keys(given).some((name) => name !== "keep") };
}

export interface Rows {
  /** null until the pack is read. */
  readonly rows: readonly PackRow[] | null;
  readonly error: unknown;
  readonly correct: (row: PackRow, change: Correction) => void;
  /** Resolves once everything is with the server. */
  readonly flush: () => Promise<void>;
}

export function usePackRows(job: number | null, isRead: boolean): Rows {
  const client = useQueryClient();
  const query = packRows(job);
  const { data, error } = useQuery({ ...query, enabled: query.enabled === true && isRead });
  const [corrected, setCorrected] = useState<Readonly<Record<number, PackRow>>>({});
  const [failure, setFailure] = useState<unknown>(null);
  const unsent = useRef(new Map<number, Correction>());
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);

  const flush = useCallback(async () => {
    clearTimeout(timer.current);
    if (job === null) return;
    const sending = [...unsent.current];
    unsent.current.clear();
    try {
      await Promise.all(sending.map(([index, change]) => correctRow(job, index, change)));
    } catch (error) {
      // What did not arrive is sent again next time, under what was corrected since.
      for (const [index, change] of sending) unsent.current.set(index, { ...change, ...unsent.current.get(index) });
      setFailure(error);
      throw error;
    }
    if (sending.length > 0) await client.invalidateQueries({ queryKey: ["pack", job], refetchType: "none" });
  }, [client, job]);

  const correct = useCallback(
    (row: PackRow, change: Correction) => {
      setFailure(null);
      setCorrected((last) => ({ ...last, [row.index]: withChange(last[row.index] ?? row, change) }));
      unsent.current.set(row.index, { ...unsent.current.get(row.index), ...change });
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void flush().catch(() => undefined), PAUSE);
    },
    [flush],
  );
  // Whoever leaves within the pause has corrected all the same.
  useEffect(() => () => void flush().catch(() => undefined), [flush]);

  // The same objects as long as nothing changes, so that of five hundred lines only the one being typed in is drawn again.
  const rows = useMemo(() => data?.map((row) => corrected[row.index] ?? row) ?? null, [data, corrected]);
  return { rows, error: failure ?? error, correct, flush };
}
