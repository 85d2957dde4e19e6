import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import styled from "styled-components";
import { luts as lutsQuery } from "../../api/queries";
import type { Lut, Picture, ToolChoice } from "../../api/types";
import { NumberBox } from "../../kit/NumberBox";
import { Picker } from "../../kit/Picker";
import { StrengthBar } from "../../kit/StrengthBar";
import { Trial } from "./Trial";

type Tool = ToolChoice["tool"];
const Root = styled.div`
  display: grid; grid-template-rows: auto minmax(0, 1fr); min-height: 0;
`;
const Bar = styled.div`
  display: flex; align-items: end; gap: 16px; padding: 8px 20px 12px; background: ${(p) => p.theme.tokens.glaze}; color: ${(p) => p.theme.tokens.ink}; min-height: 62px; flex-wrap: wrap;
  label, div[data-field] { display: grid; gap: 3px; font-size: ${(p) => p.theme.tokens.size.small}; color: ${(p) => p.theme.tokens.soft}; }
  div[data-field] > span { display: flex; align-items: center; gap: 8px; min-height: 30px; color: ${(p) => p.theme.tokens.ink}; }
  input { width: 58px; text-align: center; min-height: 28px; border: 1px solid ${(p) => p.theme.tokens.line}; border-radius: 6px; color: ${(p) => p.theme.tokens.ink}; }
  p { margin: 0 0 6px; color: ${(p) => p.theme.tokens.soft}; max-width: 44ch; }
`;
const Wide = styled.span`
  width: 160px;
`;
const tools: readonly { id: Tool; name: string; says: string }[] = [
  { id: "strength", name: "Strength, baked in", says: "Fades the LUT for good; its conversion stays whole." },
  { id: "compose", name: "Another LUT after it", says: "One LUT that does both, converted in between." },
  { id: "blend", name: "Blended with another", says: "Part of this one and part of another for the same encodings." },
  { id: "invert", name: "Inverted", says: "Undoes the LUT where that can be done; the rest is measured." },
  { id: "resize", name: "Another size", says: "Its lattice read anew by tetrahedral interpolation." },
  { id: "domain", name: "Another input range", says: "Cropped or widened; held at its faces outside." },
  { id: "grey", name: "Curves of its grey axis", says: "A 1D LUT that does to each channel what it does to grey." },
  { id: "extend", name: "Range extended", says: "Goes straight on below 0 and above 1." },
  { id: "full-range", name: "Legal to full range", says: "64 to 940 of 1023 become 0 and 1." },
  { id: "smooth", name: "Smoothed", says: "Takes noise out of the lattice, as much as was measured." },
];

/** Tools on a LUT, each seen on the picture before it is kept. */
export function ToolsView({ lut, picture }: { lut: Lut; picture: Picture | undefined }) {
  const { data: luts = [] } = useQuery(lutsQuery);
  const [tool, setTool] = useState<Tool>("strength");
  const [amount, setAmount] = useState(0.5);
  const [other, setOther] = useState("");
  const [size, setSize] = useState(33);
  const [low, setLow] = useState(0);
  const [high, setHigh] = useState(1);
  const asked = useDeferredValue(amount);
  const chosen = tools.find((one) => one.id === tool);
  const two = tool === "compose" || tool === "blend";
  const others = luts.filter((one) => one.id !== lut.id && (tool !== "blend" || (one.expects === lut.expects && one.gives === lut.gives)));
  const ready = !two || others.some((one) => String(one.id) === other);
  const choice: ToolChoice = { tool, amount: asked, other: two ? Number(other) : null, size, low, high };
  return (
    <Root>
      <Bar>
        <Picker label="What to do" value={tool} options={tools.map(({ id, name }) => ({ id, name }))} onChange={(id) => setTool(id as Tool)} />
        {two && <Picker label="The other LUT" value={other} options={others.map((one) => ({ id: String(one.id), name: one.name }))} onChange={setOther} />}
        {(tool === "strength" || tool === "blend") && (
          <div data-field><small>{tool === "blend" ? "Share of the other" : "Strength"}</small>
            <span><Wide><StrengthBar label="Amount" value={amount} onChange={setAmount} onChangeEnd={() => undefined} /></Wide>
              <NumberBox label="Amount, percent" value={amount * 100} low={0} high={100} step={1} digits={0} neutral={50} onChange={(value) => setAmount(value / 100)} /> %</span></div>
        )}
        {(tool === "resize" || tool === "invert" || two) && <label>Nodes a side<NumberBox label="Nodes a side" value={size} low={2} high={129} step={1} digits={0} neutral={33} onChange={(value) => setSize(Math.round(value))} /></label>}
        {tool === "domain" && (
          <>
            <label>From<NumberBox label="From" value={low} low={-16} high={15} step={0.1} digits={3} neutral={0} onChange={setLow} /></label>
            <label>To<NumberBox label="To" value={high} low={-15} high={64} step={0.1} digits={3} neutral={1} onChange={setHigh} /></label>
          </>
        )}
        <p>{two && others.length === 0 ? "There is no other LUT for the same encodings." : chosen?.says}</p>
      </Bar>
      <Trial lut={lut} choice={ready ? choice : null} title={chosen?.name ?? ""} picture={picture} />
    </Root>
  );
}
