import { useState } from "react";
import styled from "styled-components";
import type { LinkMade } from "../../api/types";
import { Secondary } from "../../kit/Button";

const Root = styled.div`
  display: grid;
  gap: 8px;
  justify-items: start;
  padding: 12px 14px;
  background: ${(p) => p.theme.tokens.hush};
  border-radius: ${(p) => p.theme.tokens.radius.field};
  code {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: ${(p) => p.theme.tokens.size.small};
    overflow-wrap: anywhere;
    user-select: all;
  }
`;

/** A link that was just made, to be passed on: it is not shown again. */
export function LinkShown({ link }: { link: LinkMade }) {
  const [copied, setCopied] = useState(false);
  const address = `${window.location.origin}${link.path}`;
  const copy = () => navigator.clipboard.writeText(address).then(() => setCopied(true));
  return (
    <Root role="status">
      <p>
        {link.mailed_to ? `Mailed to ${link.mailed_to}. ` : "Pass this on; it is not shown again. "}
        It works once, until {link.until.slice(0, 10)}.
      </p>
      <code aria-label="The link">{address}</code>
      <Secondary onPress={() => void copy()}>{copied ? "Copied" : "Copy"}</Secondary>
    </Root>
  );
}
