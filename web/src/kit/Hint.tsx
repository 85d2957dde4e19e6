import type { ReactElement } from "react";
import { Tooltip, TooltipTrigger } from "react-aria-components";
import styled from "styled-components";

const Words = styled(Tooltip)`
  padding: 4px 9px;
  border-radius: 5px;
  background: ${(p) => p.theme.tokens.ink};
  color: ${(p) => p.theme.tokens.glaze};
  font-size: ${(p) => p.theme.tokens.size.small};
  max-width: 260px;
`;

/** A few words beside a control, on hover and on focus. */
export function Hint({ text, children }: { text: string; children: ReactElement }) {
  return (
    <TooltipTrigger delay={500}>
      {children}
      <Words offset={6}>{text}</Words>
    </TooltipTrigger>
  );
}
