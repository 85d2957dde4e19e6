import { ToggleButton, ToggleButtonGroup } from "react-aria-components";
import styled from "styled-components";
import { useSurround } from "../theme/surround";
import { surrounds, type SurroundName } from "../theme/tokens";

const Row = styled(ToggleButtonGroup)`
  display: inline-flex;
  gap: 6px;
`;
const Dot = styled(ToggleButton)<{ $fill: string }>`
  width: 15px;
  height: 15px;
  padding: 0;
  border-radius: 50%;
  cursor: pointer;
  background: ${(p) => p.$fill};
  border: 1px solid ${(p) => p.theme.surround.soft};
  &[data-selected] {
    box-shadow:
      0 0 0 1.5px ${(p) => p.theme.surround.field},
      0 0 0 3px ${(p) => p.theme.surround.ink};
  }
`;
const names: readonly (readonly [SurroundName, string])[] = [
  ["light", "Light surround"],
  ["mid", "Mid grey surround"],
  ["dark", "Dark surround"],
];

/** The field around pictures: light, mid grey or dark. */
export function SurroundChoice() {
  const { name, choose } = useSurround();
  return (
    <Row
      aria-label="Surround"
      selectionMode="single"
      disallowEmptySelection
      selectedKeys={[name]}
      onSelectionChange={(keys) => {
        for (const key of keys) choose(key as SurroundName);
      }}
    >
      {names.map(([id, label]) => (
        <Dot key={id} id={id} aria-label={label} $fill={surrounds[id].field} />
      ))}
    </Row>
  );
}
