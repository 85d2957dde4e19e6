import { ChevronDown, Search } from "lucide-react";
import {
  Autocomplete,
  Button,
  Collection,
  Header,
  Input,
  ListBox,
  ListBoxItem,
  ListBoxSection,
  Popover,
  SearchField,
  Select,
  SelectValue,
  useFilter,
} from "react-aria-components";
import { useMemo } from "react";
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
  &[data-drawn] {
    grid-template-columns: minmax(0, 1fr) 30px;
    gap: 12px;
  }
  svg {
    color: ${(p) => p.theme.tokens.soft};
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-weight: 400;
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;

const Find = styled(SearchField)`
  position: sticky;
  top: -4px;
  z-index: 1;
  display: grid;
  grid-template-columns: 16px 1fr;
  align-items: center;
  gap: 8px;
  margin: -4px -4px 4px;
  padding: 6px 12px;
  background: ${(p) => p.theme.tokens.glaze};
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  svg {
    width: 14px;
    height: 14px;
    color: ${(p) => p.theme.tokens.soft};
  }
  input {
    border: 0;
    background: none;
    padding: 3px 0;
    min-width: 0;
    outline: none;
    &::-webkit-search-cancel-button {
      display: none;
    }
  }
`;
const Title = styled(Header)`
  padding: 9px 10px 2px;
  font-weight: 600;
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;
const Nothing = styled.p`
  padding: 6px 10px;
  color: ${(p) => p.theme.tokens.soft};
`;

export interface Option {
  readonly id: string;
  readonly name: string;
  readonly note?: string;
  /** Under which heading it stands; those without stand first. */
  readonly group?: string;
  /** Other words by which it is found. */
  readonly also?: string;
  /** A small drawing beside its name: 0..1 each, from left to right. */
  readonly line?: readonly number[];
}

/** In their groups, these in the order in which they come first. */
export function grouped(options: readonly Option[]): readonly { name: string; options: readonly Option[] }[] {
  const groups = new Map<string, Option[]>();
  for (const one of options) groups.set(one.group ?? "", [...(groups.get(one.group ?? "") ?? []), one]);
  return [...groups].map(([name, inside]) => ({ name, options: inside }));
}

/** From so many on, a list is searched. */
const SEARCHED = 15;

interface Props {
  readonly label: string;
  readonly value: string;
  readonly options: readonly Option[];
  readonly onChange: (value: string) => void;
  readonly hideLabel?: boolean;
  readonly isDisabled?: boolean;
}

function Drawn({ line }: { line: readonly number[] }) {
  const at = (y: number, index: number) =>
    `${((index / (line.length - 1)) * 30).toFixed(1)} ${((1 - y) * 18 + 1).toFixed(1)}`;
  return (
    <svg viewBox="0 0 30 20" width={30} height={20} aria-hidden>
      <path d={`M${line.map(at).join("L")}`} fill="none" stroke="currentColor" strokeWidth={1.4} />
    </svg>
  );
}

const item = (option: Option) => (
  <Item
    id={option.id}
    textValue={[option.name, option.also].filter(Boolean).join(" ")}
    data-drawn={option.line ? true : undefined}
  >
    <span>{option.name}</span>
    {option.line && <Drawn line={option.line} />}
    {option.note && <small>{option.note}</small>}
  </Item>
);

/** One of many, in a list that opens; a long one is searched, and has headings where its options say so. */
export function Picker({ label, value, options, onChange, hideLabel = false, isDisabled = false }: Props) {
  const { contains } = useFilter({ sensitivity: "base" });
  const groups = useMemo(() => grouped(options).map((one) => ({ ...one, id: `group ${one.name}` })), [options]);
  const name = options.find((one) => one.id === value)?.name;
  return (
    <Root
      value={value}
      onChange={(key) => key !== null && onChange(String(key))}
      isDisabled={isDisabled}
      {...(hideLabel ? { "aria-label": label } : {})}
    >
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <Trigger>
        <SelectValue>{({ defaultChildren }) => name ?? defaultChildren}</SelectValue>
        <ChevronDown aria-hidden />
      </Trigger>
      <Menu>
        {options.length < SEARCHED ? (
          <ListBox items={options}>{item}</ListBox>
        ) : (
          <Autocomplete filter={contains}>
            <Find aria-label={`Find: ${label}`} autoFocus>
              <Search aria-hidden />
              <Input placeholder="Type a part of its name" />
            </Find>
            <ListBox items={groups} renderEmptyState={() => <Nothing>Nothing of that name.</Nothing>}>
              {(group) => (
                <ListBoxSection id={`group ${group.name}`} aria-label={group.name || label}>
                  {group.name && <Title>{group.name}</Title>}
                  <Collection items={group.options}>{item}</Collection>
                </ListBoxSection>
              )}
            </ListBox>
          </Autocomplete>
        )}
      </Menu>
    </Root>
  );
}
