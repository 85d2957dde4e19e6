import { Slider } from "react-aria-components";
import styled from "styled-components";
import { LineFill, LineTrack, RoundThumb } from "./slider";

const Root = styled(Slider)`
  width: 100%;
`;
const [HEIGHT, LINE] = [14, 3];

interface Props {
  readonly label: string;
  /** 0..1 */
  readonly value: number;
  readonly onChange: (value: number) => void;
  readonly onChangeEnd?: () => void;
}

/** A strength 0..1 as a thin bar that can be dragged; double click puts it back to full. */
export function StrengthBar({ label, value, onChange, onChangeEnd }: Props) {
  return (
    <Root
      aria-label={label}
      minValue={0}
      maxValue={100}
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
        <LineFill $height={HEIGHT} $line={LINE} style={{ width: `${value * 100}%` }} />
        <RoundThumb $height={HEIGHT} $size={9} />
      </LineTrack>
    </Root>
  );
}
