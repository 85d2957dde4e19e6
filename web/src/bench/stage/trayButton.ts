import { css } from "styled-components";

/** A word in the lines under the picture that is pressed to change what it says. */
export const trayButton = css`
  font: inherit;
  color: inherit;
  border: 0;
  background: none;
  padding: 2px 4px;
  cursor: pointer;
  white-space: nowrap;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  &:focus-visible {
    outline-color: ${(p) => p.theme.surround.ink};
  }
`;
