import { useRef, useState } from "react";
import styled from "styled-components";
import { asHex, colourIn, type Rgb } from "./hex";

const Box = styled.input`
  width: 100%;
  min-width: 0;
  border: 0;
  background: none;
  padding: 3px 0;
  text-align: right;
  border-radius: 3px;
  font-family: ${(p) => p.theme.tokens.numbers};
  font-size: ${(p) => p.theme.tokens.size.small};
  &[aria-invalid="true"] {
    text-decoration: underline wavy ${(p) => p.theme.tokens.caution};
  }
`;

interface Props {
  readonly label: string;
  readonly value: Rgb;
  readonly onChange: (value: [number, number, number]) => void;
}

/** A colour as hexadecimal digits, typed or pasted. */
export function HexBox({ label, value, onChange }: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const typed = draft === null ? null : colourIn(draft);
  function commit() {
    if (typed && asHex(typed) !== asHex(value)) onChange(typed);
    setDraft(null);
  }
  return (
    <Box
      ref={field}
      aria-label={label}
      aria-invalid={draft !== null && typed === null}
      title={draft !== null && typed === null ? "Six digits, like #E8C9A0" : undefined}
      spellCheck={false}
      maxLength={20}
      value={draft ?? asHex(value)}
      onChange={(event) => setDraft(event.target.value)}
      onFocus={(event) => event.target.select()}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter") field.current?.blur();
        else if (event.key === "Escape") setDraft(null);
        else return;
        event.stopPropagation();
      }}
    />
  );
}
