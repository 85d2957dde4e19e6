import { Pipette } from "lucide-react";
import { ToggleButton } from "react-aria-components";
import styled from "styled-components";

const Root = styled(ToggleButton)`
  display: inline-flex;
  align-items: center;
  gap: 6px;
  min-height: 28px;
  padding: 3px 12px;
  border: 1.5px solid ${(p) => p.theme.tokens.line};
  border-radius: 14px;
  background: none;
  cursor: pointer;
  font-weight: 500;
  white-space: nowrap;
  svg {
    width: 14px;
    height: 14px;
  }
  &[data-hovered] {
    border-color: ${(p) => p.theme.tokens.faint};
  }
  &[data-selected] {
    background: ${(p) => p.theme.tokens.accent};
    border-color: ${(p) => p.theme.tokens.accent};
    color: ${(p) => p.theme.tokens.onAccent};
  }
`;

/** Switches picking from the picture on and off. */
export function PickButton({ label, isOn, onToggle }: { label: string; isOn: boolean; onToggle: () => void }) {
  return (
    <Root isSelected={isOn} onChange={onToggle}>
      <Pipette aria-hidden />
      {label}
    </Root>
  );
}
