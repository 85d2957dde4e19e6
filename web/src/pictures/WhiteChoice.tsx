import styled from "styled-components";
import type { Picture } from "../api/types";
import { Check } from "../kit/Check";
import { NumberBox } from "../kit/NumberBox";

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
  margin-top: 8px;
  min-height: 26px;
`;
const Kelvin = styled.label`
  display: flex;
  align-items: center;
  gap: 6px;
  input {
    width: 64px;
    text-align: right;
  }
`;
/** Kelvin, as the core has them; what is begun with is daylight. */
const [WARMEST, COOLEST, DAYLIGHT] = [2000, 25_000, 5500];

interface Props {
  readonly picture: Picture;
  /** Kelvin; 0 for what the camera says. */
  readonly onChange: (white: number) => void;
}

/** What a raw photograph is balanced to: the white of its camera, or a chosen one. */
export function WhiteChoice({ picture, onChange }: Props) {
  return (
    <Line role="group" aria-label={`White of ${picture.name}`}>
      <Check isOn={picture.white === 0} onChange={(asCamera) => onChange(asCamera ? 0 : DAYLIGHT)}>
        White as its camera said
      </Check>
      {picture.white !== 0 && (
        <Kelvin>
          <NumberBox
            label={`White of ${picture.name}, kelvin`}
            value={picture.white}
            onChange={(white) => onChange(Math.round(white))}
            low={WARMEST}
            high={COOLEST}
            step={100}
            digits={0}
            neutral={DAYLIGHT}
          />
          K
        </Kelvin>
      )}
    </Line>
  );
}
