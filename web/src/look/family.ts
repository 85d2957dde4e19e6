/** The family of a look: the recipe under several named settings. What is worked at is one of them, or the recipe that all follow. */
import type { Look, FamilyMember, Step } from "../api/types";
import { omit } from "../kit/omit";
import { listed } from "./arrange";

const IN_ADDRESS = "member";

/** Which of the family an address names; empty for the recipe. */
export const memberIn = (search: URLSearchParams): string => search.get(IN_ADDRESS) ?? "";

/** An address with one of the family in it; without for the recipe. */
export function withMemberIn(search: URLSearchParams, member: string): URLSearchParams {
  const found = new URLSearchParams(search);
  if (member) found.set(IN_ADDRESS, member);
  else found.delete(IN_ADDRESS);
  return found;
}

/** How many a family holds beside the recipe, as the core has it. */
export const MOST_MEMBERS = 12;
/** Fields of a step that are the same in all of a family, as the core has it. */
export const SHARED: ReadonlySet<string> = new Set([
  "kind",
  "id",
  "name",
  "note",
  "title",
  "per_shot",
  "variant",
  "steps",
  "sha256",
  "file",
  "to",
  "expects",
  "gives",
]);
const DEFAULTS: Readonly<Record<string, unknown>> = { enabled: true, strength: 1 };

type Settings = Record<string, Record<string, unknown>>;
type Fields = Record<string, unknown>;

export const settingsOf = (member: FamilyMember | undefined): Settings => member?.settings ?? {};

export function memberOf(look: Look, name: string): FamilyMember | undefined {
  return (look.family ?? []).find((one) => one.name === name);
}

/** The look as one of its family, as it is seen; the recipe for a name that is not there. */
export function asMember(whole: Look, name: string): Look {
  if (!whole.family?.length) return whole;
  const member = memberOf(whole, name);
  const recipe = omit(whole, "family");
  if (!member) return recipe;
  const own = settingsOf(member);
  const set = (steps: readonly Step[]): Step[] =>
    steps.map((step) => {
      // What has nothing of its own stays the same object: it need not be drawn again.
      const made = own[step.id ?? ""] ? { ...step, ...own[step.id ?? ""] } : step;
      return made.kind === "group" ? { ...made, steps: set(made.steps ?? []) } : made;
    });
  return {
    ...recipe,
    steps: set(whole.steps ?? []),
    ...(member.strength === null || member.strength === undefined ? {} : { strength: member.strength }),
  };
}

export interface Worked {
  /** Which of the family is in hand; empty for the recipe. */
  readonly member: string;
  /** What is set holds in every one of the family. */
  readonly together: boolean;
}

/**
 * The whole look after what is seen of it became another one. Settings go to the member in hand, or, for the recipe and together, to the
 * recipe; everything else (which steps there are, their order and names, the encodings) is the same for all.
 */
export function writtenBack(whole: Look, before: Look, after: Look, { member, together }: Worked): Look {
  if (!whole.family?.length) return omit(after, "family");
  const apart = memberOf(whole, member) && !together ? member : null;
  const olds = byId(before);
  const bases = byId(whole);
  const own: Settings = { ...settingsOf(memberOf(whole, member)) };
  const freed = new Map<string, Set<string>>();
  const stays = new Set<string>();

  const recipe = (steps: readonly Step[]): Step[] =>
    steps.map((step) => {
      const id = step.id ?? "";
      const [old, base] = [olds.get(id), bases.get(id)];
      const inner = step.kind === "group" ? { steps: recipe(step.steps ?? []) } : {};
      if (old?.kind !== step.kind || base?.kind !== step.kind) return { ...step, ...inner };
      stays.add(id);
      if (step === old && step.kind !== "group") return base;
      const made: Fields = { ...step, ...inner };
      for (const field of new Set([...Object.keys(step), ...Object.keys(old), ...Object.keys(base)])) {
        if (SHARED.has(field)) continue;
        const [was, now, common] = [(old as Fields)[field], (step as Fields)[field], (base as Fields)[field]];
        const isSet = !same(was, now);
        if (isSet && apart === null) {
          if (together) freed.set(id, (freed.get(id) ?? new Set()).add(field));
          continue;
        }
        if (isSet) own[id] = ownAfter(own[id], field, now ?? DEFAULTS[field], common ?? DEFAULTS[field]);
        made[field] = common;
      }
      return made as Step;
    });

  const steps = recipe(after.steps ?? []);
  const strengths = strengthAfter(whole, before, after, apart);
  const family = (whole.family ?? []).map((one) => {
    const settings = one.name === apart ? own : settingsOf(one);
    const kept = Object.entries(settings).flatMap(([id, fields]) => {
      const left = Object.entries(fields).filter(([field]) => !freed.get(id)?.has(field));
      return stays.has(id) && left.length > 0 ? [[id, Object.fromEntries(left)] as const] : [];
    });
    return { ...one, ...strengths.of(one), settings: Object.fromEntries(kept) };
  });
  return { ...after, steps, ...strengths.recipe, family };

  function strengthAfter(all: Look, old: Look, now: Look, of: string | null) {
    const isSet = (old.strength ?? 1) !== (now.strength ?? 1);
    const common = all.strength ?? 1;
    const value = now.strength ?? 1;
    return {
      recipe: { strength: isSet && of === null ? value : common },
      of: (one: FamilyMember): { strength: number | null } => {
        if (isSet && one.name === of) return { strength: value === common ? null : value };
        return { strength: isSet && together ? null : (one.strength ?? null) };
      },
    };
  }
}

function byId(look: Look): Map<string, Step> {
  return new Map(listed(look.steps ?? []).map((step) => [step.id ?? "", step]));
}

/** What a member sets of a step once a field is this; a field that is as the recipe has it follows that again. */
function ownAfter(own: Fields = {}, field: string, value: unknown, common: unknown): Fields {
  return value === undefined || same(value, common) ? omit(own, field) : { ...own, [field]: value };
}

function same(one: unknown, other: unknown): boolean {
  return one === other || JSON.stringify(one) === JSON.stringify(other);
}

/** Why a name cannot be given to one of the family; empty where it can. own: the name it has */
export function whyNot(look: Look, name: string, own = ""): string {
  const wanted = name.trim().toLowerCase();
  if (!wanted) return "Give it a name.";
  const taken = (look.family ?? []).some((one) => one.name !== own && one.name.toLowerCase() === wanted);
  return taken ? `There is a "${name.trim()}" already.` : "";
}

export const withMember = (look: Look, member: FamilyMember): Look => ({
  ...look,
  family: [...(look.family ?? []), member],
});

export const withoutMember = (look: Look, name: string): Look => ({
  ...look,
  family: (look.family ?? []).filter((one) => one.name !== name),
});

export const changedMember = (look: Look, name: string, change: (member: FamilyMember) => FamilyMember): Look => ({
  ...look,
  family: (look.family ?? []).map((one) => (one.name === name ? change(one) : one)),
});

/** The look with this member following the recipe in a step again, or, without one, in everything. */
export const following = (look: Look, name: string, id?: string): Look =>
  changedMember(look, name, (member) =>
    id === undefined ? { name } : { ...member, settings: omit(settingsOf(member), id) },
  );

/** How many settings are its own, and the names of those of one step. */
export const ownFields = (member: FamilyMember | undefined, id: string): readonly string[] =>
  Object.keys(settingsOf(member)[id] ?? {});
export const countOwn = (member: FamilyMember | undefined): number =>
  Object.values(settingsOf(member)).reduce((sum, fields) => sum + Object.keys(fields).length, 0) +
  (member?.strength === null || member?.strength === undefined ? 0 : 1);
