import { useQuery } from "@tanstack/react-query";
import { CircleAlert, CircleCheck } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { reading as readingQuery, useKeepResult, useSendChart, useStandin } from "../../api/making";
import type { ChartChoice, EditorChoice, Lut, Reading } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Choice } from "../../kit/Choice";
import { JobLine, useJob } from "../../jobs/JobLine";
import { Notice } from "../../kit/Notice";
import { NumberBox } from "../../kit/NumberBox";
import { Picker } from "../../kit/Picker";
import { Sheet, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { FileDrop } from "../../kit/FileDrop";
import { Part, Two } from "./Part";
import { withoutMarks } from "../../kit/PlainList";
import { EncodingPicker } from "../../media/EncodingPicker";

const Body = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) minmax(0, 1.1fr);
  min-height: 420px;
  flex: 1;
  overflow: hidden;
`;
const Download = styled.a`
  display: inline-flex;
  justify-content: center;
  min-height: 30px;
  padding: 5px 14px;
  border-radius: ${(p) => p.theme.tokens.radius.pill};
  border: 1.5px solid ${(p) => p.theme.tokens.line};
  color: ${(p) => p.theme.tokens.ink};
  font-weight: 500;
  text-decoration: none;
  &:hover {
    border-color: ${(p) => p.theme.tokens.faint};
  }
`;
const Practice = styled.fieldset`
  border: 0;
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  margin: 4px 0 0;
  padding: 14px 0 0;
  display: grid;
  gap: 8px;
  legend {
    padding: 0;
    float: left;
    font-weight: 600;
    margin-bottom: 6px;
  }
`;
const Spoil = styled.div`
  display: grid;
  grid-template-columns: 1fr 62px;
  gap: 8px;
  align-items: center;
  input:not([type="checkbox"]) {
    text-align: center;
    border: 1px solid ${(p) => p.theme.tokens.line};
    border-radius: 6px;
    min-height: 26px;
  }
`;
const Effects = styled.ul`
  ${withoutMarks}
  display: grid;
  gap: 10px;
  li {
    display: grid;
    grid-template-columns: 18px 1fr auto;
    gap: 8px;
  }
  svg {
    width: 16px;
    height: 16px;
    margin-top: 1px;
    color: ${(p) => p.theme.tokens.caution};
  }
  b {
    font-weight: 600;
    display: block;
  }
  code {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
const Clean = styled.p`
  display: flex;
  gap: 8px;
  align-items: flex-start;
  color: ${(p) => p.theme.tokens.ink} !important;
  svg {
    width: 17px;
    height: 17px;
    flex: none;
  }
`;
const Measures = styled.dl`
  margin: 0;
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 12px;
  font-size: ${(p) => p.theme.tokens.size.small};
  dt {
    color: ${(p) => p.theme.tokens.soft};
  }
  dd {
    margin: 0;
    font-family: ${(p) => p.theme.tokens.numbers};
  }
`;
const Foot = styled.div`
  flex: 1;
  min-width: 0;
`;
const names: Record<string, string> = {
  grain: "Scatter in flat greys",
  vignette: "Difference by place",
  edge: "Overshoot (+) or softness (−) at edges",
  ripple: "Ripples in small patches",
  twins: "Twins apart, root mean square",
};
const spoils = [
  { id: "grain", name: "Grain", amount: 0.15, high: 1, step: 0.05 },
  { id: "vignette", name: "Vignette", amount: 0.3, high: 1, step: 0.05 },
  { id: "sharpen", name: "Sharpening", amount: 1, high: 4, step: 0.1 },
  { id: "jpeg", name: "JPEG quality", amount: 85, high: 100, step: 1 },
] as const;
type Spoils = Readonly<Partial<Record<(typeof spoils)[number]["id"], number>>>;
const twinSizes = [9, 11, 17, 25, 33];
const plainSizes = [16, 25, 36, 49, 64];

function Verdict({ found }: { found: Reading }) {
  return (
    <>
      {found.clean ? (
        <Clean>
          <CircleCheck aria-hidden />
          {found.verdict}
        </Clean>
      ) : (
        <Effects aria-label="What got in">
          {found.found.map((one) => (
            <li key={one.id}>
              <CircleAlert aria-hidden />
              <span>
                <b>{one.title}</b>
                {one.sentence}
              </span>
              <code>{one.codes.toFixed(1)}</code>
            </li>
          ))}
        </Effects>
      )}
      {Object.keys(found.measured).length > 0 && (
        <Measures aria-label="Measured, in codes of 255">
          {Object.entries(found.measured).map(([id, value]) => [
            <dt key={`${id} name`}>{names[id] ?? id}</dt>,
            <dd key={id}>{value.toFixed(2)}</dd>,
          ])}
        </Measures>
      )}
      <p>
        {found.kind === "twin" ? "Twin" : "Plain"} chart of {found.size} colours a side,{" "}
        {found.depth === "u8" ? "8 bits" : found.depth === "u16" ? "16 bits" : "floats"}. Smoothed, its LUT is:{" "}
        {found.health}.
      </p>
    </>
  );
}

interface Props {
  readonly isOpen: boolean;
  readonly onClose: () => void;
  readonly onKept: (lut: Lut) => void;
}

/** Send a neutral chart through another program and read it back as a LUT, with the verdict on what else got in. */
export function RoundTripSheet({ isOpen, onClose, onKept }: Props) {
  const [kind, setKind] = useState<"twin" | "plain">("twin");
  const [size, setSize] = useState(17);
  const [depth, setDepth] = useState<"8" | "16">("16");
  const [suffix, setSuffix] = useState<".png" | ".tif">(".png");
  const [encoding, setEncoding] = useState("srgb");
  const [file, setFile] = useState<File | null>(null);
  const [known, setKnown] = useState(false);
  const [spoilt, setSpoilt] = useState<Spoils>({});
  const [jobId, setJobId] = useState<number | null>(null);
  const [name, setName] = useState("");
  const send = useSendChart();
  const standin = useStandin();
  const keep = useKeepResult();
  const { job, running } = useJob(jobId);
  const { data: found, error } = useQuery({ ...readingQuery(jobId), enabled: job?.state === "done" });
  const chart: ChartChoice = { kind, size, depth: Number(depth), suffix, encoding, patch: 8, layout: "hald" };
  const query = new URLSearchParams({ kind, size: String(size), depth, suffix, encoding });
  const sizes = kind === "twin" ? twinSizes : plainSizes;
  const shownName = name || (file ? file.name.replace(/\.[^.]*$/, "") : "Read back");

  function close() {
    setJobId(null);
    setFile(null);
    send.reset();
    standin.reset();
    keep.reset();
    onClose();
  }
  const read = (chosen: File) => {
    setFile(chosen);
    setJobId(null);
    send.mutate({ file: chosen, chart, known }, { onSuccess: (started) => setJobId(started.id) });
  };
  const practise = () => {
    const editor: EditorChoice = { grain: 0, vignette: 0, sharpen: 0, jpeg: 0, resize: 1, ...spoilt };
    setFile(null);
    setJobId(null);
    standin.mutate({ chart, editor }, { onSuccess: (started) => setJobId(started.id) });
  };
  const put = (which: "smooth" | "raw") =>
    jobId !== null &&
    keep.mutate(
      { job: jobId, which, name: shownName, licence: "" },
      {
        onSuccess: (made) => {
          close();
          onKept(made);
        },
      },
    );
  const trouble = send.error ?? standin.error ?? error ?? keep.error;

  return (
    <Sheet title="Round trip through another program" isOpen={isOpen} onClose={close} width="1120px">
      <Body>
        <Part aria-label="The chart">
          <h3>1. The chart</h3>
          <Choice
            label="Chart"
            value={kind}
            options={[
              ["twin", "Twin chart"],
              ["plain", "Plain chart"],
            ]}
            onChange={(next) => {
              setKind(next);
              setSize(next === "twin" ? 17 : 36);
            }}
          />
          <p>
            {kind === "twin"
              ? "Every colour stands in two far-apart places: where they disagree afterwards, something else than a recolouring got in."
              : "A picture LUT, one pixel for each colour. Smaller, but it cannot tell what got in."}
          </p>
          <Two>
            <Picker
              label="Colours a side"
              value={String(size)}
              options={sizes.map((one) => ({ id: String(one), name: String(one) }))}
              onChange={(id) => setSize(Number(id))}
            />
            <EncodingPicker label="Encoding of the program" value={encoding} onChange={setEncoding} />
          </Two>
          <Two>
            <Choice
              label="Depth"
              titled
              value={depth}
              options={[
                ["16", "16 bits"],
                ["8", "8 bits"],
              ]}
              onChange={setDepth}
            />
            <Choice
              label="File"
              titled
              value={suffix}
              options={[
                [".png", "PNG"],
                [".tif", "TIFF"],
              ]}
              onChange={setSuffix}
            />
          </Two>
          <Download href={`/api/charts/new?${query}`} download>
            Download the chart
          </Download>
        </Part>
        <Part aria-label="The way back">
          <h3>2. Recolour it, bring it back</h3>
          <FileDrop
            file={file}
            onFile={read}
            prompt="Drop the recoloured chart here"
            kinds="PNG, TIFF, JPEG or WebP, at the size it was made"
            accept={[".png", ".tif", ".tiff", ".jpg", ".jpeg", ".webp"]}
          />
          <Check isOn={known} onChange={setKnown}>
            It was made with the choices on the left
          </Check>
          <Practice>
            <legend>Or practise with a stand-in editor</legend>
            {spoils.map((one) => (
              <Spoil key={one.id}>
                <Check
                  isOn={spoilt[one.id] !== undefined}
                  onChange={(on) =>
                    setSpoilt((last) =>
                      on
                        ? { ...last, [one.id]: one.amount }
                        : Object.fromEntries(Object.entries(last).filter(([id]) => id !== one.id)),
                    )
                  }
                >
                  {one.name}
                </Check>
                {spoilt[one.id] !== undefined && (
                  <NumberBox
                    label={`${one.name}, amount`}
                    value={spoilt[one.id] ?? 0}
                    low={0}
                    high={one.high}
                    step={one.step}
                    digits={2}
                    onChange={(value) =>
                      setSpoilt((last) => ({ ...last, [one.id]: one.id === "jpeg" ? Math.round(value) : value }))
                    }
                  />
                )}
              </Spoil>
            ))}
            <Secondary isPending={standin.isPending || running} onPress={practise}>
              Recolour and read back
            </Secondary>
          </Practice>
        </Part>
        <Part aria-label="The verdict">
          <h3>3. The verdict</h3>
          <JobLine id={jobId} what="Reading the chart" cancelled="Cancelled." />
          {trouble && <Notice>{wordsFor(trouble)}</Notice>}
          {found ? (
            <>
              <Verdict found={found} />
              <TextBox label="Name of the LUT" value={shownName} onChange={setName} maxLength={120} />
            </>
          ) : (
            !running &&
            !trouble &&
            job?.state !== "failed" && (
              <p>Clean, or what got in: vignette, grain, sharpening, compression or resizing, each with how much.</p>
            )
          )}
        </Part>
      </Body>
      <SheetFoot>
        <Foot />
        <Secondary onPress={close}>Close</Secondary>
        {found && !found.clean && (
          <Secondary isPending={keep.isPending} onPress={() => put("raw")}>
            Keep it as it stands
          </Secondary>
        )}
        <Primary isDisabled={!found} isPending={keep.isPending} onPress={() => put("smooth")}>
          {found && !found.clean ? "Keep it smoothed" : "Keep the LUT"}
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
