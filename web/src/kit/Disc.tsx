import styled from "styled-components";

/** A round picture. Rings when it is the one in view. */
export const Disc = styled.span<{ $size: number; $on?: boolean }>`
  display: block;
  flex: none;
  width: ${(p) => p.$size}px;
  height: ${(p) => p.$size}px;
  border-radius: 50%;
  background-size: cover;
  background-position: center;
  box-shadow: ${(p) => (p.$on ? `0 0 0 2px ${p.theme.surround.tray}, 0 0 0 4px ${p.theme.surround.ink}` : "none")};
`;

/** The disc that shows what a look or LUT does. */
export const Fingerprint = styled.img<{ $size: number }>`
  display: block;
  flex: none;
  width: ${(p) => p.$size}px;
  height: ${(p) => p.$size}px;
  border-radius: 50%;
`;
