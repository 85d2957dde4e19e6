import { WordButton } from "../../kit/Button";
import { following, memberOf, ownFields } from "../family";
import { useBench, useBenchPart } from "../useBench";
import { UnderEditor } from "./UnderEditor";

/** Which settings of a step the one in hand of the family has of its own; of the recipe, who does not follow it here. */
export function StepFamily({ id, name }: { id: string; name: string }) {
  const { store } = useBench();
  const whole = useBenchPart((state) => state.whole);
  const member = useBenchPart((state) => state.member);
  const found = memberOf(whole, member);
  const others = (whole.family ?? []).filter((one) => ownFields(one, id).length > 0).map((one) => one.name);
  if (!found && others.length > 0) {
    const words = others.length > 1 ? "have settings of their own" : "has settings of its own";
    return <UnderEditor>{`${inWords(others)} ${words} here.`}</UnderEditor>;
  }
  if (!found) return null;
  const own = ownFields(found, id).map((field) => field.replaceAll("_", " "));
  if (own.length === 0) return null;
  return (
    <UnderEditor>
      <span>
        Of {member} alone: {inWords(own)}.
      </span>
      <WordButton onPress={() => store.replace(`${name}: ${member} as the recipe`, following(whole, member, id))}>
        As the recipe
      </WordButton>
    </UnderEditor>
  );
}

function inWords(words: readonly string[]): string {
  const [last, ...rest] = [...words].reverse();
  return rest.length === 0 ? (last ?? "") : `${rest.reverse().join(", ")} and ${last ?? ""}`;
}
