import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { call, wordsFor } from "../api/client";
import { encodings as encodingsQuery, job as jobQuery, useBake, useSaveVersion } from "../api/queries";
import { Primary, Secondary } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { Fingerprint } from "../kit/Disc";
import { Notice } from "../kit/Notice";
import { FieldLabel } from "../kit/Picker";
import { Sheet, SheetFoot } from "../kit/Sheet";
import { TextBox } from "../kit/TextBox";
import type { Job } from "../api/types";
import type { Reader } from "./frames/reader";
import { useBench, useBenchPart, useSaving } from "./useBench";
import { useReading } from "./useFrames";

const Body = styled.div`
  display: grid; grid-template-columns: 1fr 236px; min-height: 0; overflow-y: auto;
`;
const Choices = styled.div`
  display: grid; gap: 16px; padding: 18px 22px; align-content: start;
`;
const Facts = styled.aside`
  padding: 18px 22px; background: ${(p) => p.theme.tokens.paper}; border-left: 1px solid ${(p) => p.theme.tokens.line};
  dl { margin: 14px 0 0; display: grid; gap: 10px; }
  dt { font-size: ${(p) => p.theme.tokens.size.small}; color: ${(p) => p.theme.tokens.soft}; }
  dd { margin: 0; overflow-wrap: anywhere; }
`;
const Bar = styled.progress`
  width: 100%; height: 6px; border: 0; border-radius: 3px; overflow: hidden; background: ${(p) => p.theme.tokens.line};
  &::-webkit-progress-bar { background: ${(p) => p.theme.tokens.line}; }
  &::-webkit-progress-value { background: ${(p) => p.theme.tokens.accent}; }
`;
const sizes = ["17", "33", "65"] as const;
type Size = (typeof sizes)[number];
const KEY = "saucer.bake";

function remembered(): { size: Size; author: string } {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? "{}") as { size?: Size; author?: string };
    return { size: kept.size && sizes.includes(kept.size) ? kept.size : "33", author: kept.author ?? "" };
  } catch {
    return { size: "33", author: "" };
  }
}

interface Props {
  readonly isOpen: boolean;
  readonly onClose: () => void;
  readonly reader: Reader;
}

/** Bake the look into a LUT file that lands on the Shelf. The last choices are remembered. */
export function BakeSheet({ isOpen, onClose, reader }: Props) {
  const fingerprint = useReading(reader, (readings) => readings.fingerprint);
  const { flush, refresh } = useBench();
  const { entry } = useSaving();
  const look = useBenchPart((state) => state.look);
  const { data: encodings } = useQuery(encodingsQuery);
  const [size, setSize] = useState<Size>(() => remembered().size);
  const [author, setAuthor] = useState(() => remembered().author);
  const [title, setTitle] = useState<string | null>(null);
  const [jobId, setJobId] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const version = useSaveVersion(entry.id);
  const bake = useBake(entry.id);
  const { data: job } = useQuery(jobQuery(jobId));
  const shownTitle = title ?? look.name ?? "";
  const latest = entry.versions[0];
  const nameOf = (id: string | undefined) => encodings?.find((one) => one.id === id)?.name ?? id;
  const running = job?.state === "waiting" || job?.state === "running" || (jobId !== null && !job);
  const rows = Number(size) ** 3;

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
      localStorage.setItem(KEY, JSON.stringify({ size, author }));
      await flush();
      const number = entry.changed_since_version || !latest ? (await version.mutateAsync("Saved to bake")).number : latest.number;
      const started = await bake.mutateAsync({ version: number, size: Number(size), title: shownTitle, author });
      await refresh();
      setJobId(started.id);
    } catch (error) {
      setProblem(wordsFor(error));
    }
    setBusy(false);
  }

  return (
    <Sheet title="Bake to a LUT" isOpen={isOpen} onClose={close} width="740px">
      <Body>
        <Choices>
          <TextBox label="Title" value={shownTitle} onChange={setTitle} maxLength={120} />
          <TextBox label="Author" value={author} onChange={setAuthor} maxLength={120} placeholder="Who made the look" />
          <div>
            <FieldLabel elementType="span">Size</FieldLabel>
            <div><Choice label="Size" value={size} options={sizes.map((one) => [one, one] as const)} onChange={setSize} /></div>
          </div>
          {problem && <Notice>{problem}</Notice>}
          {job?.state === "failed" && <Notice>{job.problem}</Notice>}
          {job?.state === "cancelled" && <Notice tone="word">Cancelled. Nothing was put on the Shelf.</Notice>}
          {running && <div role="status">Baking…<Bar value={job?.progress ?? 0} max={1} /></div>}
          {job?.state === "done" && job.lut !== null && (
            <Notice tone="word">
              {job.left_out.length > 0 && <>Left out, because no LUT can hold it: {job.left_out.join(", ")}. </>}
              {job.file_name} is on the <Link to={`/shelf/lut/${job.lut}`}>Shelf</Link>. <a href={`/api/luts/${job.lut}/file`} download>Download it</a>
            </Notice>
          )}
        </Choices>
        <Facts>
          {fingerprint && <Fingerprint $size={104} src={fingerprint} alt="Fingerprint of the look" />}
          <dl>
            <div><dt>Bakes</dt><dd>{entry.changed_since_version || !latest ? `the draft, saved as version ${(latest?.number ?? 0) + 1}` : `version ${latest.number}`}</dd></div>
            <div><dt>Expects</dt><dd>{nameOf(look.input)}</dd></div>
            <div><dt>Gives</dt><dd>{nameOf(look.output)}</dd></div>
            <div><dt>File</dt><dd>.cube, {rows.toLocaleString("en-GB")} rows, about {((rows * 33) / 1e6).toFixed(1)} MB{encodings?.find((one) => one.id === look.input)?.linear ? ", with a 1D shaper" : ""}</dd></div>
          </dl>
        </Facts>
      </Body>
      <SheetFoot>
        {running && job && <Secondary onPress={() => void call<Job>(`/jobs/${job.id}/cancel`, { method: "POST" }).catch((error: unknown) => setProblem(wordsFor(error)))}>Cancel the bake</Secondary>}
        <Secondary onPress={close}>Close</Secondary>
        <Primary isPending={busy || running} onPress={() => void start()}>Bake</Primary>
      </SheetFoot>
    </Sheet>
  );
}
