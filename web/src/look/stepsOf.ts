/** An entry of the Shelf as steps that a look can take: a LUT as one, a preset as its own, a look as a group. */
import type { QueryClient } from "@tanstack/react-query";
import { look as lookQuery } from "../api/looks";
import { lut as lutQuery } from "../api/luts";
import { preset as presetQuery } from "../api/presets";
import type { Kind, Look, Lut, Step } from "../api/types";
import { asMember } from "./family";
import { named } from "./named";

export const stepOfLut = (lut: Pick<Lut, "name" | "expects" | "gives" | "files">): Step => ({
  kind: "lut",
  sha256: lut.files[0]?.sha256 ?? "",
  title: lut.name.slice(0, 120),
  expects: lut.expects,
  gives: lut.gives,
});

/** A look between its own encodings, brought there from `at` and back: what it does stays what it did. */
export function groupOfLook(look: Look, at: string): Extract<Step, { kind: "group" }> {
  const input = look.input ?? "srgb";
  const output = look.output ?? "srgb";
  const into: readonly Step[] = input === at ? [] : [{ kind: "convert", to: input, rendering: "soft" }];
  const back: readonly Step[] = output === at ? [] : [{ kind: "convert", to: at, rendering: "soft" }];
  return {
    kind: "group",
    name: (look.name ?? "").slice(0, 80),
    strength: look.strength ?? 1,
    steps: [...into, ...(look.steps ?? []), ...back],
  };
}

/** at: the encoding that they are put into; member: which of a look's family. Fetched where they are not at hand. */
export async function stepsOf(
  client: QueryClient,
  kind: Kind,
  id: number,
  at: string,
  member = "",
): Promise<readonly Step[]> {
  if (kind === "lut") return [stepOfLut(await client.query(lutQuery(id)))];
  if (kind === "preset") return (await client.query(presetQuery(id))).steps;
  const { draft } = await client.query(lookQuery(id));
  return [groupOfLook({ ...asMember(draft, member), name: named(draft.name ?? "", member) }, at)];
}
