import type { ReactNode } from "react";
import { ToggleButton, ToggleButtonGroup } from "react-aria-components";
import styled from "styled-components";

const Row = styled(ToggleButtonGroup)`
  display: inline-flex;
  gap: 2px;
  flex-wrap: wrap;
`;
const Titled = styled.div`
  display: grid;
  gap: 3px;
  justify-items: start;
  > small {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
  > div {
    margin-left: -4px;
  }
`;
const Item = styled(ToggleButton)`
  border: 0;
  background: none;
  padding: 3px 11px;
  min-height: 26px;
  border-radius: 13px;
  cursor: pointer;
  font-weight: 500;
  color: ${(p) => p.theme.tokens.soft};
  &[data-hovered] {
    color: ${(p) => p.theme.tokens.ink};
  }
  &[data-selected] {
    background: ${(p) => p.theme.tokens.ink};
    color: ${(p) => p.theme.tokens.glaze};
  }
  &[data-disabled] {
    opacity: 0.4;
    cursor: default;
  }
`;

interface Props<T extends string> {
  readonly label: string;
  readonly value: T;
  readonly options: readonly (readonly [T, ReactNode])[];
  readonly onChange: (value: T) => void;
  readonly className?: string;
  /** Stands above; without, only screen readers are told the label. */
  readonly titled?: boolean;
}

/** One of a few, all in sight. */
export function Choice<T extends string>({ label, value, options, onChange, className, titled = false }: Props<T>) {
  const row = (
    <Row
      aria-label={label}
      className={className ?? ""}
      selectionMode="single"
      disallowEmptySelection
      selectedKeys={[value]}
      onSelectionChange={(keys) => {
        const [key] = keys;
        if (key !== undefined) onChange(key as T);
      }}
    >
      {options.map(([id, text]) => (
        <Item key={id} id={id}>
          {text}
        </Item>
      ))}
    </Row>
  );
  return titled ? (
    <Titled>
      <small aria-hidden>{label}</small>
      {row}
    </Titled>
  ) : (
    row
  );
}
