import { useState } from "react";
import styled from "styled-components";
import type { Picture } from "../api/types";
import { Check } from "../kit/Check";
import { NumberBox } from "../kit/NumberBox";
import { useSoon } from "../kit/useSoon";

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
  /** Kelvin; 0 for what the camera says. Where it is refused, what was there is shown again. */
  readonly onChange: (white: number, onRefused: () => void) => void;
}

/** What a raw photograph is balanced to: the white of its camera, or a chosen one. */
export function WhiteChoice({ picture, onChange }: Props) {
  // The file is read anew for each white, so that only the one at which the keys come to rest is asked for.
  const [chosen, setChosen] = useState<{ of: number; white: number } | null>(null);
  const white = chosen?.of === picture.white ? chosen.white : picture.white;
  const changeSoon = useSoon((next: number) => onChange(next, () => setChosen(null)));
  const choose = (next: number) => {
    setChosen({ of: picture.white, white: next });
    changeSoon(next);
  };
  return (
    <Line role="group" aria-label={`White of ${picture.name}`}>
      <Check isOn={white === 0} onChange={(asCamera) => choose(asCamera ? 0 : DAYLIGHT)}>
        White as its camera said
      </Check>
      {white !== 0 && (
        <Kelvin>
          <NumberBox
            label={`White of ${picture.name}, kelvin`}
            value={white}
            onChange={(next) => choose(Math.round(next))}
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
