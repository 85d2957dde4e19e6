import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { Problem, wordsFor } from "../../api/client";
import { categories as categoriesQuery, useChangeEntry } from "../../api/shelf";
import type { Described } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { TextInput } from "../../kit/TextBox";
import { Block, Facts } from "./layout";
import { Tags } from "./Tags";
import { TextFact, type TextFactProps } from "./TextFact";

const Choices = styled.span`
  display: flex;
  gap: 16px;
  margin-top: 4px;
`;
const Day = styled.label`
  display: grid;
  gap: 3px;
  > span {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
`;
type Field = "name" | "category" | "note" | "author" | "source" | "licence" | "may_pass_on";

const passOn = [
  { id: "unknown", name: "Not known" },
  { id: "yes", name: "Yes" },
  { id: "no", name: "No" },
];

/** The words about an entry of any kind: where it belongs, notes, and who may use it. */
export function EntryWords({ entry }: { entry: Described }) {
  const { data: categories = [] } = useQuery(categoriesQuery);
  const pass = useSaving(entry, "may_pass_on");
  if (!entry.may_change) return <WordsToRead entry={entry} />;
  return (
    <Block aria-label="About it">
      <h2>About it</h2>
      {entry.kind !== "look" && <Words entry={entry} field="name" label="Name" max={120} required />}
      <Words
        entry={entry}
        field="category"
        label="Category"
        max={200}
        placeholder="None, or a path: Film/Night"
        list={categories}
      />
      <Tags entry={entry} />
      <Words entry={entry} field="note" label="Note" max={2000} placeholder="None" />
      <Words entry={entry} field="author" label="Author" max={120} />
      <Words entry={entry} field="source" label="Source" max={300} placeholder="Where it came from" />
      <Words entry={entry} field="licence" label="Licence" max={200} />
      <Picker
        label="May it be passed on?"
        value={entry.may_pass_on}
        options={passOn}
        onChange={(id) => pass.onSave(id, entry.may_pass_on)}
      />
      {pass.unsaved?.why}
      <Until entry={entry} />
    </Block>
  );
}

/** Saving one field, by itself: what cannot be saved in one is not lost by writing in another. */
function useSaving(entry: Described, field: Field): Pick<TextFactProps, "value" | "unsaved" | "onSave"> {
  const change = useChangeEntry();
  const variables = change.isError ? change.variables : undefined;
  return {
    value: entry[field],
    unsaved: variables
      ? { text: variables[field] ?? "", seen: variables.seen?.[field] ?? "", why: <Why change={change} /> }
      : undefined,
    onSave: (value, seen) => change.mutate({ kind: entry.kind, id: entry.id, [field]: value, seen: { [field]: seen } }),
  };
}

type WordsProps = Omit<TextFactProps, "value" | "unsaved" | "onSave"> & {
  readonly entry: Described;
  readonly field: Field;
};

function Words({ entry, field, ...words }: WordsProps) {
  return <TextFact {...words} {...useSaving(entry, field)} />;
}

/** Why it was not saved; where somebody else has written there meanwhile, the two texts to choose from. */
function Why({ change }: { change: ReturnType<typeof useChangeEntry> }) {
  const { error, variables } = change;
  const client = useQueryClient();
  if (!(error instanceof Problem) || error.status !== 409 || !variables) return <Notice>{wordsFor(error)}</Notice>;
  const [field, now] = [String(error.detail.field), String(error.detail.now)];
  return (
    <Notice>
      {error.message} {now === "" ? "It is empty now." : `It now says “${now}”.`}
      <Choices>
        <WordButton onPress={() => change.mutate({ ...variables, seen: { [field]: now } })}>Keep mine</WordButton>
        <WordButton
          onPress={() => {
            change.reset();
            void client.invalidateQueries();
          }}
        >
          Take theirs
        </WordButton>
      </Choices>
    </Notice>
  );
}

/** The last day on which it may be passed on; none for always. */
function Until({ entry }: { entry: Described }) {
  const change = useChangeEntry();
  const kept = entry.pass_on_until ?? "";
  const [text, setText] = useState<string | null>(null);
  function save() {
    if (text === null || text === kept) return;
    change.mutate(
      { kind: entry.kind, id: entry.id, pass_on_until: text || null, seen: { pass_on_until: kept } },
      { onSuccess: () => setText(null) },
    );
  }
  return (
    <Day>
      <span>Until, if it ends</span>
      <TextInput type="date" value={text ?? kept} onChange={(event) => setText(event.target.value)} onBlur={save} />
      {change.error && <Notice>{wordsFor(change.error)}</Notice>}
    </Day>
  );
}

function WordsToRead({ entry }: { entry: Described }) {
  const words = [
    ["Category", entry.category],
    ["Note", entry.note],
    ["Author", entry.author],
    ["Source", entry.source],
    ["Licence", entry.licence],
    ["Until", entry.pass_on_until ?? ""],
    ["To pass on", passOn.find((one) => one.id === entry.may_pass_on)?.name ?? ""],
  ] as const;
  return (
    <Block aria-label="About it">
      <h2>About it</h2>
      <Facts>
        {words
          .filter(([, text]) => text !== "")
          .map(([label, text]) => [<dt key={label}>{label}</dt>, <dd key={`${label} is`}>{text}</dd>])}
      </Facts>
      <Tags entry={entry} />
    </Block>
  );
}
