import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { encodings as encodingsQuery } from "../../api/encodings";
import { useKeepRows, useSendPack } from "../../api/making";
import type { PackRow } from "../../api/types";
import { JobLine, useJob } from "../../jobs/JobLine";
import { useOutcome } from "../../jobs/useOutcome";
import { isOwnPack, useBringBack } from "../../api/packing";
import { Primary, Secondary } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Choice } from "../../kit/Choice";
import { FilesDrop, type DroppedFile } from "../../kit/FileDrop";
import { RoomLeft } from "../../media/RoomLeft";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { usePictureChoice } from "../../media/usePictureChoice";
import { Sheet, SheetFoot } from "../../kit/Sheet";
import { PackTable } from "./PackTable";
import { isKept, usePackRows } from "./usePackRows";

const Body = styled.div`
  display: grid;
  gap: 14px;
  padding: 18px 22px;
  align-content: start;
  overflow-y: auto;
  min-height: 260px;
  flex: 1;
  outline: none;
`;
const Row = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  flex-wrap: wrap;
`;
const Foot = styled.div`
  flex: 1;
  min-width: 0;
`;
type Which = "all" | "asked" | "odd" | "failed";

interface Props {
  readonly isOpen: boolean;
  /** What was dropped on the page; read at once. */
  readonly sent: readonly DroppedFile[];
  /** A pack that was read before, to go on with. */
  readonly pack: number | null;
  readonly onClose: () => void;
  readonly onKept: (entries: readonly number[]) => void;
}

/** Bring in LUTs: files, folders or zip packs are read into a table first; what is kept goes onto the Shelf. */
export function IntakeSheet({ isOpen, sent, pack, onClose, onKept }: Props) {
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const send = useSendPack();
  const back = useBringBack();
  const [backId, setBackId] = useState<number | null>(null);
  const returned = useOutcome(backId, ["shelf"], () => undefined);
  const keep = useKeepRows();
  const [jobId, setJobId] = useState<number | null>(pack);
  const [which, setWhich] = useState<Which>("all");
  const { job, running } = useJob(jobId);
  const { rows, error, correct, flush } = usePackRows(jobId, job?.state === "done");
  // The drop field goes away with the focus in it; the keyboard goes on at the table.
  const body = useRef<HTMLDivElement>(null);
  const here = rows !== null;
  useEffect(() => {
    if (here) body.current?.focus();
  }, [here]);
  const { pictures, chosen, choose } = usePictureChoice();
  const all = rows ?? [];
  const kept = all.filter(isKept);
  const groups: Record<Which, readonly PackRow[]> = {
    all,
    asked: all.filter((row) => row.how === "asked"),
    odd: all.filter((row) => row.health === "notice" || row.health === "bad"),
    failed: all.filter((row) => row.problem),
  };
  const shown = groups[which];
  const unsaid = kept.filter((row) => row.how === "asked" && !row.corrected);
  const readable = all.filter((row) => !row.problem);

  const read = useCallback(
    async (files: readonly DroppedFile[]) => {
      if (files.length === 0) return;
      setWhich("all");
      const [one] = files;
      if (files.length === 1 && one && (await isOwnPack(one.file))) {
        const begun = await back.mutateAsync(one.file).catch(() => null);
        if (begun) setBackId(begun.id);
        return;
      }
      const started = await send.mutateAsync(files).catch(() => null);
      if (started) setJobId(started.id);
    },
    [send, back],
  );
  const begun = useRef<readonly DroppedFile[] | null>(null);
  useEffect(() => {
    if (begun.current === sent) return;
    begun.current = sent;
    void read(sent);
  }, [sent, read]);

  async function put() {
    if (jobId === null) return;
    const made = await flush()
      .then(() => keep.mutateAsync({ job: jobId, rows: kept.map((row) => row.index) }))
      .catch(() => null);
    if (made) {
      onClose();
      onKept(made);
    }
  }

  return (
    <Sheet title="Bring in LUTs" isOpen={isOpen} onClose={onClose} width="1180px">
      <Body ref={body} tabIndex={-1}>
        {!rows && (
          <FilesDrop
            prompt={send.isPending ? "Sending…" : "Drop LUT files, folders or zip packs here, or choose files"}
            kinds=".cube .3dl .csp .clf .ctf .cdl .cc .ccc .spi1d .spi3d .icc, and picture LUTs as PNG or TIFF; known by their content"
            onFiles={(files) => void read(files)}
            several
            tall
            isDisabled={send.isPending || running}
          />
        )}
        {!rows && <RoomLeft />}
        {send.error && <Notice>{wordsFor(send.error)}</Notice>}
        {back.error && <Notice>{wordsFor(back.error)}</Notice>}
        <JobLine
          id={backId}
          what="A pack that Saucer made is brought back with all it knew"
          cancelled="Cancelled. Nothing was put on the Shelf."
        />
        {returned.job?.state === "done" && (
          <Notice tone="word">
            The pack is on the Shelf again, with categories, tags, rights and versions
            {returned.job.left_out.length === 0 ? "." : ", but for:"}
            {returned.job.left_out.length > 0 && (
              <ul>
                {returned.job.left_out.map((words) => (
                  <li key={words}>{words}</li>
                ))}
              </ul>
            )}
          </Notice>
        )}
        {error !== null && <Notice>{wordsFor(error)}</Notice>}
        <JobLine id={jobId} what="Reading" cancelled="Cancelled. Nothing was put on the Shelf." />
        {rows && (
          <>
            <Row>
              <Choice
                label="Rows"
                value={which}
                onChange={setWhich}
                options={[
                  ["all", `All ${String(rows.length)}`],
                  ["asked", `Encoding not known ${String(groups.asked.length)}`],
                  ["odd", `Odd ${String(groups.odd.length)}`],
                  ["failed", `Not read ${String(groups.failed.length)}`],
                ]}
              />
              {which !== "failed" && (
                <Check
                  isOn={kept.length === readable.length}
                  onChange={(on) => {
                    for (const row of readable) correct(row, { keep: on });
                  }}
                >
                  Keep all that could be read
                </Check>
              )}
              {chosen && (
                <span>
                  <Picker
                    label="Seen on"
                    hideLabel
                    value={String(chosen.id)}
                    options={pictures.map((one) => ({ id: String(one.id), name: one.name }))}
                    onChange={(id) => choose(Number(id))}
                  />
                </span>
              )}
            </Row>
            <PackTable rows={shown} onChange={correct} encodings={encodings} pack={jobId ?? 0} picture={chosen} />
            {shown.length === 0 && <p>No rows of this kind.</p>}
          </>
        )}
        {keep.error && <Notice>{wordsFor(keep.error)}</Notice>}
      </Body>
      <SheetFoot>
        <Foot>
          {unsaid.length > 0 && (
            <span>
              {unsaid.length === 1
                ? "One of them does not say what it expects"
                : `${unsaid.length} of them do not say what they expect`}
              ; what stands there is a guess. It can be set later, too.
            </span>
          )}
        </Foot>
        {rows && (
          <Secondary
            onPress={() => {
              setJobId(null);
              send.reset();
            }}
          >
            Other files
          </Secondary>
        )}
        <Secondary onPress={onClose}>Close</Secondary>
        <Primary isDisabled={kept.length === 0} isPending={keep.isPending} onPress={() => void put()}>
          {kept.length ? `Put ${String(kept.length)} on the Shelf` : "Put on the Shelf"}
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
