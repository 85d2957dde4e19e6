import { useQuery } from "@tanstack/react-query";
import { ArrowDownRight } from "lucide-react";
import { useState, type ReactNode } from "react";
import styled from "styled-components";
import { encodings as encodingsQuery } from "../../api/encodings";
import type { Look, Picture } from "../../api/types";
import { useActions } from "../../browser/actions";
import { WordButton } from "../../kit/Button";
import { omit } from "../../kit/omit";
import { useBench, useBenchPart, useViewPart } from "../../look/useBench";
import { EncodingPicker } from "../../media/EncodingPicker";

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
    text-align: left;
  }
`;

const Fixed = styled.span`
  line-height: 30px;
`;

/** A look made for another encoding; where it gave back what it took, it still does. */
function madeFor(look: Look, input: string): Look {
  const same = (look.output ?? "srgb") === (look.input ?? "srgb");
  return { ...look, input, output: same ? input : (look.output ?? "srgb") };
}

const expectingAndGiving = (name: string) => `Expect and give ${name}`;

/** Said until the next change: that the other end changed with it, and so what is baked. */
function BothEnds({ name }: { name: string }) {
  const last = useBenchPart((state) => state.past.at(-1)?.name);
  const same = useBenchPart((state) => (state.look.output ?? "srgb") === (state.look.input ?? "srgb"));
  if (last !== expectingAndGiving(name) || !same) return null;
  return (
    <Note role="status">
      <ArrowDownRight aria-hidden />
      <span>It now gives {name} too, and so do LUTs baked from it. What it gives is chosen below its steps.</span>
    </Note>
  );
}

/** What the look expects or gives, and choosing another. beside: what else stands in the line */
export function EncodingLine({ end, beside }: { end: "input" | "output"; beside?: ReactNode }) {
  const { store, mayEdit } = useBench();
  const value = useBenchPart((state) => state.look[end] ?? "srgb");
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const nameOf = (id: string) => encodings.find((one) => one.id === id)?.name ?? id;
  return (
    <>
      <Line>
        <span>{end === "input" ? "in" : "out"}</span>
        <div>
          {!mayEdit && <Fixed>{nameOf(value)}</Fixed>}
          {mayEdit && (
            <EncodingPicker
              hideLabel
              label={end === "input" ? "The look expects" : "The look gives"}
              value={value}
              onChange={(next) =>
                end === "input"
                  ? store.edit(expectingAndGiving(nameOf(next)), (look) => madeFor(look, next))
                  : store.edit(`Give ${nameOf(next)}`, (look) => ({ ...look, output: next }))
              }
            />
          )}
        </div>
        {beside}
      </Line>
      {end === "input" && <BothEnds name={nameOf(value)} />}
    </>
  );
}

/** Says that the picture is in another encoding than the look is made for, and offers to make the look for it. */
export function PictureLine({ picture }: { picture: Picture | undefined }) {
  const { store, view, mayEdit } = useBench();
  const input = useBenchPart((state) => state.look.input ?? "srgb");
  const same = useBenchPart((state) => (state.look.output ?? "srgb") === (state.look.input ?? "srgb"));
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const readAs = useViewPart((one) => (picture ? one.readAs[picture.id] : undefined));
  const [isChoosing, setChoosing] = useState(false);
  useActions(
    picture
      ? [{ name: "Read the picture's codes as another encoding, for this look", run: () => setChoosing(true) }]
      : [],
  );
  if (!picture) return null;
  const nameOf = (id: string) => encodings.find((one) => one.id === id)?.name ?? id;
  const name = nameOf(picture.encoding);
  if (readAs !== undefined || isChoosing)
    return (
      <Note>
        <ArrowDownRight aria-hidden />
        <div>
          <EncodingPicker
            label="For this look only, its codes are read as"
            value={readAs ?? ""}
            first={[{ id: "", name: `${name}, what it says` }]}
            onChange={(next) => {
              const others = omit(view.get().readAs, picture.id);
              view.set({ readAs: next ? { ...others, [picture.id]: next } : others });
              setChoosing(false);
            }}
          />
        </div>
      </Note>
    );
  if (picture.encoding === input) return null;
  return (
    <Note>
      <ArrowDownRight aria-hidden />
      <span>
        This picture is {name}; it is converted on the way in.{" "}
        {mayEdit && (
          <WordButton onPress={() => store.edit(expectingAndGiving(name), (look) => madeFor(look, picture.encoding))}>
            {same ? `Make the look expect and give ${name}` : `Make the look expect ${name}`}
          </WordButton>
        )}{" "}
        <WordButton onPress={() => setChoosing(true)}>Read its codes as another encoding…</WordButton>
      </span>
    </Note>
  );
}
