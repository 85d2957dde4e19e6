import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { chosenEntries } from "../../api/boards";
import { wordsFor } from "../../api/client";
import { duplicates as duplicatesQuery, useKeepApart, useMerge } from "../../api/order";
import type { Alike, Entry, Picture } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Notice } from "../../kit/Notice";
import { usePictureChoice } from "../../media/usePictureChoice";
import { Preview } from "../wall/Card";
import { stateNames } from "../words";
import { Head, Page } from "./page";
import { withoutMarks } from "../../kit/PlainList";

const Group = styled.section`
  display: grid;
  gap: 10px;
  padding: 14px 0 18px;
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  > header {
    display: flex;
    align-items: center;
    gap: 12px;
  }
  > header > span {
    margin-right: auto;
  }
  ul {
    ${withoutMarks}
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(210px, 260px));
    gap: 16px;
  }
`;
const One = styled.li`
  display: grid;
  gap: 2px;
  align-content: start;
  label {
    display: flex;
    align-items: center;
    gap: 8px;
    padding-top: 6px;
    cursor: pointer;
  }
  input {
    accent-color: ${(p) => p.theme.tokens.accent};
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
    overflow-wrap: anywhere;
  }
`;
const spans = [
  ["0.05", "The same"],
  ["0.5", "Nearly the same"],
  ["1.5", "Much alike"],
] as const;

/** The one that is kept unless another is chosen: further along, used more, older. */
function best(entries: readonly Entry[]): number | null {
  const rank = (entry: Entry) =>
    (entry.state === "published" ? 100 : entry.state === "retired" ? -50 : 0) +
    entry.tags.length +
    (entry.favourite ? 5 : 0);
  const sorted = [...entries].sort((a, b) => rank(b) - rank(a) || a.id - b.id);
  return sorted[0]?.id ?? null;
}

function AlikeGroup({
  group,
  entries,
  picture,
}: {
  group: Alike;
  entries: readonly Entry[];
  picture: Picture | undefined;
}) {
  const merge = useMerge();
  const apart = useKeepApart();
  const [chosen, setChosen] = useState<number | null>(null);
  const keep = chosen ?? best(entries);
  const others = entries.filter((one) => one.id !== keep);
  const trouble = merge.error ?? apart.error;
  const label = entries.map((one) => one.name).join(", ");
  if (entries.length < 2) return null;
  return (
    <Group aria-label={label}>
      <header>
        <span>{group.apart < 0.005 ? "No difference" : `CIEDE2000 ${group.apart.toFixed(2)} apart on average`}</span>
        {trouble && <Notice>{wordsFor(trouble)}</Notice>}
        <Secondary isPending={apart.isPending} onPress={() => apart.mutate(entries.map((one) => one.id))}>
          They are meant to be {entries.length === 2 ? "two" : "several"}
        </Secondary>
        <Primary
          isDisabled={others.length === 0 || keep === null}
          isPending={merge.isPending}
          onPress={() => keep !== null && merge.mutate({ keep, others: others.map((one) => one.id) })}
        >
          Keep one, bin {others.length}
        </Primary>
      </header>
      <ul>
        {entries.map((entry) => (
          <One key={entry.id}>
            {picture && <Preview entry={entry} picture={picture} />}
            <label>
              <input
                type="radio"
                name={`keep-${group.entries.join("-")}`}
                checked={entry.id === keep}
                onChange={() => setChosen(entry.id)}
              />
              Keep this one
            </label>
            <Link to={`/shelf/${entry.kind}/${String(entry.id)}`}>{entry.name}</Link>
            <small>
              {entry.detail}, {stateNames[entry.state].toLowerCase()}, by <bdi>{entry.by}</bdi>
            </small>
            <small>{[entry.category, ...entry.tags].filter(Boolean).join(", ")}</small>
          </One>
        ))}
      </ul>
    </Group>
  );
}

/** What does the same as something else, beside it: made one, or said to be meant as two. */
export function DuplicatesPage() {
  const [within, setWithin] = useState<(typeof spans)[number][0]>("0.5");
  const { data: groups, error, isFetching } = useQuery(duplicatesQuery(Number(within)));
  const { data: entries = [] } = useQuery(chosenEntries((groups ?? []).flatMap((one) => one.entries)));
  const { chosen } = usePictureChoice();
  return (
    <Page>
      <Head>
        <h1>Duplicates</h1>
        <Choice label="How near" value={within} options={spans} onChange={setWithin} />
        <Link to="/shelf">To the Shelf</Link>
      </Head>
      <p>
        Found by what they do to known colours, whatever they are called. The one that is kept gets the tags, the
        favourites and the places on boards of the others; looks that use the others go on using them.
      </p>
      {error && <Notice>{wordsFor(error)}</Notice>}
      {!groups && isFetching && <p>Comparing everything with everything…</p>}
      {groups?.length === 0 && <p>Nothing on the Shelf does so nearly the same as something else.</p>}
      {groups?.map((group) => (
        <AlikeGroup
          key={group.entries.join("-")}
          group={group}
          entries={group.entries.flatMap((id) => entries.find((one) => one.id === id) ?? [])}
          picture={chosen}
        />
      ))}
    </Page>
  );
}
