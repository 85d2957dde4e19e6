import { useQuery } from "@tanstack/react-query";
import { encodings as encodingsQuery } from "../../api/encodings";
import type { Fidelity } from "../../api/types";
import { Choice } from "../../kit/Choice";
import { Picker } from "../../kit/Picker";
import { useSaving } from "../../look/useBench";
import { ALL, type What } from "./choices";
import { Pair, Section } from "./layout";
import type { BakeChoices } from "./useBakeChoices";
import { EncodingPicker } from "../../media/EncodingPicker";

const whats: readonly (readonly [What, string])[] = [
  ["whole", "Whole look"],
  ["steps", "Some steps"],
  ["one", "One step or group"],
];

/** Which version, and how much of it, is baked; and between which encodings. */
export function WhatSection({ chosen, found }: { chosen: BakeChoices; found: Fidelity | undefined }) {
  const { entry } = useSaving();
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const { choices, set, picked, pick, whole: entire, look, every } = chosen;
  const names = (entire.family ?? []).map((one) => one.name);
  const latest = entry.versions[0];
  const fresh = entry.changed_since_version || !latest;
  const steps = look.steps ?? [];
  const called = (id: string | undefined) => encodings.find((one) => one.id === id)?.name ?? id ?? "";
  const whole = choices.what === "whole" ? "the look" : "the part";
  const numbered = steps.map((step, place) => ({
    id: String(place + 1),
    name: `${place + 1} ${every.find((one) => one.path === `steps[${place}]`)?.name ?? step.kind}`,
  }));
  const versions = entry.versions
    .filter((one) => fresh || one.number !== latest.number)
    .map((one) => ({ id: String(one.number), name: `Version ${one.number}`, ...(one.note ? { note: one.note } : {}) }));
  return (
    <>
      <Section aria-label="What is baked">
        <h3>What is baked</h3>
        {entry.versions.length > 0 && (
          <Picker
            label="Version"
            value={picked === null ? "" : String(picked)}
            onChange={(id) => pick(id === "" ? null : Number(id))}
            options={[
              {
                id: "",
                name: fresh
                  ? `The draft, saved as version ${(latest?.number ?? 0) + 1}`
                  : `Version ${latest.number}, the latest`,
              },
              ...versions,
            ]}
          />
        )}
        {names.length > 0 && (
          <Picker
            label="Which of the family"
            value={choices.member}
            onChange={(member) => set({ member })}
            options={[
              { id: "", name: "Recipe" },
              ...names.map((name) => ({ id: name, name })),
              { id: ALL, name: `All ${String(names.length + 1)}, each as a LUT` },
            ]}
          />
        )}
        <Choice
          label="What is baked"
          value={choices.what}
          options={whats}
          onChange={(what) => set({ what, path: choices.path || (every[0]?.path ?? "") })}
        />
        {choices.what === "steps" && (
          <Pair>
            <Picker
              label="From step"
              value={String(choices.first)}
              options={numbered}
              onChange={(id) => set({ first: Number(id), last: Math.max(Number(id), choices.last) })}
            />
            <Picker
              label="To step"
              value={String(choices.last)}
              options={numbered}
              onChange={(id) => set({ last: Number(id), first: Math.min(Number(id), choices.first) })}
            />
          </Pair>
        )}
        {choices.what === "one" && (
          <Picker
            label="Step or group"
            value={choices.path}
            options={every.map((one) => ({ id: one.path, name: `${"  ".repeat(one.depth)}${one.name}` }))}
            onChange={(path) => set({ path })}
          />
        )}
      </Section>
      <Section aria-label="What it is for">
        <h3>What it is for</h3>
        <Pair>
          <EncodingPicker
            label="It expects"
            value={choices.expects}
            first={[
              { id: "", name: `As ${whole}: ${called(choices.expects ? undefined : (found?.expects ?? look.input))}` },
            ]}
            onChange={(expects) => set({ expects })}
          />
          <EncodingPicker
            label="It gives"
            value={choices.gives}
            first={[
              { id: "", name: `As ${whole}: ${called(choices.gives ? undefined : (found?.gives ?? look.output))}` },
            ]}
            onChange={(gives) => set({ gives })}
          />
        </Pair>
      </Section>
    </>
  );
}
