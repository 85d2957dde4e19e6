import styled from "styled-components";
import type { Step } from "../../api/types";

const Root = styled.div`
  padding: 12px 16px 18px;
  display: grid;
  gap: 12px;
  > p:last-child {
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Values = styled.dl`
  margin: 0;
  display: grid;
  gap: 6px;
  font-size: ${(p) => p.theme.tokens.size.small};
  > div {
    display: grid;
    grid-template-columns: 84px minmax(0, 1fr);
    gap: 12px;
  }
  dt {
    color: ${(p) => p.theme.tokens.soft};
  }
  dd {
    margin: 0;
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: 11px;
    overflow-wrap: anywhere;
  }
  dd > div + div {
    border-top: 1px solid ${(p) => p.theme.tokens.hush};
    margin-top: 3px;
    padding-top: 3px;
  }
`;
const Note = styled.p`
  white-space: pre-line;
  overflow-wrap: anywhere;
`;
/** What stands elsewhere on the page. */
const ELSEWHERE = new Set(["id", "kind", "name", "note", "enabled", "strength", "steps", "per_shot"]);

function inWords(value: unknown): string {
  if (typeof value === "number") return String(Number(value.toFixed(4)));
  if (Array.isArray(value)) return value.map(inWords).join(", ");
  if (typeof value === "object" && value !== null)
    return Object.entries(value)
      .map(([name, one]) => `${name} ${inWords(one)}`)
      .join(", ");
  return String(value);
}

/** One line each for what there are several of: points, bands, rows. */
const linesOf = (value: unknown): string[] =>
  Array.isArray(value) && typeof value[0] === "object" ? value.map(inWords) : [inWords(value)];

/** A step for those who may not change it: what it does, and what it is set to. */
export function StepToRead({ step, summary }: { step: Step; summary: string }) {
  const values = Object.entries(step).filter(([name, value]) => !ELSEWHERE.has(name) && value !== null);
  return (
    <Root>
      {step.note && <Note>{step.note}</Note>}
      {summary && <p>{summary}</p>}
      <Values aria-label="Settings">
        {values.map(([name, value]) => (
          <div key={name}>
            <dt>{name.replaceAll("_", " ")}</dt>
            <dd>
              {linesOf(value).map((line, index) => (
                <div key={index}>{line}</div>
              ))}
            </dd>
          </div>
        ))}
      </Values>
      <p>Designers can change this step. Strengths can be tried here; nothing is saved.</p>
    </Root>
  );
}
