import styled, { css } from "styled-components";

const plain = css`
  list-style: none;
  margin: 0;
  padding: 0;
`;

/** A list without marks; its lines stand close below each other. */
export const PlainList = styled.ul`
  ${plain}
`;

/** Lines of a few words each, with room between them. */
export const WordList = styled.ul`
  ${plain}
  display: grid;
  gap: 8px;
  li {
    display: grid;
    gap: 1px;
    overflow-wrap: anywhere;
  }
`;
