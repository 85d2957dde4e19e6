import { Check } from "../../kit/Check";

interface Props {
  readonly isOn: boolean;
  readonly onChange: (isOn: boolean) => void;
}

/** What becomes of a sequence that lacks frames: refused, unless this is said. */
export function HoldFrames({ isOn, onChange }: Props) {
  return (
    <Check isOn={isOn} onChange={onChange}>
      Where a sequence lacks a frame, hold the one before
    </Check>
  );
}
