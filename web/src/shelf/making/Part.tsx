import styled from "styled-components";

/** One of the columns of a sheet in which a LUT is made. */
export const Part = styled.section`
  display: grid;
  gap: 14px;
  align-content: start;
  padding: 18px 22px;
  overflow-y: auto;
  min-height: 0;
  & + & {
    border-left: 1px solid ${(p) => p.theme.tokens.line};
  }
  h3 {
    font-weight: 600;
  }
  p {
    color: ${(p) => p.theme.tokens.soft};
    margin: 0;
  }
`;
/** Two controls beside each other. */
export const Two = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  align-items: end;
`;
