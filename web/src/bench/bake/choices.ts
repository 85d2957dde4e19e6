/** What is chosen for a bake, and what of it is remembered for the next one. */
import type { BakeChoice, FormatChoice, Look, PartChoice, Step } from "../../api/types";
import { recall, remember } from "../../browser/kept";
import { titleOf } from "../../look/titles";

export type What = "whole" | "steps" | "one";

export interface Choices {
  /** Which of the family: the recipe where it is empty; `ALL`: the recipe and each of them, as a LUT of its own. */
  readonly member: string;
  readonly what: What;
  readonly first: number;
  readonly last: number;
  readonly path: string;
  readonly expects: string;
  readonly gives: string;
  readonly formats: readonly Required<FormatChoice>[];
  readonly size: number;
  /** Linear input: the brightest light that is not held, and from where on nodes are even in stops. */
  readonly lightTop: number;
  readonly lightToe: number;
  readonly tolerance: number;
  /** Null: the look's own name. */
  readonly title: string | null;
  readonly author: string;
  readonly rights: string;
  readonly note: string;
  /** Also as an entry of its own on the Shelf, beside the look's card. */
  readonly ownEntry: boolean;
}

/** No name: a name has no blanks at its ends. */
export const ALL = " all ";
export const SIZES = [17, 25, 33, 49, 65] as const;
const KEPT = "bake";
const start: Choices = {
  member: "",
  what: "whole",
  first: 1,
  last: 1,
  path: "",
  expects: "",
  gives: "",
  formats: [{ format: "cube", depth: 0, suffix: "" }],
  size: 33,
  lightTop: 16,
  lightToe: 0.01,
  tolerance: 0.5,
  title: null,
  author: "",
  rights: "",
  note: "",
  ownEntry: false,
};
const kept = ["expects", "gives", "formats", "size", "lightTop", "lightToe", "tolerance", "author", "rights"] as const;

/** The last choices of this person on this machine; what a look is called, and which part of it, is asked anew. */
export function recallChoices(stepCount: number): Choices {
  const found = (recall(KEPT) ?? {}) as Partial<Choices>;
  const usable = Object.fromEntries(
    kept.filter((name) => typeof found[name] === typeof start[name]).map((name) => [name, found[name]]),
  );
  const made = { ...start, ...usable, last: Math.max(1, stepCount) } as Choices;
  const formats =
    Array.isArray(made.formats) &&
    (made.formats as readonly Partial<FormatChoice>[]).every((one) => typeof one.format === "string");
  return formats && made.formats.length > 0 ? made : { ...made, formats: start.formats };
}

export const keepChoices = (choices: Choices) =>
  remember(KEPT, Object.fromEntries(kept.map((name) => [name, choices[name]])));

function partOf(choices: Choices): PartChoice {
  if (choices.what === "steps") return { first: choices.first, last: choices.last, path: "" };
  return { first: null, last: null, path: choices.what === "one" ? choices.path : "" };
}

/** Which are baked, one after the other. */
export const membersOf = (choices: Choices, look: Look): readonly string[] =>
  choices.member === ALL ? ["", ...(look.family ?? []).map((one) => one.name)] : [choices.member];

/** What is measured and shown beside the exact one: of all of the family, the recipe. */
export const memberShown = (choices: Choices): string => (choices.member === ALL ? "" : choices.member);

const titled = (title: string, member: string): string => (member ? `${title}, ${member}` : title);

/** What a LUT is called where nothing else is wanted. */
export const nameOf = (look: Look, choices: Choices): string => titled(look.name ?? "", memberShown(choices));

/** As the server takes it. member: one of `membersOf` */
export function bakeChoice(choices: Choices, look: Look, member = memberShown(choices)): BakeChoice {
  const { formats, size, lightTop, lightToe, expects, gives, author, rights, note, title, ownEntry } = choices;
  return {
    formats: [...formats],
    size,
    light_top: lightTop,
    light_toe: lightToe,
    expects,
    gives,
    author,
    rights,
    note,
    member,
    title: title === null || choices.member === ALL ? titled(title ?? look.name ?? "", member).slice(0, 120) : title,
    own_entry: ownEntry,
    part: partOf(choices),
  };
}

/** The same without the words, which change no colour: what fidelity is asked for, of a look that is the one of the family already. */
export function measuredChoice(choices: Choices): BakeChoice {
  return {
    ...bakeChoice(choices, {}, ""),
    formats: [{ format: "cube", depth: 0, suffix: "" }],
    author: "",
    rights: "",
    note: "",
    title: "",
    own_entry: false,
    size: 33,
  };
}

/** Every step and group with its path, groups before what they hold. */
export function paths(
  steps: readonly Step[],
  inside = "steps",
): { readonly path: string; readonly name: string; readonly depth: number }[] {
  return steps.flatMap((step, index) => {
    const path = `${inside}[${index}]`;
    const own = { path, name: titleOf(step), depth: path.split(".").length - 1 };
    return step.kind === "group"
      ? [own, ...paths((step as { steps?: readonly Step[] }).steps ?? [], `${path}.steps`)]
      : [own];
  });
}

export function toggled(formats: Choices["formats"], id: string, on: boolean): Choices["formats"] {
  if (on) return [...formats, { format: id, depth: 0, suffix: "" }];
  return formats.length > 1 ? formats.filter((one) => one.format !== id) : formats;
}
