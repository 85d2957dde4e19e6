import styled from "styled-components";

/** A number in a dot, on a place of a picture or before the words that are said of it; quiet where nothing is to be done about it. */
export const PinDot = styled.span<{ $quiet: boolean }>`
  display: grid;
  place-items: center;
  flex: none;
  width: 20px;
  height: 20px;
  border-radius: 50%;
  font-family: ${(p) => p.theme.tokens.numbers};
  font-size: 11px;
  font-weight: 600;
  color: ${(p) => (p.$quiet ? p.theme.tokens.ink : p.theme.tokens.onAccent)};
  background: ${(p) => (p.$quiet ? p.theme.tokens.onPicture : p.theme.tokens.accent)};
  border: 1.5px solid ${(p) => p.theme.tokens.onPicture};
  box-shadow: 0 0 0 0.5px ${(p) => p.theme.tokens.pictureEdge};
`;
/** On a picture: with left and top in percent. */
export const PlacedDot = styled(PinDot)`
  position: absolute;
  transform: translate(-50%, -50%);
`;
