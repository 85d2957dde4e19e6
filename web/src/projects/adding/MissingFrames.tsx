import type { Gaps } from "../../api/footage";
import { Picker } from "../../kit/Picker";

interface Props {
  readonly value: Gaps;
  readonly onChange: (gaps: Gaps) => void;
}
const CHOICES: readonly { readonly id: Gaps; readonly name: string }[] = [
  { id: "refuse", name: "It is refused, and told" },
  { id: "leave", name: "It is taken as it is" },
  { id: "hold", name: "The frame before stands in their place" },
];

/** What becomes of a sequence that lacks frames. */
export function MissingFrames({ value, onChange }: Props) {
  return (
    <Picker
      label="Where a sequence lacks frames"
      value={value}
      options={CHOICES}
      onChange={(one) => onChange(one as Gaps)}
    />
  );
}
