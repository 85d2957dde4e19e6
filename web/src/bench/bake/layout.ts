import styled from "styled-components";

/** One question of the sheet. */
export const Section = styled.section`
  display: grid;
  gap: 8px;
  h3 {
    font-weight: 600;
  }
`;
export const Pair = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 10px;
`;
export const Row = styled.div`
  display: flex;
  justify-content: space-between;
  gap: 12px;
  flex-wrap: wrap;
`;
