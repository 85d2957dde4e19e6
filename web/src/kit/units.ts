/** How code values are written: one setting for the whole application. */
import { useSyncExternalStore } from "react";

export type Units = "8-bit" | "10-bit" | "percent";
export const unitNames: readonly Units[] = ["8-bit", "10-bit", "percent"];
const peaks: Record<Units, number> = { "8-bit": 255, "10-bit": 1023, percent: 100 };
const KEY = "saucer.units";
const listeners = new Set<() => void>();

function read(): Units {
  const kept = localStorage.getItem(KEY) as Units | null;
  return kept && unitNames.includes(kept) ? kept : "8-bit";
}

export function chooseUnits(units: Units): void {
  localStorage.setItem(KEY, units);
  for (const tell of listeners) tell();
}

export function useUnits(): { units: Units; peak: number; digits: number; write: (value: number) => string } {
  const units = useSyncExternalStore((tell) => {
    listeners.add(tell);
    return () => listeners.delete(tell);
  }, read);
  const digits = units === "10-bit" ? 0 : 1;
  return {
    units,
    peak: peaks[units],
    digits,
    write: (value) => (value * peaks[units]).toFixed(units === "percent" ? 1 : 0),
  };
}
