/** What is chosen on the Bake sheet, and of which look. */
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { versionLook } from "../../api/looks";
import type { Look } from "../../api/types";
import { useBenchPart, useSaving } from "../../look/useBench";
import { asMember, memberOf } from "../../look/family";
import { memberShown, paths, recallChoices, type Choices } from "./choices";

export interface BakeChoices {
  readonly choices: Choices;
  readonly set: (change: Partial<Choices>) => void;
  /** The version to bake; null: the draft, or the latest version where nothing changed since. */
  readonly picked: number | null;
  readonly pick: (version: number | null) => void;
  /** With all of its family. */
  readonly whole: Look;
  /** The one of it that is measured. */
  readonly look: Look;
  /** Every step and group of it. */
  readonly every: ReturnType<typeof paths>;
  /** Is the look here, and does it have what is chosen of it? */
  readonly usable: boolean;
}

export function useBakeChoices(): BakeChoices {
  const { entry } = useSaving();
  const draft = useBenchPart((state) => state.whole);
  const inHand = useBenchPart((state) => state.member);
  const [picked, pick] = useState<number | null>(null);
  const { data: past } = useQuery(versionLook(entry.id, picked));
  const whole = picked === null ? draft : (past ?? draft);
  const steps = whole.steps ?? [];
  const [choices, setChoices] = useState<Choices>(() => ({ ...recallChoices(steps.length), member: inHand }));
  const shown = memberShown(choices);
  const look = useMemo(() => asMember(whole, shown), [whole, shown]);
  const every = paths(steps);
  const part =
    choices.what === "one"
      ? every.some((one) => one.path === choices.path)
      : choices.what !== "steps" || choices.last <= steps.length;
  return {
    choices,
    set: (change) => setChoices((last) => ({ ...last, ...change })),
    picked,
    pick,
    whole,
    look,
    every,
    usable: part && (shown === "" || memberOf(whole, shown) !== undefined) && (picked === null || past !== undefined),
  };
}
