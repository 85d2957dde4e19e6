import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";

const Root = styled(Slider)`
  width: 100%;
`;
const Track = styled(SliderTrack)`
  height: 14px;
  width: 100%;
  cursor: ew-resize;
  &::before {
    content: "";
    position: absolute;
    left: 0;
    right: 0;
    top: 5.5px;
    height: 3px;
    border-radius: 2px;
    background: ${(p) => p.theme.tokens.line};
  }
`;
const Fill = styled.span`
  position: absolute;
  left: 0;
  top: 5.5px;
  height: 3px;
  border-radius: 2px;
  background: ${(p) => p.theme.tokens.ink};
`;
const Thumb = styled(SliderThumb)`
  top: 7px;
  width: 9px;
  height: 9px;
  border-radius: 50%;
  background: ${(p) => p.theme.tokens.glaze};
  border: 1.5px solid ${(p) => p.theme.tokens.ink};
`;

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
      <Track
        onDoubleClick={() => {
          onChange(1);
          onChangeEnd?.();
        }}
      >
        <Fill style={{ width: `${value * 100}%` }} />
        <Thumb />
      </Track>
    </Root>
  );
}
