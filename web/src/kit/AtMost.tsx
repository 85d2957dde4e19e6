import styled from "styled-components";
import { NumberBox } from "./NumberBox";

/** Rows of what is measured, how much of it there may be, and in what. */
export const Limits = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 64px auto;
  gap: 6px 10px;
  align-items: center;
  input {
    border: 1px solid ${(p) => p.theme.tokens.line};
    border-radius: ${(p) => p.theme.tokens.radius.field};
    background: ${(p) => p.theme.tokens.glaze};
    padding: 3px 8px;
  }
  span:nth-child(3n) {
    color: ${(p) => p.theme.tokens.soft};
  }
`;

interface Props {
  readonly words: string;
  readonly unit: string;
  readonly low?: number;
  readonly high: number;
  readonly digits: number;
  /** Told where it is another one; a double click puts it back to this. */
  readonly usual?: number;
  readonly value: number;
  readonly onChange: (value: number) => void;
}

/** A row of `Limits`: what a measure may be at most. */
export function AtMost({ words, unit, low = 0, high, digits, usual, value, onChange }: Props) {
  return (
    <>
      <span>{words}</span>
      <NumberBox
        label={`${words}, at most`}
        value={value}
        low={low}
        high={high}
        step={10 ** -digits}
        digits={digits}
        onChange={onChange}
        {...(usual === undefined ? {} : { neutral: usual })}
      />
      <span>
        {unit}
        {usual !== undefined && usual !== value && `, usually ${String(Number(usual.toFixed(digits)))}`}
      </span>
    </>
  );
}
