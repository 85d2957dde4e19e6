import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { stepKinds } from "../../api/looks";
import type { Preset } from "../../api/types";
import { Block, Small } from "./layout";

const Steps = styled.ol`
  margin: 0;
  padding-left: 20px;
  display: grid;
  gap: 3px;
`;

/** What a preset adds to a look. */
export function PresetFacts({ preset }: { preset: Preset }) {
  const { data: kinds = [] } = useQuery(stepKinds);
  return (
    <Block aria-label="Preset">
      <h2>Its steps</h2>
      <Steps>
        {preset.steps.map((step, index) => (
          <li key={index}>{step.name || (kinds.find((kind) => kind.kind === step.kind)?.title ?? step.kind)}</li>
        ))}
      </Steps>
      <Small>Under Add on the Bench they are put into a look.</Small>
    </Block>
  );
}
