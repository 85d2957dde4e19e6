import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { activity as activityQuery } from "../../api/order";
import { uses as usesQuery } from "../../api/shelf";
import type { Described } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { WordList } from "../../kit/PlainList";
import { Block, Small } from "./layout";

const FIRST = 5;

/** What uses it, so that nobody takes it away unaware. */
export function Uses({ entry }: { entry: Described }) {
  const { data: uses } = useQuery(usesQuery(entry.kind, entry.id));
  if (!uses) return null;
  return (
    <Block aria-label="Where it is used">
      <h2>Where it is used</h2>
      {uses.length === 0 && <Small>Nothing uses it.</Small>}
      <WordList>
        {uses.map((one) => (
          <li key={one.page + one.how}>
            <Link to={one.page}>{one.name}</Link>
            <Small>It is {one.how}</Small>
          </li>
        ))}
      </WordList>
    </Block>
  );
}

type Told = { readonly action: string; readonly data: Readonly<Record<string, unknown>> };

/** What a line of the activity tells beside the act itself. */
function moreOf({ action, data }: Told): string {
  const text = (name: string) => (typeof data[name] === "string" ? data[name] : "");
  if (action === "download") return text("file");
  if (action.startsWith("change ")) return Object.keys(data).join(", ").replaceAll("_", " ");
  if (action === "tag entry") return [...((data.added as string[] | undefined) ?? [])].join(", ");
  return text("words") || text("name");
}

/** Who did what to it. */
export function ActivityList({ entry }: { entry: Described }) {
  const { data: told = [] } = useQuery(activityQuery(entry.kind, entry.id));
  const [all, setAll] = useState(false);
  if (told.length === 0) return null;
  return (
    <Block aria-label="Activity">
      <h2>Activity</h2>
      <WordList>
        {told.slice(0, all ? told.length : FIRST).map((one, index) => (
          <li key={index}>
            <span>
              {one.by || "Saucer"}: {one.action}
              {moreOf(one) && `, ${moreOf(one)}`}
            </span>
            <Small>
              {one.at.slice(0, 10)} {one.at.slice(11, 16)}
            </Small>
          </li>
        ))}
      </WordList>
      {told.length > FIRST && !all && <WordButton onPress={() => setAll(true)}>All {told.length}</WordButton>}
    </Block>
  );
}
