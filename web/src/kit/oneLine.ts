import { css } from "styled-components";

/** Words that end in three dots where there is no room; the place that shows them gives the whole in a hint or a title. */
export const oneLine = css`
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
`;
