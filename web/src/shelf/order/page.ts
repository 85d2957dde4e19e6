/** What the pages for keeping order share. */
import styled from "styled-components";

export const Page = styled.main`
  overflow-y: auto;
  padding: 18px 24px 40px;
  display: grid;
  gap: 14px;
  align-content: start;
  background: ${(p) => p.theme.tokens.paper};
  a {
    color: ${(p) => p.theme.tokens.accent};
  }
  > p {
    color: ${(p) => p.theme.tokens.soft};
    max-width: 70ch;
  }
`;
export const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 16px;
  h1 {
    font-size: ${(p) => p.theme.tokens.size.title};
    font-weight: 600;
  }
`;
export const Rows = styled.table`
  border-collapse: collapse;
  width: 100%;
  max-width: 1100px;
  th {
    text-align: left;
    font-weight: 500;
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
  th,
  td {
    padding: 7px 16px 7px 0;
    border-bottom: 1px solid ${(p) => p.theme.tokens.line};
    overflow-wrap: anywhere;
    vertical-align: middle;
  }
  td:last-child {
    text-align: right;
    padding-right: 0;
  }
  b,
  small {
    display: block;
  }
  b {
    font-weight: 600;
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
