import styled from "styled-components";
import type { StepOf } from "../../../api/types";
import { Picker } from "../../../kit/Picker";
import { blendModes } from "../settings/blendModes";
import type { EditorProps } from "../editor";

type Group = StepOf<"group">;

const Root = styled.div`
  display: grid;
  gap: 12px;
  margin-top: 12px;
  p {
    color: ${(p) => p.theme.tokens.soft};
  }
`;

export default function GroupEditor({ step, change }: EditorProps<Group>) {
  const count = (step.steps ?? []).length;
  return (
    <Root>
      <p>
        {count === 1 ? "One step" : `${count} steps`} with one strength between them. At 0 the picture is as if the
        group were not there, conversions put right.
      </p>
      <Picker
        label="Laid over what came in"
        value={step.blend ?? "normal"}
        options={blendModes}
        onChange={(value) =>
          change("Group: how it is laid over", (before) => ({ ...before, blend: value as NonNullable<Group["blend"]> }))
        }
      />
      <Picker
        label="Fades from what came in"
        value={step.rendering ?? "plain"}
        options={[
          { id: "plain", name: "converted, white stays white" },
          { id: "soft", name: "rendered, between scene and display" },
        ]}
        onChange={(value) =>
          change("Group: what it fades from", (before) => ({
            ...before,
            rendering: value as NonNullable<Group["rendering"]>,
          }))
        }
      />
    </Root>
  );
}
