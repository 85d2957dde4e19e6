import styled from "styled-components";

/** Small print in rows and columns. */
export const PlainTable = styled.table`
  width: 100%;
  border-collapse: collapse;
  font-size: ${(p) => p.theme.tokens.size.small};
  td,
  th {
    text-align: left;
    padding: 3px 10px 3px 0;
    border-bottom: 1px solid ${(p) => p.theme.tokens.line};
    overflow-wrap: anywhere;
  }
  th {
    font-weight: 500;
    color: ${(p) => p.theme.tokens.soft};
  }
`;
