import styled from "styled-components";

/** A page that has only a few words to say, in its middle. */
export const Middle = styled.main`
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 12px;
  height: 100%;
  color: ${(p) => p.theme.tokens.soft};
`;
