import { SwatchBook } from "lucide-react";
import { IconButton } from "../../kit/Button";
import { Flyout } from "../../kit/Flyout";
import { Hint } from "../../kit/Hint";
import { MOST_MEMBERS } from "../../look/family";
import { useBench, useBenchPart } from "../../look/useBench";
import { NewMember } from "./NewMember";

/** Opens what makes one more of the family, where there is room for one and somebody may. */
export function AddMember() {
  const { mayEdit } = useBench();
  const count = useBenchPart((state) => state.whole.family?.length ?? 0);
  if (!mayEdit || count >= MOST_MEMBERS) return null;
  return (
    <Flyout
      label="One more of the family"
      button={
        <Hint text="One more of the family: other settings of this recipe, under a name">
          <IconButton aria-label="One more of the family">
            <SwatchBook aria-hidden />
          </IconButton>
        </Hint>
      }
    >
      {(close) => <NewMember onDone={close} />}
    </Flyout>
  );
}
