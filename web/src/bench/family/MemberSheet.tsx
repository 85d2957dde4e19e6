import { useQuery } from "@tanstack/react-query";
import { useState, type SubmitEvent } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { familyTold } from "../../api/looks";
import { Secondary, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { withoutMarks } from "../../kit/PlainList";
import { TextBox } from "../../kit/TextBox";
import { changedMember, countOwn, following, memberOf, whyNot, withoutMember } from "../../look/family";
import { useBench, useBenchPart } from "../../look/useBench";

const Form = styled.form`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  align-items: end;
  width: 300px;
`;
const Lines = styled.ul`
  ${withoutMarks}
  max-height: 200px;
  overflow-y: auto;
  li {
    padding: 2px 0;
    overflow-wrap: anywhere;
  }
`;
const Tools = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
`;

/** One of the family: in what it differs, what it is called, and its leaving. */
export function MemberSheet({ name, onDone }: { name: string; onDone: () => void }) {
  const { store } = useBench();
  const whole = useBenchPart((state) => state.whole);
  const [wanted, setWanted] = useState(name);
  const { data: told, error } = useQuery(familyTold(whole));
  const wrong = whyNot(whole, wanted, name);
  const changes = told?.find((one) => one.name === name)?.changes;

  function rename(event: SubmitEvent) {
    event.preventDefault();
    const next = wanted.trim();
    if (wrong || next === name) return;
    store.replace(
      `Rename ${name}`,
      changedMember(whole, name, (one) => ({ ...one, name: next })),
      next,
    );
    onDone();
  }

  return (
    <>
      <Form onSubmit={rename}>
        <TextBox label="Name" value={wanted} onChange={setWanted} maxLength={60} selects />
        <Secondary type="submit" isDisabled={wrong !== "" || wanted.trim() === name}>
          Rename
        </Secondary>
      </Form>
      {wrong && <Notice>{wrong}</Notice>}
      {error && <Notice>{wordsFor(error)}</Notice>}
      {changes && (
        <Lines aria-label="Beside the recipe">
          {changes.length === 0 ? <li>It is as the recipe.</li> : changes.map((line) => <li key={line}>{line}</li>)}
        </Lines>
      )}
      <Tools>
        {countOwn(memberOf(whole, name)) > 0 && (
          <WordButton
            onPress={() => {
              store.replace(`${name} as the recipe`, following(whole, name));
              onDone();
            }}
          >
            Follow the recipe again
          </WordButton>
        )}
        <WordButton
          onPress={() => {
            store.replace(`${name} out of the family`, withoutMember(whole, name));
            onDone();
          }}
        >
          Take it out
        </WordButton>
      </Tools>
    </>
  );
}
