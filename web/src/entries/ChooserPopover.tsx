import type { ReactNode } from "react";
import { Dialog } from "react-aria-components";
import styled from "styled-components";
import { Menu } from "../kit/Picker";

const Wide = styled(Menu)`
  max-height: none !important;
  padding: 0;
  overflow: hidden;
`;
const Body = styled(Dialog)`
  width: 400px;
  height: min(560px, 72vh);
  outline: none;
`;

/** What a chooser of entries opens in, below its button. */
export function ChooserPopover({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Wide placement="bottom end">
      <Body aria-label={label}>{children}</Body>
    </Wide>
  );
}
