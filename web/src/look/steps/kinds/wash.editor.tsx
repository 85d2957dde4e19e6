import styled from "styled-components";
import type { StepOf } from "../../../api/types";
import { ColourField } from "../../../kit/ColourField";
import { Picker } from "../../../kit/Picker";
import { Ramp } from "../graph/Ramp";
import { blendModes } from "../settings/blendModes";
import type { EditorProps } from "../editor";

type Wash = StepOf<"wash">;

const Root = styled.div`
  display: grid;
  gap: 14px;
  margin-top: 14px;
`;

export default function WashEditor({ step, sketch, change, done }: EditorProps<Wash>) {
  return (
    <Root>
      <ColourField
        label="Colour, code values"
        value={step.colour ?? [1, 1, 1]}
        onDone={done}
        onChange={(colour, moving) =>
          change("Wash: colour", (before) => ({ ...before, colour }), moving ? "colour" : undefined)
        }
      />
      <Picker
        label="Laid over by"
        value={step.mode ?? "multiply"}
        options={blendModes}
        onChange={(mode) =>
          change("Wash: how it is laid over", (before) => ({ ...before, mode: mode as NonNullable<Wash["mode"]> }))
        }
      />
      <Ramp after={sketch?.ramp} />
    </Root>
  );
}
