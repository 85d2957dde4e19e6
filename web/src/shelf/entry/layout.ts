import styled from "styled-components";

/** A part of the entry's side, with a heading. */
export const Block = styled.section`
  display: grid;
  gap: 10px;
  padding-top: 14px;
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  h2 {
    font-weight: 600;
  }
`;
export const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
`;
export const Facts = styled.dl`
  margin: 0;
  display: grid;
  grid-template-columns: 84px 1fr;
  gap: 6px 10px;
  dt {
    color: ${(p) => p.theme.tokens.soft};
  }
  dd {
    margin: 0;
    overflow-wrap: anywhere;
  }
  code {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: 11px;
  }
`;
export const Small = styled.small`
  color: ${(p) => p.theme.tokens.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
`;
