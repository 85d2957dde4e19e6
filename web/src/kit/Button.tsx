import { Button as AriaButton } from "react-aria-components";
import styled, { css } from "styled-components";

const base = css`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 6px;
  min-height: 30px;
  padding: 4px 14px;
  cursor: pointer;
  white-space: nowrap;
  border-radius: ${(p) => p.theme.tokens.radius.pill};
  font-weight: 500;
  transition: background ${(p) => p.theme.tokens.motion};
  &[data-disabled],
  &[data-pending] {
    opacity: 0.45;
    cursor: default;
  }
`;

/** The one action a view is for. */
export const Primary = styled(AriaButton)`
  ${base}
  border: 1.5px solid transparent;
  background: ${(p) => p.theme.tokens.accent};
  color: ${(p) => p.theme.tokens.onAccent};
  &[data-hovered],
  &[data-pressed] {
    background: ${(p) => p.theme.tokens.accentPressed};
  }
`;

/** The same for what is fetched as a file. */
export const TakeLink = styled.a`
  ${base}
  background: ${(p) => p.theme.tokens.accent};
  color: ${(p) => p.theme.tokens.onAccent};
  &:hover {
    background: ${(p) => p.theme.tokens.accentPressed};
  }
`;

/** Any other action. */
export const Secondary = styled(AriaButton)`
  ${base}
  border: 1.5px solid ${(p) => p.theme.tokens.line};
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  &[data-hovered] {
    border-color: ${(p) => p.theme.tokens.faint};
  }
  &[data-pressed] {
    background: ${(p) => p.theme.tokens.hush};
  }
`;

/** A small round button that shows only an icon; give it an aria-label. */
export const IconButton = styled(AriaButton)`
  display: inline-grid;
  place-items: center;
  width: 28px;
  height: 28px;
  padding: 0;
  border: 0;
  border-radius: 50%;
  background: transparent;
  color: inherit;
  cursor: pointer;
  svg {
    width: 16px;
    height: 16px;
  }
  &[data-hovered] {
    background: color-mix(in srgb, currentColor 12%, transparent);
  }
  &[data-disabled] {
    opacity: 0.35;
    cursor: default;
  }
`;

/** Words that act, in a line of text. */
export const WordButton = styled(AriaButton)`
  border: 0;
  padding: 0;
  background: none;
  cursor: pointer;
  font-weight: 500;
  color: ${(p) => p.theme.tokens.accent};
  &[data-hovered] {
    text-decoration: underline;
  }
`;
