import { useMemo } from "react";
import styled from "styled-components";
import type { Look, Picture } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Flyout } from "../../kit/Flyout";
import { Hint } from "../../kit/Hint";
import { oneLine } from "../../kit/oneLine";
import { Toggle } from "../../kit/Toggle";
import { asMember, countOwn, memberOf } from "../../look/family";
import { useBench, useBenchPart } from "../../look/useBench";
import type { Candidate } from "../add/candidates";
import { TriedDisc } from "../add/TriedDisc";
import { useTries } from "../add/useTries";
import { MemberSheet } from "./MemberSheet";
import { useRested } from "./useRested";

const Root = styled.section`
  padding: 7px 14px 8px 12px;
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
`;
const Each = styled(Choice)`
  button {
    display: inline-flex;
    align-items: center;
    gap: 6px;
    padding: 2px 10px 2px 3px;
    max-width: 216px;
    min-height: 26px;
  }
  span {
    ${oneLine}
  }
` as typeof Choice;
const Own = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 12px;
  padding: 4px 0 0 4px;
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;
const RECIPE = "";

/** The family of the look, where it has one: the recipe and its members, each as the picture through it; one is in hand, seen and changed. */
export function FamilyBar({ picture }: { picture: Picture | undefined }) {
  const { store, mayEdit } = useBench();
  const whole = useBenchPart((state) => state.whole);
  const member = useBenchPart((state) => state.member);
  const together = useBenchPart((state) => state.together);
  const rested = useRested(whole);
  const names = useMemo(() => [RECIPE, ...(whole.family ?? []).map((one) => one.name)], [whole]);
  const listed = names.join("\n");
  const candidates = useMemo(
    () => (listed === RECIPE ? [] : listed.split("\n").map((name) => ({ id: name, name }) as Candidate)),
    [listed],
  );
  const lookOf = useMemo(
    () =>
      (one: Candidate): Look =>
        asMember(rested, one.id),
    [rested],
  );
  const tiles = useTries(candidates, lookOf, picture?.id);
  const found = memberOf(whole, member);
  if (names.length === 1) return null;

  return (
    <Root aria-label="Family of the look">
      <Each
        label="Which of the family"
        value={member}
        options={names.map(
          (name) =>
            [
              name,
              <>
                <TriedDisc tile={tiles.get(name)} size={20} />
                <span title={name}>{name || "Recipe"}</span>
              </>,
            ] as const,
        )}
        onChange={(name) => store.dispatch({ type: "member", member: name })}
      />
      {found && (
        <Own>
          <span>{ownWords(countOwn(found))}</span>
          {mayEdit && (
            <>
              <Flyout label={member} button={<WordButton aria-label={`About ${member}`}>About it…</WordButton>}>
                {(close) => <MemberSheet name={member} onDone={close} />}
              </Flyout>
              <Hint text="What is set now holds in the recipe and in every one of the family">
                <span>
                  <Toggle
                    showLabel
                    label="Set in all"
                    isOn={together}
                    onChange={(on) => store.dispatch({ type: "together", together: on })}
                  />
                </span>
              </Hint>
            </>
          )}
        </Own>
      )}
    </Root>
  );
}

function ownWords(count: number): string {
  return count === 0 ? "As the recipe" : `${String(count)} of its own`;
}
