import { WordButton } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { useBench, useBenchPart } from "../useBench";
import { ghostsOf, keptGhost, onlyVariant, variantsOf, withVariant } from "../variants";
import { UnderEditor } from "./UnderEditor";

/** The settings that the step had before, to be kept beside those it has; and of those that were kept, which one is on. */
export function StepVariants({ id }: { id: string }) {
  const { store, view } = useBench();
  const look = useBenchPart((state) => state.look);
  const past = useBenchPart((state) => state.past);
  const member = useBenchPart((state) => state.member);
  const variants = variantsOf(look, id);
  const [ghost] = ghostsOf(look, past, id, member);
  const on = variants.find((one) => one.enabled !== false)?.id ?? "";
  if (variants.length === 0 && !ghost) return null;
  const choose = (variant: string) => {
    store.edit("Another variant", (now) => withVariant(now, variant));
    store.dispatch({ type: "select", id: variant });
  };
  return (
    <UnderEditor role="group" aria-label="Variants of the step">
      {variants.length > 0 && (
        <>
          <Choice
            label="Variant"
            value={on}
            options={variants.map((one, index) => [one.id ?? "", `Variant ${index + 1}`] as const)}
            onChange={choose}
          />
          <WordButton onPress={() => view.set({ mode: "beside", against: "variant" })}>Beside</WordButton>
          <WordButton onPress={() => store.edit("Keep this variant", (now) => onlyVariant(now, id))}>
            Keep only this
          </WordButton>
        </>
      )}
      {ghost && (
        <WordButton onPress={() => store.edit("Keep both as variants", (now) => keptGhost(now, ghost))}>
          Keep as it was before too
        </WordButton>
      )}
      {ghost && variants.length === 0 && <span>J held shows it</span>}
    </UnderEditor>
  );
}
