import styled from "styled-components";

/** Hues or tones side by side, above and below a graph. */
export const Ribbon = styled.div`
  height: 16px;
  border-radius: 3px;
  margin: 8px 8px 0;
`;
