import { useQuery } from "@tanstack/react-query";
import { useCallback } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { encodings as encodingsQuery } from "../../api/encodings";
import type { Look, Picture } from "../../api/types";
import { Choice } from "../../kit/Choice";
import { oneLine } from "../../kit/oneLine";
import { useSpatial } from "../../look/steps/useKinds";
import { useBench, useBenchPart } from "../../look/useBench";
import type { Candidate } from "../add/candidates";
import { TriedDisc } from "../add/TriedDisc";
import { useTries } from "../add/useTries";
import { begunFor, begunWith, recipes, sourceNotes, sourceOf, sources } from "./beginnings";

const Root = styled.li`
  padding: 10px 14px 14px 20px;
  display: grid;
  gap: 10px;
  color: ${(p) => p.theme.tokens.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
  h3 {
    font-size: ${(p) => p.theme.tokens.size.small};
    font-weight: 600;
    color: ${(p) => p.theme.tokens.ink};
    margin: 4px 0 0;
  }
`;
const Ways = styled.div`
  display: grid;
  gap: 2px;
  margin-left: -6px;
`;
const Way = styled(Button)`
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr);
  gap: 10px;
  align-items: center;
  border: 0;
  background: none;
  padding: 4px 6px;
  border-radius: ${(p) => p.theme.tokens.radius.field};
  text-align: left;
  color: inherit;
  cursor: pointer;
  b,
  small {
    display: block;
    ${oneLine}
  }
  b {
    font-weight: 500;
    color: ${(p) => p.theme.tokens.ink};
  }
  small {
    font-size: inherit;
  }
  &[data-hovered],
  &[data-focus-visible] {
    background: ${(p) => p.theme.tokens.hush};
  }
`;
const CANDIDATES: readonly Candidate[] = recipes.map((one) => ({
  id: one.name,
  section: "Steps",
  name: one.name,
  note: one.note,
  steps: one.steps,
}));

/** What a look without steps asks: where its pictures come from, and with which recipe to begin, each on the picture in view. */
export function Beginning({
  picture,
  neutral,
}: {
  picture: Picture | undefined;
  /** Steps that change nothing, by their ids. */
  neutral: ReadonlySet<string>;
}) {
  const { store } = useBench();
  const look = useBenchPart((state) => state.look);
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const isSpatial = useSpatial();
  const lookOf = useCallback(
    (candidate: Candidate): Look => begunWith(look, candidate.steps, neutral, isSpatial),
    [look, neutral, isSpatial],
  );
  const tiles = useTries(CANDIDATES, lookOf, picture?.id);
  const source = sourceOf(look, encodings);
  const seen = encodings.find((one) => one.id === picture?.encoding);
  return (
    <Root aria-label="To begin with">
      <h3>What are your pictures?</h3>
      {source !== null && (
        <>
          <Choice
            label="What are your pictures?"
            value={source}
            options={sources}
            onChange={(wanted) => store.edit("What the pictures are", (before) => begunFor(before, wanted, seen))}
          />
          <span>{sourceNotes[source]}</span>
        </>
      )}
      <h3>Begin with a recipe, or add a step below</h3>
      <Ways>
        {CANDIDATES.map((one) => (
          <Way key={one.id} onPress={() => store.edit(`Begin with ${one.name}`, () => lookOf(one))}>
            <TriedDisc tile={tiles.get(one.id)} size={44} />
            <span>
              <b>{one.name}</b>
              <small>{one.note}</small>
            </span>
          </Way>
        ))}
      </Ways>
    </Root>
  );
}
