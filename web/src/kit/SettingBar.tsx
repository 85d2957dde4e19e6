import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import { NumberBox } from "./NumberBox";

const Row = styled.div`
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr) 58px;
  column-gap: 12px;
  align-items: center;
  min-height: 30px;
  > span {
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Track = styled(SliderTrack)`
  height: 22px;
  width: 100%;
  cursor: ew-resize;
  &::before {
    content: "";
    position: absolute;
    left: 0;
    right: 0;
    top: 10px;
    height: 2px;
    border-radius: 1px;
    background: ${(p) => p.theme.tokens.line};
  }
`;
const Neutral = styled.span`
  position: absolute;
  top: 6px;
  width: 1px;
  height: 10px;
  background: ${(p) => p.theme.tokens.faint};
`;
const Fill = styled.span`
  position: absolute;
  top: 10px;
  height: 2px;
  background: ${(p) => p.theme.tokens.ink};
`;
const Thumb = styled(SliderThumb)`
  top: 11px;
  width: 11px;
  height: 11px;
  border-radius: 50%;
  background: ${(p) => p.theme.tokens.glaze};
  border: 1.5px solid ${(p) => p.theme.tokens.ink};
  &[data-focus-visible] {
    outline: 2px solid ${(p) => p.theme.tokens.accent};
    outline-offset: 2px;
  }
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

export interface Setting {
  readonly label: string;
  readonly low: number;
  readonly high: number;
  readonly neutral: number;
  /** One press of an arrow key. */
  readonly step: number;
  readonly digits: number;
  readonly unit?: string;
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
  inPowers,
  value,
  onChange,
  onDone,
}: Props) {
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
        minValue={first}
        maxValue={last}
        step={inPowers ? 0.01 : step}
        value={placed(value)}
        onChange={(next) => onChange(valueAt(next), true)}
        onChangeEnd={onDone}
      >
        <Track
          onDoubleClick={() => {
            onChange(neutral, false);
            onDone();
          }}
        >
          <Neutral style={{ left: share(neutral) }} />
          <Fill style={{ left: share(begin), width: `calc(${share(end)} - ${share(begin)})` }} />
          <Thumb />
        </Track>
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
    </Row>
  );
}
