import { useQuery } from "@tanstack/react-query";
import { wordsFor } from "../../api/client";
import { categories as categoriesQuery, useChangeEntry } from "../../api/shelf";
import type { Described, EntryChange } from "../../api/types";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { Block, Facts } from "./layout";
import { TextFact } from "./TextFact";

const passOn = [
  { id: "unknown", name: "Not known" },
  { id: "yes", name: "Yes" },
  { id: "no", name: "No" },
];

/** The words about an entry of any kind: where it belongs, notes, and who may use it. */
export function EntryWords({ entry }: { entry: Described }) {
  const { data: categories = [] } = useQuery(categoriesQuery);
  const change = useChangeEntry();
  if (!entry.may_change) return <WordsToRead entry={entry} />;
  const save = (given: EntryChange) => {
    change.mutate({ kind: entry.kind, id: entry.id, ...given });
  };
  return (
    <Block aria-label="About it">
      <h2>About it</h2>
      {entry.kind !== "look" && (
        <TextFact label="Name" value={entry.name} max={120} required onSave={(name) => save({ name })} />
      )}
      <TextFact
        label="Category"
        value={entry.category}
        max={200}
        placeholder="None, or a path: Film/Night"
        list={categories}
        onSave={(category) => save({ category })}
      />
      <TextFact label="Note" value={entry.note} max={2000} placeholder="None" onSave={(note) => save({ note })} />
      <TextFact label="Author" value={entry.author} max={120} onSave={(author) => save({ author })} />
      <TextFact
        label="Source"
        value={entry.source}
        max={400}
        placeholder="Where it came from"
        onSave={(source) => save({ source })}
      />
      <TextFact label="Licence" value={entry.licence} max={400} onSave={(licence) => save({ licence })} />
      <Picker
        label="May it be passed on?"
        value={entry.may_pass_on}
        options={passOn}
        onChange={(id) => save({ may_pass_on: id as Described["may_pass_on"] })}
      />
      {change.error && <Notice>{wordsFor(change.error)}</Notice>}
    </Block>
  );
}

function WordsToRead({ entry }: { entry: Described }) {
  const words = [
    ["Category", entry.category],
    ["Note", entry.note],
    ["Author", entry.author],
    ["Source", entry.source],
    ["Licence", entry.licence],
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
    </Block>
  );
}
