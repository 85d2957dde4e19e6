import styled from "styled-components";

/** Several of a few, under what is asked. */
export const Chosen = styled.fieldset`
  display: grid;
  gap: 6px;
  border: 0;
  margin: 0;
  padding: 0;
  legend {
    padding: 0 0 4px;
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
`;
