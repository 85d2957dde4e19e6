import { Check as CheckMark } from "lucide-react";
import type { ReactNode } from "react";
import { CheckboxButton, CheckboxField } from "react-aria-components";
import styled from "styled-components";

const Root = styled(CheckboxButton)`
  /* What it holds for screen readers alone stands in it, and not below the page that it is scrolled in. */
  position: relative;
  display: flex;
  align-items: flex-start;
  gap: 8px;
  cursor: pointer;
  min-width: 0;
  &[data-disabled] {
    opacity: 0.45;
    cursor: default;
  }
`;
const Box = styled.span`
  flex: none;
  display: grid;
  place-items: center;
  width: 16px;
  height: 16px;
  margin-top: 1px;
  border-radius: 5px;
  border: 1.5px solid ${(p) => p.theme.tokens.faint};
  background: ${(p) => p.theme.tokens.glaze};
  svg {
    width: 12px;
    height: 12px;
    color: ${(p) => p.theme.tokens.onAccent};
    visibility: hidden;
  }
  [data-selected] > & {
    background: ${(p) => p.theme.tokens.accent};
    border-color: ${(p) => p.theme.tokens.accent};
  }
  [data-selected] > & svg {
    visibility: visible;
  }
  [data-focus-visible] > & {
    outline: 2px solid ${(p) => p.theme.tokens.accent};
    outline-offset: 2px;
  }
`;

interface Props {
  readonly isOn: boolean;
  readonly onChange: (on: boolean) => void;
  readonly isDisabled?: boolean;
  /** For screen readers, where there are no words beside the box. */
  readonly label?: string;
  readonly children?: ReactNode;
}

/** One of several that may be chosen together. */
export function Check({ isOn, onChange, isDisabled = false, label, children }: Props) {
  return (
    <CheckboxField
      isSelected={isOn}
      onChange={onChange}
      isDisabled={isDisabled}
      {...(label ? { "aria-label": label } : {})}
    >
      <Root>
        <Box>
          <CheckMark aria-hidden strokeWidth={3} />
        </Box>
        {children && <span>{children}</span>}
      </Root>
    </CheckboxField>
  );
}
