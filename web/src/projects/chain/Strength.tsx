import styled from "styled-components";
import { NumberBox } from "../../kit/NumberBox";
import { StrengthBar } from "../../kit/StrengthBar";

const Row = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 44px auto;
  align-items: center;
  gap: 8px;
`;

interface Props {
  readonly name: string;
  /** 0..1 */
  readonly value: number;
  readonly onMove: (value: number) => void;
  readonly onRest: (value: number) => void;
  /** Once the bar is let go. */
  readonly onEnd: () => void;
}

/** A layer's strength, as a bar and in percent. */
export function Strength({ name, value, onMove, onRest, onEnd }: Props) {
  return (
    <Row>
      <StrengthBar label={`Strength of ${name}`} value={value} onChange={onMove} onChangeEnd={onEnd} />
      <NumberBox
        label={`Strength of ${name}, percent`}
        value={value * 100}
        low={0}
        high={100}
        step={1}
        digits={0}
        neutral={100}
        onChange={(next) => onRest(next / 100)}
      />
      <span>%</span>
    </Row>
  );
}
