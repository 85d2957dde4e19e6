import styled from "styled-components";

export const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
`;
