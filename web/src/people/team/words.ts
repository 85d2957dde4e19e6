/** How people and what they have are said. */
import type { Account, Factor, Role } from "../../api/types";

export const ROLES: readonly (readonly [Role, string])[] = [
  ["viewer", "looks on"],
  ["designer", "designs"],
  ["curator", "keeps the catalogue, publishes"],
  ["admin", "runs the studio"],
];
const factorWords: Record<Factor, string> = { totp: "app", webauthn: "passkey", recovery_codes: "" };

export const factorsOf = (one: Account): string =>
  one.factors
    .map((factor) => factorWords[factor])
    .filter(Boolean)
    .join(", ");

/** "12 looks, 2 boards", what there is most of first. */
export function ownsOf(one: Account): string {
  const noun = (name: string, count: number) => {
    const known = name === "lut" ? "LUT" : name;
    return `${String(count)} ${known}${count === 1 ? "" : "s"}`;
  };
  return Object.entries(one.owns)
    .sort(([, a], [, b]) => b - a)
    .map(([name, count]) => noun(name, count))
    .join(", ");
}
