import styled from "styled-components";

/** A part of the column beside a shot. */
export const Block = styled.section`
  display: grid;
  gap: 8px;
  padding: 12px 16px;
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  > h2 {
    font-size: ${(p) => p.theme.tokens.size.text};
    font-weight: 600;
  }
  > p,
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
export const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
`;
