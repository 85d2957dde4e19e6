import { keepPreviousData, useQueries, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { encodings as encodingsQuery, fidelity as fidelityQuery, formats as formatsQuery, useBake, useSaveVersion, versionLook } from "../../api/queries";
import type { Picture } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { JobLine, useJob } from "../../kit/JobLine";
import { Notice } from "../../kit/Notice";
import { NumberBox } from "../../kit/NumberBox";
import { FieldLabel, Picker } from "../../kit/Picker";
import { Sheet, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { useBench, useBenchPart, useSaving } from "../useBench";
import { CheckSide } from "./CheckSide";
import { bakeChoice, measuredChoice, nameOf, paths, remember, remembered, SIZES, type Choices, type What } from "./choices";
import { FormatList } from "./FormatList";
import { SizeChart } from "./SizeChart";

const Body = styled.div`
  display: grid; grid-template-columns: 452px minmax(0, 1fr); min-height: 0; flex: 1;
`;
const Side = styled.div`
  display: grid; gap: 18px; padding: 18px 22px; align-content: start; overflow-y: auto; min-height: 0;
  h3 { font-weight: 600; }
`;
const Checked = styled(Side)`
  gap: 14px; background: ${(p) => p.theme.tokens.paper}; border-left: 1px solid ${(p) => p.theme.tokens.line};
`;
const Part = styled.section`
  display: grid; gap: 8px;
`;
const Pair = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 10px;
`;
const Inline = styled.label`
  display: inline-flex; align-items: center; gap: 6px; color: ${(p) => p.theme.tokens.soft};
  input { width: 44px; text-align: center; border: 1px solid ${(p) => p.theme.tokens.line}; border-radius: 6px; background: ${(p) => p.theme.tokens.glaze}; color: ${(p) => p.theme.tokens.ink}; }
`;
const Row = styled.div`
  display: flex; justify-content: space-between; gap: 12px; flex-wrap: wrap;
`;
const Files = styled.dl`
  margin: 0; display: grid; grid-template-columns: 1fr auto; gap: 2px 12px; font-size: ${(p) => p.theme.tokens.size.small};
  dt { overflow-wrap: anywhere; } dd { margin: 0; font-family: ${(p) => p.theme.tokens.numbers}; color: ${(p) => p.theme.tokens.soft}; }
`;
const Foot = styled.div`
  flex: 1; min-width: 0;
`;
const whats: readonly (readonly [What, string])[] = [["whole", "Whole look"], ["steps", "Some steps"], ["one", "One step or group"]];

const megabytes = (bytes: number) => (bytes < 100_000 ? `${(bytes / 1000).toFixed(1)} kB` : `${(bytes / 1e6).toFixed(1)} MB`);

interface Props {
  readonly isOpen: boolean;
  readonly onClose: () => void;
  readonly picture: Picture | undefined;
}

/** Bake the look, or a part of it, into LUT files that land on the Shelf; measured before. The last choices are remembered. */
export function BakeSheet({ isOpen, onClose, picture }: Props) {
  const { flush, refresh } = useBench();
  const { entry } = useSaving();
  const draft = useBenchPart((state) => state.look);
  const latest = entry.versions[0];
  const fresh = entry.changed_since_version || !latest;
  // Null: the draft, or the latest version where nothing changed since.
  const [picked, setPicked] = useState<number | null>(null);
  const { data: past } = useQuery(versionLook(entry.id, picked));
  const look = picked === null ? draft : (past ?? draft);
  const there = picked === null || past !== undefined;
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const { data: known = [] } = useQuery(formatsQuery);
  const steps = look.steps ?? [];
  const [choices, setChoices] = useState<Choices>(() => remembered(steps.length));
  const [watched, setWatched] = useState(choices.formats[0]?.format ?? "cube");
  const [jobId, setJobId] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const version = useSaveVersion(entry.id);
  const bake = useBake(entry.id);
  const { job, running } = useJob(jobId);
  const set = (change: Partial<Choices>) => setChoices((last) => ({ ...last, ...change }));

  const every = paths(steps);
  const usable = there && (choices.what !== "one" || every.some((one) => one.path === choices.path)) && (choices.what !== "steps" || choices.last <= steps.length);
  const asked = measuredChoice(choices);
  const sizes = (SIZES as readonly number[]).includes(choices.size) ? SIZES : [...SIZES, choices.size].sort((a, b) => a - b);
  const asks = choices.formats.map((format) => ({ look, choice: asked, format, picture: picture?.id ?? null, sizes, tolerance: choices.tolerance }));
  const surveys = useQueries({ queries: asks.map((ask) => ({ ...fidelityQuery(ask), enabled: isOpen && usable, placeholderData: keepPreviousData })) });
  const cannot = surveys.some((one) => one.error !== null);
  const index = Math.max(0, choices.formats.findIndex((one) => one.format === watched));
  const format = choices.formats[index] ?? { format: "cube", depth: 0, suffix: "" };
  const survey = surveys[index];
  const found = survey?.data;
  const holds = known.find((one) => one.id === format.format);
  const size = holds?.sizes ? (holds.sizes.find((one) => one >= choices.size) ?? choices.size) : choices.size;
  const measured = found?.sizes.find((one) => one.size === size) ?? (found?.sizes.length === 1 ? found.sizes[0] : undefined);
  const options = encodings.map((one) => ({ id: one.id, name: one.name }));
  const called = (id: string | undefined) => encodings.find((one) => one.id === id)?.name ?? id ?? "";
  const numbered = steps.map((step, place) => ({ id: String(place + 1), name: `${place + 1} ${every.find((one) => one.path === `steps[${place}]`)?.name ?? step.kind}` }));

  function close() {
    setJobId(null);
    setProblem(null);
    onClose();
  }

  async function start() {
    setBusy(true);
    setProblem(null);
    setJobId(null);
    try {
      remember(choices);
      await flush();
      const number = picked ?? (entry.changed_since_version || !latest ? (await version.mutateAsync("Saved to bake")).number : latest.number);
      const started = await bake.mutateAsync({ version: number, choice: bakeChoice(choices, nameOf(look)) });
      await refresh();
      setJobId(started.id);
    } catch (error) {
      setProblem(wordsFor(error));
    }
    setBusy(false);
  }

  return (
    <Sheet title="Bake to a LUT" isOpen={isOpen} onClose={close} width="1180px">
      <Body>
        <Side>
          <Part aria-label="What is baked">
            <h3>What is baked</h3>
            {entry.versions.length > 0 && (
              <Picker label="Version" value={picked === null ? "" : String(picked)} onChange={(id) => setPicked(id === "" ? null : Number(id))}
                options={[{ id: "", name: fresh ? `The draft, saved as version ${(latest?.number ?? 0) + 1}` : `Version ${latest.number}, the latest` },
                  ...entry.versions.filter((one) => fresh || one.number !== latest.number).map((one) => ({ id: String(one.number), name: `Version ${one.number}`, ...(one.note ? { note: one.note } : {}) }))]} />
            )}
            <Choice label="What is baked" value={choices.what} options={whats} onChange={(what) => set({ what, path: choices.path || (every[0]?.path ?? "") })} />
            {choices.what === "steps" && (
              <Pair>
                <Picker label="From step" value={String(choices.first)} options={numbered} onChange={(id) => set({ first: Number(id), last: Math.max(Number(id), choices.last) })} />
                <Picker label="To step" value={String(choices.last)} options={numbered} onChange={(id) => set({ last: Number(id), first: Math.min(Number(id), choices.first) })} />
              </Pair>
            )}
            {choices.what === "one" && (
              <Picker label="Step or group" value={choices.path} options={every.map((one) => ({ id: one.path, name: `${"  ".repeat(one.depth)}${one.name}` }))} onChange={(path) => set({ path })} />
            )}
          </Part>
          <Part aria-label="What it is for">
            <h3>What it is for</h3>
            <Pair>
              <Picker label="It expects" value={choices.expects} options={[{ id: "", name: `As ${choices.what === "whole" ? "the look" : "the part"}: ${called(choices.expects ? undefined : found?.expects ?? look.input)}` }, ...options]} onChange={(expects) => set({ expects })} />
              <Picker label="It gives" value={choices.gives} options={[{ id: "", name: `As ${choices.what === "whole" ? "the look" : "the part"}: ${called(choices.gives ? undefined : found?.gives ?? look.output)}` }, ...options]} onChange={(gives) => set({ gives })} />
            </Pair>
          </Part>
          <Part aria-label="Size">
            <Row>
              <h3>Size</h3>
              <span>
                <Inline>nodes a side <NumberBox label="Nodes a side" value={choices.size} low={2} high={129} step={1} digits={0} onChange={(value) => set({ size: Math.round(value) })} /></Inline>
                {" "}
                <Inline>tolerance <NumberBox label="Tolerance, CIEDE2000" value={choices.tolerance} low={0.01} high={20} step={0.1} digits={2} neutral={0.5} onChange={(tolerance) => set({ tolerance })} /></Inline>
              </span>
            </Row>
            <SizeChart found={found} sizes={sizes} size={size} tolerance={choices.tolerance} onChange={(next) => set({ size: next })} />
            <FieldLabel elementType="span">
              {found ? found.sizes[0]?.size === 0 ? "Written as curves or formulas: there is no size to choose." : found.proposed === null ? `No size in the chart keeps 99 % of the colours below ${choices.tolerance}.` : `${found.proposed} is the smallest that keeps 99 % of the colours below ${choices.tolerance}.` : survey?.error ? "Not measured: this format cannot hold what is baked." : "Measuring…"}
            </FieldLabel>
          </Part>
          <Part aria-label="Formats">
            <h3>Formats</h3>
            <FormatList formats={choices.formats} onChange={(formats) => { set({ formats }); const added = formats[formats.length - 1]; if (added && formats.length > choices.formats.length) setWatched(added.format); }} />
          </Part>
          <Part aria-label="Words in the file">
            <h3>Words in the file</h3>
            <Pair>
              <TextBox label="Title" value={choices.title ?? nameOf(look)} onChange={(title) => set({ title })} maxLength={120} />
              <TextBox label="Author" value={choices.author} onChange={(author) => set({ author })} maxLength={120} placeholder="Who made the look" />
            </Pair>
            <TextBox label="Rights" value={choices.rights} onChange={(rights) => set({ rights })} maxLength={200} placeholder="Who may use it, and for what" />
            <TextBox label="Note" value={choices.note} onChange={(note) => set({ note })} maxLength={2000} />
          </Part>
        </Side>
        <Checked>
          <Row>
            <h3>The check</h3>
            {choices.formats.length > 1 && <Choice label="Format that is checked" value={format.format} options={choices.formats.map((one) => [one.format, known.find((form) => form.id === one.format)?.suffixes[0] === ".png" ? one.format : `.${one.format}`] as const)} onChange={setWatched} />}
          </Row>
          <CheckSide look={look} choice={asked} format={format} found={found} measured={measured} picture={picture} problem={survey?.error ? wordsFor(survey.error) : null} />
          <Files aria-label="Files">
            {choices.formats.map((one, place) => {
              const own = surveys[place]?.data;
              const form = known.find((item) => item.id === one.format);
              const nodes = form?.sizes ? (form.sizes.find((item) => item >= choices.size) ?? choices.size) : choices.size;
              const about = own?.sizes.find((item) => item.size === nodes)?.about ?? own?.sizes[0]?.about;
              return [<dt key={`${one.format} name`}>{form?.name}{form?.depths.length ? `, ${one.depth || form.depths[0]} bits` : ""}</dt>, <dd key={one.format}>{surveys[place]?.error ? "cannot hold it" : about ? `about ${megabytes(about)}` : "…"}</dd>];
            })}
          </Files>
        </Checked>
      </Body>
      <SheetFoot>
        <Foot>
          <JobLine id={jobId} what="Baking" cancelled="Cancelled. Nothing was put on the Shelf." />
          {problem && <Notice>{problem}</Notice>}
          {job?.state === "done" && job.lut !== null ? (
            <Notice tone="word">
              {job.file_name} is on the <Link to={`/shelf/lut/${job.lut}`}>Shelf</Link>.{" "}
              {choices.formats.length > 1 ? <a href={`/api/luts/${job.lut}/files.zip`} download>Download all formats</a> : <a href={`/api/luts/${job.lut}/file`} download>Download it</a>}
            </Notice>
          ) : (
            !running && !problem && jobId === null && <span>{cannot ? "One of the formats cannot hold it: take it out, or choose another part. " : ""}Bakes {picked !== null ? `version ${picked}` : fresh ? `the draft, saved as version ${(latest?.number ?? 0) + 1}` : `version ${latest.number}`}.</span>
          )}
        </Foot>
        <Secondary onPress={close}>Close</Secondary>
        <Primary isPending={busy || running} isDisabled={!usable || cannot} onPress={() => void start()}>Bake</Primary>
      </SheetFoot>
    </Sheet>
  );
}
