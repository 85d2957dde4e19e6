import styled from "styled-components";
import { WordButton } from "../../kit/Button";
import { following, memberOf, ownFields } from "../family";
import { useBench, useBenchPart } from "../useBench";

const Root = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  margin-top: 12px;
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;

/** Which settings of a step the one in hand of the family has of its own; of the recipe, who does not follow it here. */
export function StepFamily({ id, name }: { id: string; name: string }) {
  const { store } = useBench();
  const whole = useBenchPart((state) => state.whole);
  const member = useBenchPart((state) => state.member);
  const found = memberOf(whole, member);
  const others = (whole.family ?? []).filter((one) => ownFields(one, id).length > 0).map((one) => one.name);
  if (!found && others.length > 0) {
    const words = others.length > 1 ? "have settings of their own" : "has settings of its own";
    return <Root>{`${inWords(others)} ${words} here.`}</Root>;
  }
  if (!found) return null;
  const own = ownFields(found, id).map((field) => field.replaceAll("_", " "));
  if (own.length === 0) return null;
  return (
    <Root>
      <span>
        Of {member} alone: {inWords(own)}.
      </span>
      <WordButton onPress={() => store.replace(`${name}: ${member} as the recipe`, following(whole, member, id))}>
        As the recipe
      </WordButton>
    </Root>
  );
}

function inWords(words: readonly string[]): string {
  const [last, ...rest] = [...words].reverse();
  return rest.length === 0 ? (last ?? "") : `${rest.reverse().join(", ")} and ${last ?? ""}`;
}
