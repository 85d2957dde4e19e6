import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import styled from "styled-components";
import { Problem, wordsFor } from "../../api/client";
import { categories as categoriesQuery, useChangeEntry } from "../../api/shelf";
import { presets as presetsQuery, useKeepPreset, useSavePresetVersion } from "../../api/presets";
import type { Preset, Step } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { Sheet, SheetBody, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { titleOf } from "../../look/titles";

const Words = styled.p`
  color: ${(p) => p.theme.tokens.soft};
`;

type Props = {
  readonly onClose: () => void;
  /** The preset that the look was opened to edit. */
  readonly edited?: number | null;
} & (
  { readonly steps: readonly Step[]; readonly preset?: never } | { readonly preset: Preset; readonly steps?: never }
);

interface Fields {
  readonly name: string;
  readonly category: string;
  readonly note: string;
}

const isConflict = (error: unknown): error is Problem => error instanceof Problem && error.status === 409;

/** Keeping a run of steps under a name, or saying something else of one that is kept. */
export function PresetSheet({ steps, preset, onClose, edited = null }: Props) {
  const { data: categories = [] } = useQuery(categoriesQuery);
  const keep = useKeepPreset();
  const change = useChangeEntry();
  const list = useId();
  const [name, setName] = useState(preset?.name ?? (steps?.length === 1 && steps[0] ? (steps[0].name ?? "") : ""));
  const [category, setCategory] = useState(preset?.category ?? "");
  const [note, setNote] = useState(preset?.note ?? "");
  // As the fields stood when the sheet was opened, or as somebody else has left them by now.
  const [seen, setSeen] = useState<Fields>({ name, category, note });
  const next = useSavePresetVersion();
  const { data: presets = [] } = useQuery({ ...presetsQuery, enabled: steps !== undefined });
  const own = presets.filter((one) => one.may_change);
  const [as, setAs] = useState(edited ? String(edited) : "");
  const becomes = own.find((one) => String(one.id) === as);
  const problem = keep.error ?? change.error ?? next.error;

  async function save() {
    const fields: Fields = { name, category, note };
    if (becomes && steps) await next.mutateAsync({ id: becomes.id, steps, note });
    else if (!preset) await keep.mutateAsync({ ...fields, steps });
    else {
      const changed = Object.entries(fields).filter(([field, text]) => text !== seen[field as keyof Fields]);
      const before = changed.map(([field]) => [field, seen[field as keyof Fields]] as const);
      await change
        .mutateAsync({
          kind: "preset",
          id: preset.id,
          ...Object.fromEntries(changed),
          seen: Object.fromEntries(before),
        })
        .catch((error: unknown) => {
          if (isConflict(error)) setSeen({ ...seen, [String(error.detail.field)]: String(error.detail.now) });
          throw error;
        });
    }
    onClose();
  }

  return (
    <Sheet title={preset ? "Change the preset" : "Keep as a preset"} isOpen onClose={onClose} width="440px">
      <SheetBody>
        {steps && <Words>{steps.map(titleOf).join(", ")}: with strength and settings as they are now.</Words>}
        {steps && own.length > 0 && (
          <Picker
            label="As"
            value={becomes ? as : ""}
            options={[
              { id: "", name: "A new preset" },
              ...own.map((one) => ({ id: String(one.id), name: `The next version of ${one.name}` })),
            ]}
            onChange={setAs}
          />
        )}
        {!becomes && <TextBox label="Name" value={name} onChange={setName} maxLength={120} autoFocus />}
        {!becomes && (
          <TextBox
            label="Category"
            value={category}
            onChange={setCategory}
            maxLength={200}
            placeholder="Interiors, night, skin…"
            list={list}
          />
        )}
        <datalist id={list}>
          {categories.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
        <TextBox
          label="Note"
          value={note}
          onChange={setNote}
          maxLength={2000}
          placeholder={becomes ? "What is other than before" : "What it is for"}
        />
        {problem && (
          <Notice>
            {wordsFor(problem)}
            {isConflict(problem) &&
              ` It now says “${String(problem.detail.now)}”. Change again to put yours in its place.`}
          </Notice>
        )}
      </SheetBody>
      <SheetFoot>
        <Secondary onPress={onClose}>Cancel</Secondary>
        <Primary
          isDisabled={!becomes && !name.trim()}
          isPending={keep.isPending || change.isPending || next.isPending}
          onPress={() => void save().catch(() => undefined)}
        >
          {preset ? "Change" : "Keep"}
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
