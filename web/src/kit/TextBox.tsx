import type { FocusEvent } from "react";
import { Input, TextField } from "react-aria-components";
import styled from "styled-components";
import { FieldLabel } from "./FieldLabel";

const Root = styled(TextField)`
  display: flex;
  flex-direction: column;
  gap: 3px;
  min-width: 0;
`;
export const TextInput = styled(Input)`
  min-height: 30px;
  padding: 3px 10px;
  border: 1px solid ${(p) => p.theme.tokens.line};
  border-radius: ${(p) => p.theme.tokens.radius.field};
  background: ${(p) => p.theme.tokens.glaze};
  width: 100%;
  &:hover {
    border-color: ${(p) => p.theme.tokens.faint};
  }
  &::placeholder {
    color: ${(p) => p.theme.tokens.soft};
  }
`;

interface Props {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly placeholder?: string;
  readonly type?: "text" | "password" | "search";
  readonly autoComplete?: string;
  readonly maxLength?: number;
  readonly hideLabel?: boolean;
  readonly autoFocus?: boolean;
  /** What is there is chosen once the keys are in it: typing takes its place. */
  readonly selects?: boolean;
  /** Id of a datalist with proposals. */
  readonly list?: string;
}

export function TextBox({
  label,
  value,
  onChange,
  placeholder,
  type = "text",
  autoComplete = "off",
  maxLength,
  hideLabel = false,
  autoFocus = false,
  selects = false,
  list,
}: Props) {
  return (
    <Root
      autoFocus={autoFocus}
      value={value}
      onChange={onChange}
      type={type}
      autoComplete={autoComplete}
      {...(maxLength ? { maxLength } : {})}
      {...(hideLabel ? { "aria-label": label } : {})}
    >
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <TextInput
        {...(selects ? { onFocus: (event: FocusEvent<HTMLInputElement>) => event.target.select() } : {})}
        {...(placeholder ? { placeholder } : {})}
        {...(list ? { list } : {})}
      />
    </Root>
  );
}
