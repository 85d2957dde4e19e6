import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { encodings as encodingsQuery } from "../../../api/encodings";
import { firstEntries } from "../../../api/shelf";
import type { StepOf } from "../../../api/types";
import { Choice } from "../../../kit/Choice";
import { Fingerprint } from "../../../kit/Disc";
import { Picker } from "../../../kit/Picker";
import { TakeApart } from "../../../jobs/TakeApart";
import { useBench, useBenchPart, useViewPart } from "../../useBench";
import { asSteps } from "../asSteps";
import { useFingerprint } from "../../frames/useFingerprint";
import { SkinLeft } from "../settings/SkinLeft";
import type { EditorProps } from "../editor";
import { EncodingPicker } from "../../../media/EncodingPicker";

type LutStep = StepOf<"lut">;

const Root = styled.div`
  display: grid;
  gap: 14px;
  margin-top: 14px;
`;
const Head = styled.div`
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr);
  gap: 14px;
  align-items: center;
  p {
    color: ${(p) => p.theme.tokens.soft};
    margin-top: 6px;
    font-size: ${(p) => p.theme.tokens.size.small};
    line-height: 1.4;
    overflow-wrap: anywhere;
  }
`;
const Blank = styled.div`
  width: 96px;
  height: 96px;
  border-radius: 50%;
  background: ${(p) => p.theme.tokens.hush};
`;
const Way = styled.ol`
  margin: 0;
  padding: 8px 12px 8px 28px;
  border-radius: 6px;
  background: ${(p) => p.theme.tokens.paper};
  font-size: ${(p) => p.theme.tokens.size.small};
  line-height: 1.55;
  color: ${(p) => p.theme.tokens.soft};
`;
const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
`;

export default function LutEditor({ step, sketch, change, done }: EditorProps<LutStep>) {
  const { store, view } = useBench();
  const isApart = useViewPart((now) => now.apart !== null && now.apart === step.id);
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const { data: page } = useQuery(firstEntries({ kinds: ["lut"] }, 300));
  const luts = (page?.entries ?? []).flatMap((one) =>
    one.lut ? [{ ...one.lut, id: one.id, name: one.name, by: one.by, detail: one.detail }] : [],
  );
  const own = useBenchPart((state) => state.look.encodings);
  const nameOf = (id: string) => encodings.find((one) => one.id === id)?.name ?? id;
  const entry = luts.find((one) => one.sha256 === step.sha256);
  const before = sketch?.before ?? "srgb";
  const [expects, gives] = [step.expects || before, step.gives || step.expects || before];
  const goesOn = step.ends_in === "gives";
  const after = goesOn ? gives : before;
  const print = useFingerprint(
    step.sha256
      ? { input: before, output: after, encodings: own ?? [], steps: [{ ...step, id: "", enabled: true, strength: 1 }] }
      : null,
  );
  const asItComes = [{ id: "", name: "As it comes", note: "that of the junction" }];
  const set = (name: string, fields: Partial<LutStep>) => change(`LUT: ${name}`, (step_) => ({ ...step_, ...fields }));
  const choices = luts.map((one) => ({
    id: one.sha256,
    name: one.name,
    note: `${one.size}, for ${nameOf(one.expects)}`,
  }));
  return (
    <Root>
      <Head>
        {print ? <Fingerprint $size={96} src={print} alt="What the LUT does" /> : <Blank />}
        <div>
          <Picker
            label="LUT"
            value={step.sha256 ?? ""}
            options={
              entry || !step.sha256
                ? [{ id: "", name: "None yet" }, ...choices]
                : [{ id: step.sha256, name: step.title || "not on the Shelf" }, ...choices]
            }
            onChange={(sha256) => {
              const next = luts.find((one) => one.sha256 === sha256);
              set(
                "another file",
                next
                  ? { sha256, title: next.name.slice(0, 120), expects: next.expects, gives: next.gives }
                  : { sha256: "" },
              );
            }}
          />
          {entry && (
            <p>
              {entry.detail}
              {entry.by ? `, by ${entry.by}` : ""}
            </p>
          )}
        </div>
      </Head>
      <Pair>
        <EncodingPicker
          label="It expects"
          value={step.expects ?? ""}
          first={asItComes}
          onChange={(value) => set("what it expects", { expects: value })}
        />
        <EncodingPicker
          label="It gives"
          value={step.gives ?? ""}
          first={asItComes}
          onChange={(value) => set("what it gives", { gives: value })}
        />
      </Pair>
      <Way aria-label="What happens, in order">
        {expects !== before && (
          <li>
            {nameOf(before)} is converted to {nameOf(expects)}.
          </li>
        )}
        <li>The LUT, in {nameOf(expects)}; values beyond its domain are held to it.</li>
        {after !== gives && (
          <li>
            {nameOf(gives)} is converted back to {nameOf(before)}.
          </li>
        )}
        {goesOn && after !== before && <li>The look goes on in {nameOf(after)}.</li>}
        <li>Strength fades to the picture as it came, conversions put right.</li>
      </Way>
      <Choice
        titled
        label="After it"
        value={step.ends_in ?? "back"}
        options={[
          ["back", `Back to ${nameOf(before)}`],
          ["gives", "Go on in what it gives"],
        ]}
        onChange={(ends_in) => set("what follows", { ends_in })}
      />
      <Choice
        titled
        label="Between its grid points"
        value={step.interpolation ?? "tetrahedral"}
        options={[
          ["tetrahedral", "Tetrahedral"],
          ["trilinear", "Trilinear"],
        ]}
        onChange={(interpolation) => set("interpolation", { interpolation })}
      />
      {entry && (
        <TakeApart
          lut={entry.id}
          expects={expects}
          gives={gives}
          label="Take it apart into steps"
          atOnce={isApart}
          onBegun={() => view.set({ apart: null })}
          onApart={(apart) => {
            const { look } = store.get();
            store.editStep(`Taken apart: ${apart.name}`, step.id ?? "", (now) =>
              now.kind === "lut" ? asSteps(now, apart, before, look.view) : now,
            );
          }}
        />
      )}
      <SkinLeft title="LUT" step={step} change={change} done={done} />
    </Root>
  );
}
