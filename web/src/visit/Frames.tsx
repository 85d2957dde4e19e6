import { Slider } from "react-aria-components";
import styled from "styled-components";
import { FieldThumb, FieldTrack } from "../kit/slider";

const Root = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  gap: 14px;
  width: 100%;
  margin-top: 8px;
  color: ${(p) => p.theme.surround.ink};
`;
const Count = styled.output`
  font-family: ${(p) => p.theme.tokens.numbers};
  font-size: ${(p) => p.theme.tokens.size.small};
  font-variant-numeric: tabular-nums;
`;
const HEIGHT = 26;

interface Props {
  readonly first: number;
  readonly last: number;
  readonly frame: number;
  readonly onFrame: (frame: number) => void;
}

/** The frames of a shot that moves, to go through; counted from 1. */
export function Frames({ first, last, frame, onFrame }: Props) {
  const count = last - first + 1;
  const at = frame - first + 1;
  return (
    <Root>
      <Slider
        aria-label="Frame"
        minValue={1}
        maxValue={count}
        step={1}
        value={at}
        onChange={(value) => onFrame(first + value - 1)}
      >
        <FieldTrack $height={HEIGHT}>
          <FieldThumb $height={HEIGHT} $size={13} />
        </FieldTrack>
      </Slider>
      <Count>
        {at} of {count}
      </Count>
    </Root>
  );
}
