import { SwitchButton, SwitchField } from "react-aria-components";
import styled from "styled-components";

const Root = styled(SwitchButton)`
  display: inline-flex;
  align-items: center;
  gap: 8px;
  cursor: pointer;
`;
const Track = styled.span`
  flex: none;
  width: 24px;
  height: 14px;
  border-radius: 8px;
  border: 1.5px solid ${(p) => p.theme.tokens.faint};
  position: relative;
  background: ${(p) => p.theme.tokens.glaze};
  &::after {
    content: "";
    position: absolute;
    top: 1.5px;
    left: 1.5px;
    width: 8px;
    height: 8px;
    border-radius: 50%;
    background: ${(p) => p.theme.tokens.faint};
    transition: transform ${(p) => p.theme.tokens.motion};
  }
  [data-selected] > & {
    border-color: ${(p) => p.theme.tokens.ink};
  }
  [data-selected] > &::after {
    background: ${(p) => p.theme.tokens.ink};
    transform: translateX(10px);
  }
  [data-focus-visible] > & {
    outline: 2px solid ${(p) => p.theme.tokens.accent};
    outline-offset: 2px;
  }
`;

interface Props {
  readonly label: string;
  readonly isOn: boolean;
  readonly onChange: (on: boolean) => void;
  readonly showLabel?: boolean;
}

export function Toggle({ label, isOn, onChange, showLabel = false }: Props) {
  return (
    <SwitchField isSelected={isOn} onChange={onChange} {...(showLabel ? {} : { "aria-label": label })}>
      <Root>
        <Track />
        {showLabel && label}
      </Root>
    </SwitchField>
  );
}
