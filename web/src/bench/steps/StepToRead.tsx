import styled from "styled-components";
import type { Step } from "../../api/types";

const Root = styled.div`
  padding: 0 18px 18px;
  display: grid;
  gap: 12px;
  > p:last-child {
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Values = styled.dl`
  margin: 0;
  display: grid;
  grid-template-columns: 120px minmax(0, 1fr);
  gap: 4px 12px;
  font-size: ${(p) => p.theme.tokens.size.small};
  dt {
    color: ${(p) => p.theme.tokens.soft};
  }
  dd {
    margin: 0;
    font-family: ${(p) => p.theme.tokens.numbers};
    overflow-wrap: anywhere;
  }
`;
/** What stands elsewhere on the page. */
const ELSEWHERE = new Set(["id", "kind", "name", "enabled", "strength", "steps"]);

function inWords(value: unknown): string {
  if (typeof value === "number") return String(Number(value.toFixed(4)));
  if (Array.isArray(value)) return value.map(inWords).join(typeof value[0] === "object" ? "; " : ", ");
  if (typeof value === "object" && value !== null)
    return Object.entries(value)
      .map(([name, one]) => `${name} ${inWords(one)}`)
      .join("; ");
  return String(value);
}

/** A step for those who may not change it: what it does, and what it is set to. */
export function StepToRead({ step, summary }: { step: Step; summary: string }) {
  const values = Object.entries(step).filter(([name, value]) => !ELSEWHERE.has(name) && value !== null);
  return (
    <Root>
      {summary && <p>{summary}</p>}
      <Values aria-label="Settings">
        {values.map(([name, value]) => [
          <dt key={name}>{name.replaceAll("_", " ")}</dt>,
          <dd key={`${name} is`}>{inWords(value)}</dd>,
        ])}
      </Values>
      <p>Designers can change this step. Strengths can be tried here; nothing is saved.</p>
    </Root>
  );
}
