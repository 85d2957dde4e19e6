import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { activity as activityQuery, exportOf, type WantedActivity } from "../../api/team";
import type { ActivityLine } from "../../api/types";
import { Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { PlainTable } from "../../kit/PlainTable";
import { TextBox } from "../../kit/TextBox";
import { Room, RoomHead, Rooms } from "../Rooms";

const Filters = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 10px;
  margin-bottom: 12px;
  > div:first-child {
    width: 240px;
  }
  > div {
    width: 130px;
  }
  a {
    margin-left: auto;
    color: ${(p) => p.theme.tokens.accent};
    font-weight: 500;
  }
`;
const Table = styled(PlainTable)`
  table-layout: fixed;
  col:nth-child(1) {
    width: 124px;
  }
  col:nth-child(2),
  col:nth-child(3) {
    width: 13%;
  }
  col:nth-child(4) {
    width: 24%;
  }
  col:nth-child(5) {
    width: 14%;
  }
  td {
    padding-block: 6px;
    vertical-align: top;
  }
  td:first-child {
    white-space: nowrap;
    font-family: ${(p) => p.theme.tokens.numbers};
  }
  td:last-child {
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const More = styled.div`
  display: grid;
  justify-items: center;
  padding: 14px;
  color: ${(p) => p.theme.tokens.soft};
`;
const COLUMNS = ["When", "Who", "Did", "To what", "From", "More"] as const;
const ANY = "anything";

const moment = (at: string) => `${at.slice(0, 10)} ${new Date(at).toTimeString().slice(0, 5)}`;
/** What is for taking a change back, and what stands in a column of its own; the table (CSV) has all of it. */
const NOT_TOLD = ["address", "before", "after", "ids", "hash"];
const saidOf = (data: ActivityLine["data"]) =>
  Object.entries(data)
    .filter(
      ([name, value]) =>
        value !== null && (!NOT_TOLD.includes(name) || (name === "before" && typeof value === "string")),
    )
    .map(([name, value]) => `${name}: ${typeof value === "string" ? value : JSON.stringify(value)}`)
    .join(", ");
const fromOf = (one: ActivityLine) => {
  const address = one.address ?? (typeof one.data.address === "string" ? one.data.address : "");
  return [address, one.token && `by the token ${one.token}`].filter(Boolean).join(", ");
};

/** Who did what to what, when and from where. */
export function ActivityPage() {
  const [asked, setAsked] = useSearchParams();
  const wanted: WantedActivity = Object.fromEntries(
    ["words", "action", "since", "until"].flatMap((name) => {
      const value = asked.get(name);
      return value ? [[name, value]] : [];
    }),
  );
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery(activityQuery(wanted));
  const lines = data?.pages.flatMap((page) => page.lines) ?? [];
  const actions = data?.pages[0]?.actions ?? [];
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(asked);
    if (value) next.set(name, value);
    else next.delete(name);
    setAsked(next, { replace: true });
  };
  return (
    <Rooms>
      <Room>
        <RoomHead>
          <h1>Activity</h1>
        </RoomHead>
        <Filters>
          <Words value={wanted.words ?? ""} onChange={(words) => set("words", words)} />
          <Picker
            label="What was done"
            value={wanted.action ?? ANY}
            options={[{ id: ANY, name: "Anything" }, ...actions.map((one) => ({ id: one, name: one }))]}
            onChange={(one) => set("action", one === ANY ? "" : one)}
          />
          <Day label="From" value={wanted.since ?? ""} onChange={(day) => set("since", day)} />
          <Day label="To" value={wanted.until ?? ""} onChange={(day) => set("until", day)} />
          <a href={exportOf(wanted)} download>
            As a table (CSV)
          </a>
        </Filters>
        {error && <Notice>{wordsFor(error)}</Notice>}
        {data && lines.length === 0 && <p>Nothing of that was done.</p>}
        {lines.length > 0 && (
          <Table aria-label="Activity">
            <colgroup>
              {COLUMNS.map((one) => (
                <col key={one} />
              ))}
            </colgroup>
            <thead>
              <tr>
                {COLUMNS.map((one) => (
                  <th key={one}>{one}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {lines.map((one) => (
                <tr key={one.id}>
                  <td>{moment(one.at)}</td>
                  <td>{one.who ?? "the server"}</td>
                  <td>{one.action}</td>
                  <td>
                    <bdi>{one.about}</bdi>
                  </td>
                  <td>{fromOf(one)}</td>
                  <td>{saidOf(one.data)}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        )}
        {hasNextPage && (
          <More>
            <Secondary isPending={isFetchingNextPage} onPress={() => void fetchNextPage()}>
              Older ones
            </Secondary>
          </More>
        )}
      </Room>
    </Rooms>
  );
}

/** Asks once nothing was typed for a moment. */
function Words({ value, onChange }: { value: string; onChange: (words: string) => void }) {
  const [typed, setTyped] = useState(value);
  const [timer, setTimer] = useState<number | undefined>(undefined);
  const type = (words: string) => {
    setTyped(words);
    window.clearTimeout(timer);
    setTimer(window.setTimeout(() => onChange(words.trim()), 300));
  };
  return (
    <TextBox
      label="Search"
      value={typed}
      onChange={type}
      placeholder="names, what was done, an address"
      type="search"
    />
  );
}

/** A day as it is written; asked for once it is whole. */
function Day({ label, value, onChange }: { label: string; value: string; onChange: (day: string) => void }) {
  const [typed, setTyped] = useState(value);
  const type = (day: string) => {
    setTyped(day);
    if (day === "" || (/^\d{4}-\d{2}-\d{2}$/.test(day) && !Number.isNaN(Date.parse(day)))) onChange(day);
  };
  return <TextBox label={label} value={typed} onChange={type} placeholder="yyyy-mm-dd" maxLength={10} />;
}
