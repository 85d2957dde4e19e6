/** How code values are written: one setting for the whole application. */
import { useKept } from "../browser/kept";

export type Units = "8-bit" | "10-bit" | "percent";
export const unitNames: readonly Units[] = ["8-bit", "10-bit", "percent"];
const peaks: Record<Units, number> = { "8-bit": 255, "10-bit": 1023, percent: 100 };
const unitsIn = (found: unknown): Units => unitNames.find((one) => one === found) ?? "8-bit";

export function useUnits(): {
  units: Units;
  peak: number;
  digits: number;
  write: (value: number) => string;
  choose: (units: Units) => void;
} {
  const [units, choose] = useKept("units", unitsIn);
  const digits = units === "10-bit" ? 0 : 1;
  return {
    units,
    peak: peaks[units],
    digits,
    choose,
    write: (value) => (value * peaks[units]).toFixed(units === "percent" ? 1 : 0),
  };
}
