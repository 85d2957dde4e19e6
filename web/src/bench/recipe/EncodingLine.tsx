import { useQuery } from "@tanstack/react-query";
import { ArrowDownRight } from "lucide-react";
import styled from "styled-components";
import { encodings as encodingsQuery } from "../../api/encodings";
import type { Look, Picture } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { Picker } from "../../kit/Picker";
import { useBench, useBenchPart } from "../useBench";

const Line = styled.li`
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 3px 12px 3px 23px;
  color: ${(p) => p.theme.tokens.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
  &::before {
    content: "";
    width: 7px;
    height: 7px;
    border-radius: 50%;
    border: 1.5px solid ${(p) => p.theme.tokens.faint};
    flex: none;
  }
  > span {
    flex: none;
  }
  > div {
    flex: 1;
    min-width: 0;
  }
  > div button {
    min-height: 26px;
    border-color: transparent;
    padding: 1px 6px;
    font-size: inherit;
    color: inherit;
  }
  > div button[data-hovered] {
    border-color: ${(p) => p.theme.tokens.line};
  }
`;
const Note = styled.li`
  display: grid;
  grid-template-columns: 15px 1fr;
  gap: 6px;
  padding: 0 14px 6px 20px;
  font-size: ${(p) => p.theme.tokens.size.small};
  line-height: 1.35;
  color: ${(p) => p.theme.tokens.soft};
  svg {
    width: 13px;
    height: 13px;
    margin-top: 1px;
  }
  button {
    font-size: inherit;
  }
`;

/** A look made for another encoding; where it gave back what it took, it still does. */
function madeFor(look: Look, input: string): Look {
  const same = (look.output ?? "srgb") === (look.input ?? "srgb");
  return { ...look, input, output: same ? input : (look.output ?? "srgb") };
}

/** What the look takes or gives, and choosing another. */
export function EncodingLine({ end }: { end: "input" | "output" }) {
  const { store } = useBench();
  const value = useBenchPart((state) => state.look[end] ?? "srgb");
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const options = encodings.map((one) => ({
    id: one.id,
    name: one.name,
    note: one.referred === "scene" ? "scene light" : "display light",
  }));
  return (
    <Line>
      <span>{end === "input" ? "in" : "out"}</span>
      <div>
        <Picker
          hideLabel
          label={end === "input" ? "The look is made for" : "The look ends in"}
          value={value}
          options={options}
          onChange={(next) =>
            store.edit(end === "input" ? "Made for another encoding" : "Ends in another encoding", (look) =>
              end === "input" ? madeFor(look, next) : { ...look, output: next },
            )
          }
        />
      </div>
    </Line>
  );
}

/** Says that the picture is in another encoding than the look is made for, and offers to make the look for it. */
export function PictureLine({ picture }: { picture: Picture | undefined }) {
  const { store } = useBench();
  const input = useBenchPart((state) => state.look.input ?? "srgb");
  const { data: encodings = [] } = useQuery(encodingsQuery);
  if (!picture || picture.encoding === input) return null;
  const name = encodings.find((one) => one.id === picture.encoding)?.name ?? picture.encoding;
  return (
    <Note>
      <ArrowDownRight aria-hidden />
      <span>
        This picture is {name}; it is converted on the way in.{" "}
        <WordButton onPress={() => store.edit(`Make it for ${name}`, (look) => madeFor(look, picture.encoding))}>
          Make the look for {name}
        </WordButton>
      </span>
    </Note>
  );
}
