import { useNavigate } from "react-router";
import { wordsFor } from "../../api/client";
import { useMakeLook } from "../../api/looks";
import type { Step } from "../../api/types";
import { TakeApart } from "../../jobs/TakeApart";
import { Notice } from "../../kit/Notice";
import { closeness } from "../../look/steps/asSteps";
import { Block } from "./layout";

/** A LUT as a look of steps that can be edited, opened on the Bench. */
export function AsSteps({ lut }: { lut: number }) {
  const make = useMakeLook();
  const go = useNavigate();
  return (
    <Block aria-label="Take it apart">
      <h2>Take it apart</h2>
      <TakeApart
        lut={lut}
        label="Make a look of its steps"
        onApart={(apart) => {
          const [first, ...others] = apart.steps as unknown as Step[];
          const steps = first ? [{ ...first, note: closeness(apart).slice(0, 400) }, ...others] : [];
          make.mutate(
            { name: `${apart.name.slice(0, 100)}, as steps`, input: apart.expects, output: apart.gives, steps },
            { onSuccess: (look) => void go(`/bench/${String(look.id)}`) },
          );
        }}
      />
      {make.error && <Notice>{wordsFor(make.error)}</Notice>}
    </Block>
  );
}
