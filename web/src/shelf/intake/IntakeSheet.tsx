import { useQuery } from "@tanstack/react-query";
import { Upload } from "lucide-react";
import { useCallback, useEffect, useMemo, useRef, useState, type DragEvent } from "react";
import { Button, FileTrigger } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { encodings as encodingsQuery, packRows, useKeepRows, useSendPack } from "../../api/queries";
import type { KeptRow, Lut, PackRow } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Choice } from "../../kit/Choice";
import { JobLine, useJob } from "../../kit/JobLine";
import { Notice } from "../../kit/Notice";
import { Sheet, SheetFoot } from "../../kit/Sheet";
import { chosen as chosenFiles, dropped, type Sent } from "./dropped";
import { PackTable } from "./PackTable";

const Body = styled.div`
  display: grid; gap: 14px; padding: 18px 22px; align-content: start; overflow-y: auto; min-height: 260px; flex: 1; outline: none;
`;
const Drop = styled.div<{ $over: boolean }>`
  border-radius: 8px; border: 1.5px dashed ${(p) => (p.$over ? p.theme.tokens.accent : p.theme.tokens.faint)}; background: ${(p) => (p.$over ? p.theme.tokens.accentWash : p.theme.tokens.paper)};
`;
const Target = styled(Button)`
  width: 100%; display: grid; justify-items: center; gap: 6px; padding: 54px 16px; border: 0; background: none; cursor: pointer;
  svg { color: ${(p) => p.theme.tokens.soft}; }
  b { font-weight: 600; }
  small { color: ${(p) => p.theme.tokens.soft}; font-size: ${(p) => p.theme.tokens.size.small}; }
`;
const Row = styled.div`
  display: flex; align-items: center; justify-content: space-between; gap: 16px; flex-wrap: wrap;
`;
const Foot = styled.div`
  flex: 1; min-width: 0;
`;
type Which = "all" | "asked" | "odd" | "failed";

/** A row as the person has it so far. */
export interface Draft {
  readonly keep: boolean;
  readonly name: string;
  readonly category: string;
  readonly expects: string;
  readonly gives: string;
}

function first(row: PackRow): Draft {
  return { keep: !row.problem && !row.same_as, name: row.name ?? "", category: row.category ?? "", expects: row.expects ?? "", gives: row.gives ?? "" };
}

interface Props {
  readonly isOpen: boolean;
  /** What was dropped on the page; read at once. */
  readonly sent: readonly Sent[];
  readonly onClose: () => void;
  readonly onKept: (luts: readonly Lut[]) => void;
}

/** Bring in LUTs: files, folders or zip packs are read into a table first; what is kept goes onto the Shelf. */
export function IntakeSheet({ isOpen, sent, onClose, onKept }: Props) {
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const send = useSendPack();
  const keep = useKeepRows();
  const [jobId, setJobId] = useState<number | null>(null);
  const [over, setOver] = useState(false);
  const [which, setWhich] = useState<Which>("all");
  const [drafts, setDrafts] = useState<Readonly<Record<number, Draft>>>({});
  const [begun, setBegun] = useState<readonly Sent[] | null>(null);
  const { job, running } = useJob(jobId);
  const { data: rows, error } = useQuery({ ...packRows(jobId), enabled: job?.state === "done" });
  // The drop field goes away with the focus in it; the keyboard goes on at the table.
  const body = useRef<HTMLDivElement>(null);
  const here = rows !== undefined;
  useEffect(() => { if (here) body.current?.focus(); }, [here]);
  // The same objects as long as nothing changes, so that of five hundred lines only the one being typed in is drawn again.
  const firsts = useMemo(() => new Map((rows ?? []).map((row) => [row.index, first(row)])), [rows]);
  const draftOf = (row: PackRow) => drafts[row.index] ?? firsts.get(row.index) ?? first(row);
  const kept = (rows ?? []).filter((row) => draftOf(row).keep);
  const unknown = kept.filter((row) => row.how === "asked" && !drafts[row.index]);
  const failed = (rows ?? []).filter((row) => row.problem);
  const odd = (rows ?? []).filter((row) => row.health === "look" || row.health === "bad");
  const asked = (rows ?? []).filter((row) => row.how === "asked");
  const shown = which === "failed" ? failed : which === "odd" ? odd : which === "asked" ? asked : (rows ?? []);

  async function read(files: readonly Sent[]) {
    if (files.length === 0) return;
    setDrafts({});
    setWhich("all");
    const started = await send.mutateAsync(files).catch(() => null);
    if (started) setJobId(started.id);
  }

  if (isOpen && sent.length > 0 && begun !== sent) {
    setBegun(sent);
    queueMicrotask(() => void read(sent));
  }

  function close() {
    setJobId(null);
    setDrafts({});
    send.reset();
    keep.reset();
    onClose();
  }

  async function put() {
    if (jobId === null) return;
    const chosen: KeptRow[] = kept.map((row) => { const { name, category, expects, gives } = draftOf(row); return { index: row.index, name, category, expects, gives }; });
    const made = await keep.mutateAsync({ job: jobId, rows: chosen }).catch(() => null);
    if (made) {
      close();
      onKept(made);
    }
  }

  const all = kept.length === (rows ?? []).filter((row) => !row.problem).length;
  const set = useCallback((row: PackRow, change: Partial<Draft>) => setDrafts((last) => ({ ...last, [row.index]: { ...(last[row.index] ?? first(row)), ...change } })), []);

  return (
    <Sheet title="Bring in LUTs" isOpen={isOpen} onClose={close} width="1180px">
      <Body ref={body} tabIndex={-1}>
        {!rows && (
          <Drop $over={over} onDragOver={(event: DragEvent) => { event.preventDefault(); setOver(true); }} onDragLeave={() => setOver(false)}
            onDrop={(event: DragEvent) => { event.preventDefault(); event.stopPropagation(); setOver(false); void dropped(event.dataTransfer).then(read); }}>
            <FileTrigger allowsMultiple onSelect={(files) => void read(chosenFiles(files))}>
              <Target isDisabled={send.isPending || running}>
                <Upload size={22} aria-hidden />
                <b>{send.isPending ? "Sending…" : "Drop LUT files, folders or zip packs here, or choose files"}</b>
                <small>.cube .3dl .csp .clf .ctf .cdl .cc .ccc .spi1d .spi3d .icc, and picture LUTs as PNG or TIFF; known by their content</small>
              </Target>
            </FileTrigger>
          </Drop>
        )}
        {send.error && <Notice>{wordsFor(send.error)}</Notice>}
        {error && <Notice>{wordsFor(error)}</Notice>}
        <JobLine id={jobId} what="Reading" cancelled="Cancelled. Nothing was put on the Shelf." />
        {rows && (
          <>
            <Row>
              <Choice label="Rows" value={which} onChange={setWhich}
                options={[["all", `All ${rows.length}`], ["asked", `To be told ${asked.length}`], ["odd", `Odd ${odd.length}`], ["failed", `Not read ${failed.length}`]]} />
              {which !== "failed" && <Check isOn={all} onChange={(on) => setDrafts(Object.fromEntries(rows.map((row) => [row.index, { ...draftOf(row), keep: on && !row.problem }])))}>Keep all that could be read</Check>}
            </Row>
            <PackTable rows={shown} draftOf={draftOf} onChange={set} encodings={encodings} />
            {shown.length === 0 && <p>No rows of this kind.</p>}
          </>
        )}
        {keep.error && <Notice>{wordsFor(keep.error)}</Notice>}
      </Body>
      <SheetFoot>
        <Foot>
          {rows && unknown.length > 0 && <span>For {unknown.length} of them the file does not say what it expects; what stands there is a guess. It can be told later, too.</span>}
        </Foot>
        {rows && <Secondary onPress={() => { setJobId(null); send.reset(); }}>Other files</Secondary>}
        <Secondary onPress={close}>Close</Secondary>
        <Primary isDisabled={kept.length === 0} isPending={keep.isPending} onPress={() => void put()}>{kept.length ? `Put ${kept.length} on the Shelf` : "Put on the Shelf"}</Primary>
      </SheetFoot>
    </Sheet>
  );
}
