import styled from "styled-components";

/** A report about an entry, in the place of its picture: what was found at the left, figures and graphs beside it. */
export const ReportPage = styled.div<{ $columns: string }>`
  display: grid;
  grid-template-columns: ${(p) => p.$columns};
  gap: 0 28px;
  padding: 18px 24px 40px;
  overflow-y: auto;
  min-height: 0;
  align-content: start;
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  h2 {
    font-size: ${(p) => p.theme.tokens.size.head};
    font-weight: 600;
    margin-bottom: 8px;
  }
`;
