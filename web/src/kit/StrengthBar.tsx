import { Slider } from "react-aria-components";
import styled from "styled-components";
import { LineFill, LineTrack, RoundThumb } from "./slider";

const Root = styled(Slider)`
  width: 100%;
`;
const Full = styled.span`
  position: absolute;
  top: 2px;
  width: 1px;
  height: 10px;
  background: ${(p) => p.theme.tokens.ink};
`;
const [HEIGHT, LINE] = [14, 3];

interface Props {
  readonly label: string;
  /** 0..1, or beyond where somebody typed it so */
  readonly value: number;
  /** What it can be dragged to once it lies beyond full. */
  readonly most?: number;
  readonly onChange: (value: number) => void;
  readonly onChangeEnd?: () => void;
}

/** A strength 0..1 as a thin bar that can be dragged; double click puts it back to full. Beyond full the bar is longer, with a tick at full. */
export function StrengthBar({ label, value, most = 1, onChange, onChangeEnd }: Props) {
  const whole = value > 1 ? Math.max(most, value) : 1;
  return (
    <Root
      aria-label={label}
      minValue={0}
      maxValue={whole * 100}
      step={1}
      value={Math.round(value * 100)}
      onChange={(v) => onChange(Number(v) / 100)}
      onChangeEnd={() => onChangeEnd?.()}
      formatOptions={{ maximumFractionDigits: 0 }}
    >
      <LineTrack
        $height={HEIGHT}
        $line={LINE}
        onDoubleClick={() => {
          onChange(1);
          onChangeEnd?.();
        }}
      >
        <LineFill $height={HEIGHT} $line={LINE} style={{ width: `${(value / whole) * 100}%` }} />
        {whole > 1 && <Full style={{ left: `${100 / whole}%` }} />}
        <RoundThumb $height={HEIGHT} $size={9} />
      </LineTrack>
    </Root>
  );
}
