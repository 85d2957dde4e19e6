import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { stepKinds, useMakeLook } from "../../api/looks";
import { useMay } from "../../api/session";
import type { Preset } from "../../api/types";
import { markEdited } from "../../look/edited";
import { PutIntoLook } from "../../look/PutIntoLook";
import { Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Block, Small } from "./layout";

const Steps = styled.ol`
  margin: 0;
  padding-left: 20px;
  display: grid;
  gap: 3px;
`;
const Buttons = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
`;
/** What a preset adds to a look, put into one, or opened on the Bench to become its next version. */
export function PresetFacts({ preset }: { preset: Preset }) {
  const { data: kinds = [] } = useQuery(stepKinds);
  const make = useMakeLook();
  const navigate = useNavigate();
  const mayDesign = useMay("design");
  const [trouble, setTrouble] = useState<unknown>(null);
  const { steps } = preset;

  async function edit() {
    const made = await make
      .mutateAsync({ name: `${preset.name}, on the Bench`, steps: [...steps] })
      .catch((error: unknown) => {
        setTrouble(error);
        return null;
      });
    if (!made) return;
    markEdited(made.id, preset.id);
    await navigate(`/bench/${String(made.id)}`);
  }

  return (
    <Block aria-label="Preset">
      <h2>Its steps</h2>
      <Steps>
        {steps.map((step, index) => (
          <li key={index}>{step.name || (kinds.find((kind) => kind.kind === step.kind)?.title ?? step.kind)}</li>
        ))}
      </Steps>
      {mayDesign && (
        <Buttons>
          <PutIntoLook entry={preset} />
          <Secondary isPending={make.isPending} onPress={() => void edit()}>
            Edit on the Bench
          </Secondary>
        </Buttons>
      )}
      {mayDesign && (
        <Small>
          {preset.may_change
            ? "On the Bench, choose its steps and keep them as a preset: they can become the next version of this one."
            : "On the Bench, its steps can become a preset of your own."}
        </Small>
      )}
      {trouble !== null && <Notice>{wordsFor(trouble)}</Notice>}
    </Block>
  );
}
