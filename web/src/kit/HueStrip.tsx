import { Slider, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import { RoundThumb } from "./slider";

const Root = styled(Slider)`
  width: calc(100% - 16px);
  margin: 6px 8px;
`;
const Track = styled(SliderTrack)`
  height: 18px;
  width: 100%;
  border-radius: 9px;
  cursor: ew-resize;
`;
/** Filled with the hue it stands on, so its edge is light and has a dark one around it. */
const Thumb = styled(RoundThumb)`
  border: 2.5px solid ${(p) => p.theme.tokens.glaze};
  box-shadow: 0 0 0 1.5px ${(p) => p.theme.tokens.ink};
  &[data-focus-visible] {
    outline-offset: 3px;
  }
`;

/** Hues round the circle, unrolled, at one lightness and chroma. */
export const hueRibbon = `linear-gradient(90deg in oklab, ${Array.from({ length: 49 }, (_, index) => `oklch(0.72 0.125 ${(360 * index) / 48})`).join(",")})`;

interface Props {
  readonly label: string;
  /** OKLCh degrees. */
  readonly value: number;
  readonly onChange: (value: number) => void;
  readonly onDone: () => void;
}

/** A hue, chosen on the circle unrolled into a ribbon. */
export function HueStrip({ label, value, onChange, onDone }: Props) {
  return (
    <Root
      aria-label={label}
      minValue={0}
      maxValue={359}
      step={1}
      value={Math.round(value) % 360}
      onChange={(next) => onChange(Number(next))}
      onChangeEnd={onDone}
    >
      <Track style={{ background: hueRibbon }}>
        <Thumb $height={18} $size={18} style={{ background: `oklch(0.72 0.125 ${value})` }} />
      </Track>
    </Root>
  );
}
