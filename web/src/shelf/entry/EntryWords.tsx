import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Problem, wordsFor } from "../../api/client";
import { categories as categoriesQuery, useChangeEntry } from "../../api/shelf";
import type { Described } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { Block, Facts } from "./layout";
import { TextFact } from "./TextFact";

type Field = "name" | "category" | "note" | "author" | "source" | "licence" | "may_pass_on";

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
  const save = (field: Field, value: string, seen: string) => {
    change.mutate({ kind: entry.kind, id: entry.id, [field]: value, seen: { [field]: seen } });
  };
  const saving = (field: Field) => (value: string, seen: string) => save(field, value, seen);
  return (
    <Block aria-label="About it">
      <h2>About it</h2>
      {entry.kind !== "look" && <TextFact label="Name" value={entry.name} max={120} required onSave={saving("name")} />}
      <TextFact
        label="Category"
        value={entry.category}
        max={200}
        placeholder="None, or a path: Film/Night"
        list={categories}
        onSave={saving("category")}
      />
      <TextFact label="Note" value={entry.note} max={2000} placeholder="None" onSave={saving("note")} />
      <TextFact label="Author" value={entry.author} max={120} onSave={saving("author")} />
      <TextFact
        label="Source"
        value={entry.source}
        max={300}
        placeholder="Where it came from"
        onSave={saving("source")}
      />
      <TextFact label="Licence" value={entry.licence} max={200} onSave={saving("licence")} />
      <Picker
        label="May it be passed on?"
        value={entry.may_pass_on}
        options={passOn}
        onChange={(id) => save("may_pass_on", id, entry.may_pass_on)}
      />
      {change.error && <Unsaved change={change} />}
    </Block>
  );
}

/** Why it was not saved; where somebody else has written there meanwhile, the two texts to choose from. */
function Unsaved({ change }: { change: ReturnType<typeof useChangeEntry> }) {
  const { error, variables } = change;
  const client = useQueryClient();
  if (!(error instanceof Problem) || error.status !== 409 || !variables) return <Notice>{wordsFor(error)}</Notice>;
  const [field, now] = [String(error.detail.field), String(error.detail.now)];
  return (
    <Notice>
      {error.message} {now === "" ? "It is empty now." : `It now says “${now}”.`}{" "}
      <WordButton onPress={() => change.mutate({ ...variables, seen: { [field]: now } })}>Keep mine</WordButton>{" "}
      <WordButton
        onPress={() => {
          change.reset();
          void client.invalidateQueries();
        }}
      >
        Take theirs
      </WordButton>
    </Notice>
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
