import { CircleAlert, Info } from "lucide-react";
import type { ReactNode } from "react";
import styled from "styled-components";

const Root = styled.div<{ $tone: "problem" | "word" }>`
  display: flex;
  gap: 8px;
  align-items: flex-start;
  padding: 8px 12px;
  border-radius: ${(p) => p.theme.tokens.radius.field};
  overflow-wrap: anywhere;
  background: ${(p) => p.theme.tokens.hush};
  color: ${(p) => (p.$tone === "problem" ? p.theme.tokens.caution : p.theme.tokens.ink)};
  svg {
    width: 16px;
    height: 16px;
    flex: none;
    margin-top: 1px;
  }
`;

/** What happened and what to do, in place. `problem` is announced to screen readers at once. */
export function Notice({ tone = "problem", children }: { tone?: "problem" | "word"; children: ReactNode }) {
  return (
    <Root $tone={tone} role={tone === "problem" ? "alert" : "status"}>
      {tone === "problem" ? <CircleAlert aria-hidden /> : <Info aria-hidden />}
      <span>{children}</span>
    </Root>
  );
}
