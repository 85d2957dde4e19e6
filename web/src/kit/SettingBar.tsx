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
  > span {
    color: ${(p) => p.theme.tokens.soft};
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
    </Row>
  );
}
