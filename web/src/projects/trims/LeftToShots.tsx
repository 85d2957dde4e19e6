import styled from "styled-components";
import type { Step } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { omit } from "../../kit/omit";
import { fresh } from "../../look/arrange";
import { titleOf } from "../../look/titles";
import { useBench, useBenchPart } from "../../look/useBench";

const Root = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  padding: 6px 0;
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;

/** Steps that the look leaves to each shot and that have no trim of their kind and name here yet: one press adds it, open. */
export function LeftToShots({ left }: { left: readonly Step[] }) {
  const { store } = useBench();
  const trims = useBenchPart((state) => state.look.steps);
  const isThere = (step: Step) =>
    trims?.some((one) => one.kind === step.kind && titleOf(one) === titleOf(step)) ?? false;
  const missing = left.filter((step) => !isThere(step));
  if (missing.length === 0) return null;
  return (
    <Root>
      The look leaves to each shot:
      {missing.map((step) => (
        <WordButton
          key={step.id ?? titleOf(step)}
          onPress={() => {
            const trim = fresh(omit(step, "per_shot", "note"));
            store.edit(`Add ${titleOf(step)}`, (look) => ({ ...look, steps: [...(look.steps ?? []), trim] }));
            store.dispatch({ type: "select", id: trim.id ?? null });
          }}
        >
          {titleOf(step)}
        </WordButton>
      ))}
    </Root>
  );
}
