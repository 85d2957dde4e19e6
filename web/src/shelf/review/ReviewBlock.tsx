import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { reviews as reviewsQuery, useMove } from "../../api/review";
import type { Described, EntryState } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { Block, Small } from "../entry/layout";
import { stateNames } from "../words";
import { withoutMarks } from "../../kit/PlainList";

const Buttons = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
`;
const Steps = styled.ol`
  ${withoutMarks}
  display: grid;
  gap: 8px;
  li {
    display: grid;
    gap: 1px;
    overflow-wrap: anywhere;
  }
`;
const verbs: Readonly<Record<EntryState, string>> = {
  proposed: "Propose it",
  draft: "Withdraw it",
  published: "Publish it",
  "sent back": "Send it back",
  retired: "Retire it",
};
const day = (at: string) => at.slice(0, 10);

/** Where the latest version stands, how it came there, and where this person may move it. */
export function ReviewBlock({ entry }: { entry: Described }) {
  const { data, error } = useQuery(reviewsQuery(entry.kind, entry.id));
  const move = useMove(entry.kind, entry.id);
  const [words, setWords] = useState("");
  const latest = data?.versions[0];
  const trouble = error ?? move.error;
  return (
    <Block aria-label="Review">
      <h2>Review</h2>
      {data && !latest && <Small>There is no version yet. Save one on the Bench to propose it.</Small>}
      {latest && (
        <p>
          Version {latest.number}: {stateNames[latest.state].toLowerCase()}
        </p>
      )}
      {latest && latest.next.length > 0 && (
        <>
          <TextBox
            label="A word with it"
            value={words}
            onChange={setWords}
            maxLength={2000}
            placeholder={latest.next.includes("sent back") ? "Needed to send it back" : "If you like"}
          />
          <Buttons>
            {latest.next.map((to) => {
              const send = () => move.mutate({ number: latest.number, to, words }, { onSuccess: () => setWords("") });
              const Kind =
                to === "published" || (to === "proposed" && latest.state !== "proposed") ? Primary : Secondary;
              return (
                <Kind key={to} isPending={move.isPending} onPress={send}>
                  {verbs[to]}
                </Kind>
              );
            })}
          </Buttons>
        </>
      )}
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
      {data && data.reviews.length > 0 && (
        <Steps aria-label="What happened">
          {data.reviews.slice(0, 8).map((one, index) => (
            <li key={index}>
              <span>
                Version {one.number} {stateNames[one.became].toLowerCase()}
                {one.words && `: ${one.words}`}
              </span>
              <Small>
                <bdi>{one.by}</bdi>, {day(one.at)}
              </Small>
            </li>
          ))}
        </Steps>
      )}
    </Block>
  );
}
