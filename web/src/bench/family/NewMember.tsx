import { useEffect, useRef, useState, type SubmitEvent } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { findBetween, type Between } from "../../api/looks";
import { Latest } from "../../api/latest";
import type { FamilyMember } from "../../api/types";
import { Primary } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { SettingBar } from "../../kit/SettingBar";
import { TextBox } from "../../kit/TextBox";
import { asMember, memberOf, whyNot, withMember } from "../../look/family";
import { useBench, useBenchPart } from "../../look/useBench";

const Form = styled.form`
  display: grid;
  gap: 10px;
  width: 300px;
`;
const Ends = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 10px;
`;

type Begins = "as" | "between";

/** One more of the family: as what is in hand, to be changed from there, or between two that there are. */
export function NewMember({ onDone }: { onDone: () => void }) {
  const { store } = useBench();
  const whole = useBenchPart((state) => state.whole);
  const member = useBenchPart((state) => state.member);
  const names = ["", ...(whole.family ?? []).map((one) => one.name)];
  const [name, setName] = useState("");
  const [begins, setBegins] = useState<Begins>("as");
  const [ends, setEnds] = useState<readonly [string, string]>(["", member || (names[1] ?? "")]);
  const [at, setAt] = useState(0.5);
  const [between, setBetween] = useState<FamilyMember | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const asking = useBetween(setBetween, setProblem);
  const wrong = name ? whyNot(whole, name) : "";
  useEffect(() => () => store.dispatch({ type: "try", look: null }), [store]);

  function show(first: string, second: string, share: number) {
    setEnds([first, second]);
    setAt(share);
    asking.current?.ask({ look: whole, first, second, at: share, name: TRIED });
  }
  function choose(wanted: Begins) {
    setBegins(wanted);
    if (wanted === "between") show(ends[0], ends[1], at);
    else store.dispatch({ type: "try", look: null });
  }
  function add(event: SubmitEvent) {
    event.preventDefault();
    const wanted = name.trim();
    if (whyNot(whole, wanted) || (begins === "between" && !between)) return;
    const made: FamilyMember = {
      ...(begins === "between" && between ? between : (memberOf(whole, member) ?? {})),
      name: wanted,
    };
    store.replace(`${wanted} in the family`, withMember(whole, made), wanted);
    onDone();
  }
  const options = names.map((one) => ({ id: one, name: one || "Recipe" }));

  return (
    <Form onSubmit={add}>
      <TextBox label="Name" value={name} onChange={setName} maxLength={60} placeholder="Night" autoFocus />
      {names.length > 1 && (
        <Choice
          titled
          label="It begins"
          value={begins}
          options={[
            ["as", `As ${member || "the recipe"}`],
            ["between", "Between two"],
          ]}
          onChange={choose}
        />
      )}
      {begins === "between" && (
        <>
          <Ends>
            <Picker label="From" value={ends[0]} options={options} onChange={(first) => show(first, ends[1], at)} />
            <Picker label="To" value={ends[1]} options={options} onChange={(second) => show(ends[0], second, at)} />
          </Ends>
          <SettingBar
            label="How far"
            low={0}
            high={100}
            neutral={0}
            step={1}
            digits={0}
            unit="%"
            value={at * 100}
            onChange={(value) => show(ends[0], ends[1], value / 100)}
            onDone={() => undefined}
          />
        </>
      )}
      {(wrong || problem) && <Notice>{wrong || problem}</Notice>}
      <Primary type="submit" isDisabled={name.trim() === "" || wrong !== ""}>
        Add
      </Primary>
    </Form>
  );
}

const TRIED = "between";

/** What lies between two is asked for while the bar moves, and tried on the pictures as it comes. */
function useBetween(onFound: (member: FamilyMember | null) => void, onProblem: (words: string | null) => void) {
  const { store } = useBench();
  const asking = useRef<Latest<Between, FamilyMember> | null>(null);
  const told = useRef({ onFound, onProblem });
  useEffect(() => {
    told.current = { onFound, onProblem };
  });
  useEffect(() => {
    const latest = new Latest<Between, FamilyMember>(
      findBetween,
      (found, wanted) => {
        told.current.onProblem(null);
        told.current.onFound(found);
        const beside = { ...wanted.look, family: [{ ...found, name: TRIED }] };
        store.dispatch({ type: "try", look: asMember(beside, TRIED) });
      },
      (error) => told.current.onProblem(wordsFor(error)),
    );
    asking.current = latest;
    return () => latest.close();
  }, [store]);
  return asking;
}
