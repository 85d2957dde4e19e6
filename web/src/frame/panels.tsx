import { Button, Dialog } from "react-aria-components";
import styled from "styled-components";
import { withoutMarks } from "../kit/PlainList";

/** A round button of the top bar. */
export const Round = styled(Button)`
  width: 28px;
  height: 28px;
  border-radius: 50%;
  border: 0;
  padding: 0;
  display: grid;
  place-items: center;
  background: ${(p) => p.theme.tokens.hush};
  cursor: pointer;
  font-weight: 600;
  font-size: 11px;
`;
/** What opens below it. */
export const Panel = styled(Dialog)`
  min-width: 260px;
  max-width: 360px;
  padding: 10px 12px;
  display: grid;
  gap: 10px;
  outline: none;
  h2 {
    font-weight: 600;
  }
  p {
    color: ${(p) => p.theme.tokens.soft};
  }
  ul {
    ${withoutMarks}
    display: grid;
    gap: 8px;
  }
  li {
    display: grid;
    gap: 1px;
    overflow-wrap: anywhere;
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: 11.5px;
  }
`;
