import type { ReactElement, ReactNode } from "react";
import { Dialog, DialogTrigger } from "react-aria-components";
import styled from "styled-components";
import { Menu } from "./Picker";

const Panel = styled(Dialog)`
  padding: 10px 12px;
  display: grid;
  gap: 10px;
  outline: none;
  color: ${(p) => p.theme.tokens.ink};
  min-width: 240px;
  max-width: 340px;
`;

/** A few settings that open beside the button they belong to. */
export function Flyout({
  label,
  button,
  children,
  placement = "bottom start",
}: {
  label: string;
  button: ReactElement;
  children: ReactNode | ((close: () => void) => ReactNode);
  placement?: "bottom start" | "bottom end" | "top start" | "top end";
}) {
  return (
    <DialogTrigger>
      {button}
      <Menu placement={placement}>
        <Panel aria-label={label}>{typeof children === "function" ? ({ close }) => children(close) : children}</Panel>
      </Menu>
    </DialogTrigger>
  );
}
