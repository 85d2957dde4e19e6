import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import styled from "styled-components";
import { tools as toolsQuery } from "../../api/luts";
import { firstEntries } from "../../api/shelf";
import type { Lut, Picture, ToolChoice } from "../../api/types";
import { NumberBox } from "../../kit/NumberBox";
import { Picker } from "../../kit/Picker";
import { TextBox } from "../../kit/TextBox";
import { StrengthBar } from "../../kit/StrengthBar";
import { Trial } from "./Trial";

const Root = styled.div`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
`;
const Bar = styled.div`
  display: flex;
  align-items: end;
  gap: 16px;
  padding: 8px 20px 12px;
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  min-height: 62px;
  flex-wrap: wrap;
  label,
  div[data-field] {
    display: grid;
    gap: 3px;
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
  div[data-field] > span {
    display: flex;
    align-items: center;
    gap: 8px;
    min-height: 30px;
    color: ${(p) => p.theme.tokens.ink};
  }
  input {
    width: 58px;
    text-align: center;
    min-height: 28px;
    border: 1px solid ${(p) => p.theme.tokens.line};
    border-radius: 6px;
    color: ${(p) => p.theme.tokens.ink};
  }
  p {
    margin: 0 0 6px;
    color: ${(p) => p.theme.tokens.soft};
    max-width: 44ch;
  }
`;
const Wide = styled.span`
  width: 160px;
`;
const says: Readonly<Record<string, string>> = {
  strength: "Fades the LUT for good; its conversion stays as it is.",
  compose: "One LUT that does both, converted in between.",
  blend: "Part of this one and part of another for the same encodings.",
  invert: "Undoes the LUT where that can be done; the rest is measured.",
  resize: "Its lattice read anew by tetrahedral interpolation.",
  domain: "Cropped or widened; clamped to its faces outside.",
  grey: "A 1D LUT that does to each channel what it does to grey.",
  extend: "Goes straight on below 0 and above 1.",
  "full-range": "64 to 940 of 1023 become 0 and 1.",
  smooth: "Takes noise out of the lattice, as much as was measured.",
  unswap: "Puts red, green and blue back where they belong.",
};

/** A LUT of the Shelf besides this one, found by typing a part of its name. */
function OtherLut({
  lut,
  same,
  value,
  onChange,
}: {
  lut: Lut;
  same: boolean;
  value: number | null;
  onChange: (id: number | null) => void;
}) {
  const [typed, setTyped] = useState("");
  const search = useDeferredValue(typed);
  const { data } = useQuery({
    ...firstEntries({ search, kinds: ["lut"] }),
    placeholderData: keepPreviousData,
  });
  const others = (data?.entries ?? []).filter(
    (one) => one.id !== lut.id && (!same || (one.lut?.expects === lut.expects && one.lut.gives === lut.gives)),
  );
  const shown = others.some((one) => one.id === value) ? String(value) : "";
  return (
    <>
      <TextBox
        label="Find the other LUT"
        type="search"
        value={typed}
        onChange={setTyped}
        placeholder="Part of its name"
      />
      <Picker
        label="The other LUT"
        value={shown}
        options={others.map((one) => ({ id: String(one.id), name: one.name }))}
        onChange={(id) => onChange(Number(id))}
      />
      {data && others.length === 0 && (
        <p>{same ? "There is no other LUT for the same encodings." : "There is no other LUT like that."}</p>
      )}
    </>
  );
}

/** Tools on a LUT, each seen on the picture before it is kept. */
export function ToolsView({ lut, picture }: { lut: Lut; picture: Picture | undefined }) {
  const { data: tools = [] } = useQuery(toolsQuery);
  const [tool, setTool] = useState("strength");
  const [amount, setAmount] = useState(0.5);
  const [other, setOther] = useState<number | null>(null);
  const [size, setSize] = useState(33);
  const [low, setLow] = useState(0);
  const [high, setHigh] = useState(1);
  const asked = useDeferredValue(amount);
  const chosen = tools.find((one) => one.id === tool);
  const two = chosen?.inputs === 2;
  const asks = (field: string) => chosen?.fields.includes(field) ?? false;
  const ready = !two || other !== null;
  const choice: ToolChoice = { tool, amount: asked, other: two ? other : null, size, low, high };
  return (
    <Root>
      <Bar>
        <Picker
          label="What to do"
          value={tool}
          options={tools.map(({ id, title }) => ({ id, name: title }))}
          onChange={(id) => {
            setTool(id);
            setOther(null);
          }}
        />
        {two && <OtherLut lut={lut} same={tool === "blend"} value={other} onChange={setOther} />}
        {asks("amount") && (
          <div data-field>
            <small>{tool === "blend" ? "Share of the other" : "Strength"}</small>
            <span>
              <Wide>
                <StrengthBar label="Amount" value={amount} onChange={setAmount} onChangeEnd={() => undefined} />
              </Wide>
              <NumberBox
                label="Amount, percent"
                value={amount * 100}
                low={0}
                high={100}
                step={1}
                digits={0}
                neutral={50}
                onChange={(value) => setAmount(value / 100)}
              />{" "}
              %
            </span>
          </div>
        )}
        {asks("size") && (
          <label>
            Grid points a side
            <NumberBox
              label="Grid points a side"
              value={size}
              low={2}
              high={129}
              step={1}
              digits={0}
              neutral={33}
              onChange={(value) => setSize(Math.round(value))}
            />
          </label>
        )}
        {asks("low") && (
          <>
            <label>
              From
              <NumberBox
                label="From"
                value={low}
                low={-16}
                high={15}
                step={0.1}
                digits={3}
                neutral={0}
                onChange={setLow}
              />
            </label>
            <label>
              To
              <NumberBox
                label="To"
                value={high}
                low={-15}
                high={64}
                step={0.1}
                digits={3}
                neutral={1}
                onChange={setHigh}
              />
            </label>
          </>
        )}
        <p>{says[tool]}</p>
      </Bar>
      <Trial lut={lut} choice={ready ? choice : null} title={chosen?.title ?? ""} picture={picture} />
    </Root>
  );
}
