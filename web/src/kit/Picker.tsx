import { ChevronDown } from "lucide-react";
import { Button, ListBox, ListBoxItem, Popover, Select, SelectValue } from "react-aria-components";
import styled from "styled-components";
import { FieldLabel } from "./FieldLabel";
import { oneLine } from "./oneLine";

const Root = styled(Select)`
  display: inline-flex;
  flex-direction: column;
  gap: 3px;
  min-width: 0;
`;
const Trigger = styled(Button)`
  display: flex;
  align-items: center;
  gap: 6px;
  min-height: 30px;
  padding: 3px 10px;
  text-align: left;
  cursor: pointer;
  min-width: 0;
  border: 1px solid ${(p) => p.theme.tokens.line};
  border-radius: ${(p) => p.theme.tokens.radius.field};
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  & > span {
    flex: 1;
    ${oneLine}
  }
  svg {
    width: 14px;
    height: 14px;
    flex: none;
    color: ${(p) => p.theme.tokens.soft};
  }
  &[data-hovered] {
    border-color: ${(p) => p.theme.tokens.faint};
  }
`;
export const Menu = styled(Popover)`
  min-width: var(--trigger-width);
  max-height: 340px !important;
  overflow: auto;
  padding: 4px;
  background: ${(p) => p.theme.tokens.glaze};
  border: 1px solid ${(p) => p.theme.tokens.line};
  border-radius: 8px;
  box-shadow: 0 6px 24px rgb(0 0 0 / 16%);
  [role="listbox"],
  [role="menu"] {
    outline: none;
  }
`;
const Item = styled(ListBoxItem)`
  padding: 5px 10px;
  border-radius: 5px;
  cursor: pointer;
  display: grid;
  color: ${(p) => p.theme.tokens.ink};
  &[data-focused] {
    background: ${(p) => p.theme.tokens.accentWash};
  }
  &[data-selected] {
    font-weight: 600;
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-weight: 400;
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;

export interface Option {
  readonly id: string;
  readonly name: string;
  readonly note?: string;
}

interface Props {
  readonly label: string;
  readonly value: string;
  readonly options: readonly Option[];
  readonly onChange: (value: string) => void;
  readonly hideLabel?: boolean;
  readonly isDisabled?: boolean;
}

/** One of many, in a list that opens. */
export function Picker({ label, value, options, onChange, hideLabel = false, isDisabled = false }: Props) {
  return (
    <Root
      value={value}
      onChange={(key) => key !== null && onChange(String(key))}
      isDisabled={isDisabled}
      {...(hideLabel ? { "aria-label": label } : {})}
    >
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <Trigger>
        <SelectValue>{({ selectedText }) => selectedText}</SelectValue>
        <ChevronDown aria-hidden />
      </Trigger>
      <Menu>
        <ListBox items={options}>
          {(option) => (
            <Item id={option.id} textValue={option.name}>
              <span>{option.name}</span>
              {option.note && <small>{option.note}</small>}
            </Item>
          )}
        </ListBox>
      </Menu>
    </Root>
  );
}
