/** An encoding as it is being typed: text until it is a definition. Whether it can be is for the server to say. */
import type { OwnEncoding } from "../api/encodings";

export type CurveKind = "log" | "logc3" | "gamma" | "pq" | "points";

export interface Draft {
  readonly name: string;
  readonly referred: "scene" | "display";
  readonly kind: CurveKind;
  readonly fields: Readonly<Record<string, string>>;
  readonly points: string;
}

const logFields = [
  ["base", "Base of the logarithm", "10"],
  ["log_side_slope", "Slope on the log side", "0.25"],
  ["log_side_offset", "Offset on the log side", "0.4"],
  ["lin_side_slope", "Slope of light", "5.5"],
  ["lin_side_offset", "Offset of light", "0.05"],
  ["lin_side_break", "Light where it becomes straight", "0.01"],
] as const;
const gammaFields = [
  ["exponent", "Exponent", "2.4"],
  ["offset", "Offset; 0: no straight piece near black", "0"],
] as const;
const pqFields = [["peak", "Peak of the display, cd/m²", "1000"]] as const;
export const fieldsOf: Record<CurveKind, readonly (readonly [string, string, string])[]> = {
  log: logFields,
  logc3: [["exposure_index", "Exposure index, 160 to 1600", "800"]],
  gamma: gammaFields,
  pq: pqFields,
  points: [],
};
/** Whose light it is, of curves that leave no choice; and the shipped encoding whose primaries they usually have. */
export const settled: Partial<Record<CurveKind, Draft["referred"]>> = { logc3: "scene", pq: "display" };
export const usual: Partial<Record<CurveKind, string>> = { logc3: "logc3-ei800", pq: "pq" };
export const corners = ["red", "green", "blue", "white"] as const;

export const fresh: Draft = {
  name: "",
  referred: "scene",
  kind: "log",
  fields: Object.fromEntries(
    Object.values(fieldsOf)
      .flat()
      .map(([field, , value]) => [field, value]),
  ),
  points: "0, 0\n0.5, 0.18\n1, 1",
};

const numberOf = (text: string | undefined) => Number((text ?? "").trim().replace(",", ".") || "NaN");

/** Small letters, digits and hyphens, as an id is made of. */
export const idFor = (name: string) =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 40);

/** Lines of two numbers, apart by a comma, a semicolon or spaces; what is none of these is told by its line. */
export function pointsIn(text: string): { points: [number, number][]; problem: string | null } {
  const points: [number, number][] = [];
  for (const [index, line] of text.split("\n").entries()) {
    if (line.trim() === "") continue;
    const parts = line
      .trim()
      .split(/\s*[,;\s]\s*/)
      .map(Number);
    const [code, light] = parts;
    if (parts.length !== 2 || code === undefined || light === undefined || parts.some((one) => !Number.isFinite(one)))
      return { points, problem: `Line ${index + 1}: two numbers are needed, the code value and its light` };
    points.push([code, light]);
  }
  return { points, problem: null };
}

/** The definition, or what is missing for one. */
export function definitionOf(draft: Draft): { definition: OwnEncoding | null; problem: string | null } {
  const needed = [
    ...fieldsOf[draft.kind],
    ...corners.flatMap((corner) => [`${corner}.x`, `${corner}.y`].map((field) => [field, field, ""] as const)),
  ];
  const wrong = needed.find(([field]) => !Number.isFinite(numberOf(draft.fields[field])));
  if (wrong) return { definition: null, problem: `${wrong[1].replace(".", ", ")}: a number is needed` };
  const numbers = (fields: readonly (readonly [string, string, string])[]) =>
    Object.fromEntries(fields.map(([field]) => [field, numberOf(draft.fields[field])]));
  const { points, problem } = pointsIn(draft.points);
  if (draft.kind === "points" && problem) return { definition: null, problem };
  const xy = (corner: string): [number, number] => [
    numberOf(draft.fields[`${corner}.x`]),
    numberOf(draft.fields[`${corner}.y`]),
  ];
  const curve = draft.kind === "points" ? { points } : { [draft.kind]: numbers(fieldsOf[draft.kind]) };
  return {
    definition: {
      id: idFor(draft.name) || "unnamed",
      name: draft.name.trim() || "Unnamed",
      // Of these it is not to be chosen.
      referred: settled[draft.kind] ?? draft.referred,
      ...curve,
      red: xy("red"),
      green: xy("green"),
      blue: xy("blue"),
      white: xy("white"),
    } satisfies OwnEncoding,
    problem: null,
  };
}

/** Another curve; with the primaries it usually has where none are typed yet. */
export function withCurve(draft: Draft, kind: CurveKind, known: readonly Placed[]): Draft {
  const of = known.find((one) => one.id === usual[kind]);
  const isEmpty = corners.every((corner) => !draft.fields[`${corner}.x`] && !draft.fields[`${corner}.y`]);
  return { ...(of && isEmpty ? placedAs(draft, of) : draft), kind };
}

type Placed = Record<(typeof corners)[number], [number, number]> & { readonly id: string };

/** With the chromaticities of a known encoding. */
export function placedAs(draft: Draft, of: Placed): Draft {
  const places = corners.flatMap((corner) => [
    [`${corner}.x`, String(of[corner][0])],
    [`${corner}.y`, String(of[corner][1])],
  ]);
  return { ...draft, fields: { ...draft.fields, ...(Object.fromEntries(places) as Record<string, string>) } };
}

/** The curve of an encoding of the team's own in words. */
export function curveWords(own: OwnEncoding | null | undefined): string {
  if (own?.gamma) return `Power ${own.gamma.exponent}${own.gamma.offset ? `, offset ${own.gamma.offset}` : ""}`;
  if (own?.points) return `${own.points.length} points`;
  if (own?.logc3) return `LogC3 at EI ${own.logc3.exposure_index}`;
  if (own?.pq) return `PQ, ${own.pq.peak} cd/m²`;
  return "Logarithm";
}
