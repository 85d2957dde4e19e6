import styled, { css } from "styled-components";

/** A list, or one inside something styled, without marks and without room around it. */
export const withoutMarks = css`
  list-style: none;
  margin: 0;
  padding: 0;
`;

/** A list without marks; its lines stand close below each other. */
export const PlainList = styled.ul`
  ${withoutMarks}
`;

/** Lines of a few words each, with room between them. */
export const WordList = styled.ul`
  ${withoutMarks}
  display: grid;
  gap: 8px;
  li {
    display: grid;
    gap: 1px;
    overflow-wrap: anywhere;
  }
`;
