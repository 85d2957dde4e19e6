import { useRef, useState, type KeyboardEvent } from "react";
import styled from "styled-components";

const Box = styled.input`
  width: 100%;
  min-width: 0;
  border: 0;
  background: none;
  padding: 3px 0;
  text-align: inherit;
  border-radius: 3px;
  font-family: ${(p) => p.theme.tokens.numbers};
  font-size: ${(p) => p.theme.tokens.size.small};
  font-variant-numeric: tabular-nums;
  &[aria-invalid="true"] {
    text-decoration: underline wavy ${(p) => p.theme.tokens.caution};
  }
`;

interface Props {
  readonly label: string;
  readonly value: number;
  readonly onChange: (value: number) => void;
  readonly low: number;
  readonly high: number;
  /** One press of an arrow key; with Shift ten of them, with Alt a tenth. */
  readonly step: number;
  readonly digits: number;
  readonly neutral?: number;
  readonly onFocus?: () => void;
}

/** A number that can be typed, nudged with the arrow keys, and put back to neutral by a double click. */
export function NumberBox({ label, value, onChange, low, high, step, digits, neutral, onFocus }: Props) {
  const shown = String(Number(value.toFixed(digits)));
  // What is being typed, null while nothing is.
  const [draft, setDraft] = useState<string | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const parsed = Number((draft ?? shown).replace(",", "."));
  const valid =
    draft === null || (draft.trim() !== "" && Number.isFinite(parsed) && parsed >= low - 1e-9 && parsed <= high + 1e-9);

  function commit() {
    if (draft !== null && valid && draft !== shown) onChange(Math.min(high, Math.max(low, parsed)));
    setDraft(null);
  }

  function onKeyDown(event: KeyboardEvent) {
    if (event.key === "Enter") {
      // It is taken over on leaving, and single keys are the page's again.
      field.current?.blur();
    } else if (event.key === "Escape") {
      setDraft(null);
    } else if (event.key === "ArrowUp" || event.key === "ArrowDown") {
      event.preventDefault();
      const size = step * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1) * (event.key === "ArrowUp" ? 1 : -1);
      setDraft(null);
      onChange(Math.min(high, Math.max(low, value + size)));
    } else return;
    event.stopPropagation();
  }

  return (
    <Box
      ref={field}
      aria-label={label}
      aria-invalid={!valid}
      title={!valid ? `From ${low} to ${high}` : undefined}
      inputMode="decimal"
      value={draft ?? shown}
      onChange={(event) => setDraft(event.target.value)}
      onFocus={(event) => {
        event.target.select();
        onFocus?.();
      }}
      onBlur={commit}
      onKeyDown={onKeyDown}
      onDoubleClick={() => neutral !== undefined && onChange(neutral)}
    />
  );
}
