/** What every list that is searched by typing is made of: its field, what stands over a group of it, a line, and what is said where nothing was found. */
import { Header, ListBoxItem, TextField } from "react-aria-components";
import styled from "styled-components";

/** A field without a frame, at the top of its list; after a magnifier, and before whatever else. */
export const FindField = styled(TextField)`
  display: grid;
  grid-template-columns: 18px 1fr auto;
  align-items: center;
  gap: 8px;
  padding: 6px 10px;
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  > svg {
    width: 16px;
    height: 16px;
    color: ${(p) => p.theme.tokens.soft};
  }
  input {
    border: 0;
    background: none;
    padding: 5px 0;
    min-width: 0;
    outline: none;
  }
`;
export const FoundTitle = styled(Header)`
  padding: 10px 8px 3px;
  font-weight: 600;
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;
export const FoundLine = styled(ListBoxItem)`
  display: grid;
  gap: 10px;
  align-items: center;
  padding: 4px 6px;
  border-radius: 6px;
  cursor: pointer;
  outline: none;
  &[data-hovered] {
    background: ${(p) => p.theme.tokens.hush};
  }
  &[data-focused] {
    background: ${(p) => p.theme.tokens.accentWash};
  }
  &[data-focus-visible] {
    outline: 2px solid ${(p) => p.theme.tokens.accent};
    outline-offset: -2px;
  }
  small {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
`;
export const NothingFound = styled.p`
  padding: 18px 12px;
  color: ${(p) => p.theme.tokens.soft};
`;
