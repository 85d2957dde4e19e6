/** A bar to drag along, whatever it stands for: the line, what of it is filled, and the round handle. */
import { SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";

/** height: of what can be pressed; line: of what is seen, in pixels */
export const LineTrack = styled(SliderTrack)<{ $height: number; $line: number }>`
  height: ${(p) => p.$height}px;
  width: 100%;
  cursor: ew-resize;
  &::before {
    content: "";
    position: absolute;
    left: 0;
    right: 0;
    top: ${(p) => (p.$height - p.$line) / 2}px;
    height: ${(p) => p.$line}px;
    border-radius: ${(p) => p.$line / 2}px;
    background: ${(p) => p.theme.tokens.line};
  }
`;
export const LineFill = styled.span<{ $height: number; $line: number }>`
  position: absolute;
  left: 0;
  top: ${(p) => (p.$height - p.$line) / 2}px;
  height: ${(p) => p.$line}px;
  border-radius: ${(p) => p.$line / 2}px;
  background: ${(p) => p.theme.tokens.ink};
`;
/** size: across, with its edge; it stands in the middle of a track so high */
export const RoundThumb = styled(SliderThumb)<{ $height: number; $size: number }>`
  top: ${(p) => p.$height / 2}px;
  width: ${(p) => p.$size}px;
  height: ${(p) => p.$size}px;
  border-radius: 50%;
  background: ${(p) => p.theme.tokens.glaze};
  border: 1.5px solid ${(p) => p.theme.tokens.ink};
  &[data-focus-visible] {
    outline: 2px solid ${(p) => p.theme.tokens.accent};
    outline-offset: 2px;
  }
`;

/** The same over the field around pictures, in its inks. */
export const FieldTrack = styled(SliderTrack)<{ $height: number }>`
  height: ${(p) => p.$height}px;
  width: 100%;
  cursor: pointer;
  &::before {
    content: "";
    position: absolute;
    left: 0;
    right: 0;
    top: ${(p) => p.$height / 2 - 1}px;
    height: 2px;
    border-radius: 1px;
    background: color-mix(in srgb, currentColor 35%, transparent);
  }
`;
export const FieldThumb = styled(RoundThumb)`
  background: ${(p) => p.theme.surround.pill};
  border: 2px solid ${(p) => p.theme.surround.pillInk};
  &[data-focus-visible] {
    outline-color: ${(p) => p.theme.surround.ink};
  }
`;
