import { useId } from "react";
import { Slider } from "react-aria-components";
import styled from "styled-components";
import { NumberBox } from "./NumberBox";
import { LineFill, LineTrack, RoundThumb } from "./slider";

const Row = styled.div`
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr) 58px;
  column-gap: 12px;
  align-items: center;
  min-height: 30px;
  position: relative;
  > span {
    color: ${(p) => p.theme.tokens.soft};
  }
  > small {
    position: absolute;
    right: 0;
    bottom: 100%;
    z-index: 3;
    max-width: 260px;
    padding: 4px 9px;
    border-radius: 5px;
    background: ${(p) => p.theme.tokens.ink};
    color: ${(p) => p.theme.tokens.glaze};
    font-size: ${(p) => p.theme.tokens.size.small};
    pointer-events: none;
    visibility: hidden;
  }
  /* On the number that it explains, and wherever the keyboard is in the row. */
  > div:last-of-type:hover + small,
  &:has(:focus-visible) > small {
    visibility: visible;
    transition: visibility 0s 0.5s;
  }
`;
const [HEIGHT, LINE] = [22, 2];
const Neutral = styled.span`
  position: absolute;
  top: 6px;
  width: 1px;
  height: 10px;
  background: ${(p) => p.theme.tokens.faint};
`;
const Value = styled.div`
  display: flex;
  align-items: baseline;
  gap: 3px;
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  input {
    text-align: right;
  }
  span {
    color: ${(p) => p.theme.tokens.soft};
    font-size: 10.5px;
  }
`;

/** Units of which few know what a number of them is. */
const unitWords: Readonly<Record<string, string>> = {
  C: "Chroma in OKLab: 0 is grey, 0.32 the strongest colour of sRGB",
  L: "Lightness in OKLab: black is 0, white 1",
  h: "A share of the picture's height, so that a small and a large picture look the same",
  light: "Linear light: white is 1, half as bright 0.5, 18 % grey 0.18",
  EV: "Stops: one more is twice the light",
  mired: "A million over the colour temperature in kelvin",
  Duv: "Away from the line of blackbodies in CIE 1960 uv: greener above it, pinker below",
};

export interface Setting {
  readonly label: string;
  readonly low: number;
  readonly high: number;
  readonly neutral: number;
  /** One press of an arrow key. */
  readonly step: number;
  readonly digits: number;
  readonly unit?: string;
  /** What the number means, where its unit does not say it. */
  readonly hint?: string;
  /** The bar moves in powers of two: half and double are equally far from 1. */
  readonly inPowers?: boolean;
}

interface Props extends Setting {
  readonly value: number;
  /** `dragging` while the bar is being moved, so that the moves count as one edit until `onDone`. */
  readonly onChange: (value: number, dragging: boolean) => void;
  readonly onDone: () => void;
}

/** A setting with a neutral value: a bar that fills from it, and the exact number; a double click on either puts it back. */
export function SettingBar({
  label,
  low,
  high,
  neutral,
  step,
  digits,
  unit,
  hint = unit ? unitWords[unit] : undefined,
  inPowers,
  value,
  onChange,
  onDone,
}: Props) {
  const told = useId();
  const placed = (at: number) => (inPowers ? Math.log2(at) : at);
  const valueAt = (place: number) => Math.min(high, Math.max(low, inPowers ? 2 ** place : place));
  const [first, last] = [placed(low), placed(high)];
  const share = (at: number) => `${((placed(at) - first) / (last - first)) * 100}%`;
  const [begin, end] = [Math.min(value, neutral), Math.max(value, neutral)];
  return (
    <Row>
      <span aria-hidden>{label}</span>
      <Slider
        aria-label={label}
        {...(hint ? { "aria-details": told } : {})}
        minValue={first}
        maxValue={last}
        step={inPowers ? 0.01 : step}
        value={placed(value)}
        onChange={(next) => onChange(valueAt(next), true)}
        onChangeEnd={onDone}
      >
        <LineTrack
          $height={HEIGHT}
          $line={LINE}
          onDoubleClick={() => {
            onChange(neutral, false);
            onDone();
          }}
        >
          <Neutral style={{ left: share(neutral) }} />
          <LineFill
            $height={HEIGHT}
            $line={LINE}
            style={{ left: share(begin), width: `calc(${share(end)} - ${share(begin)})` }}
          />
          <RoundThumb $height={HEIGHT} $size={11} />
        </LineTrack>
      </Slider>
      <Value>
        <NumberBox
          label={`${label}${unit ? `, ${unit}` : ""}`}
          value={value}
          low={low}
          high={high}
          step={step}
          digits={digits}
          neutral={neutral}
          onChange={(next) => {
            onChange(next, false);
            onDone();
          }}
        />
        {unit && <span aria-hidden>{unit}</span>}
      </Value>
      {hint && (
        <small role="tooltip" id={told}>
          {hint}
        </small>
      )}
    </Row>
  );
}
