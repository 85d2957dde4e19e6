import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { largeTimeline, useLookAtTimeline, useTakeTimeline } from "../../api/projects";
import type { Project } from "../../api/types";
import { JobLine, useJob } from "../../jobs/JobLine";
import { Primary, Secondary } from "../../kit/Button";
import { FileDrop } from "../../kit/FileDrop";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { PlainTable } from "../../kit/PlainTable";
import { Sheet, SheetBody, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";

const Scroll = styled.div`
  max-height: 280px;
  overflow-y: auto;
`;
const RATES = ["24", "24000/1001", "25", "30", "30000/1001", "50", "60"].map((id) => ({ id, name: id }));

const withoutEnding = (name: string) => name.replace(/\.[^.]+$/, "");

/** An edit list or timeline of another program: what of it is found here becomes shots in its order. */
export function TimelineSheet({
  project,
  given = null,
  onClose,
  onTaken,
}: {
  project: Project;
  /** Dropped on the wall: looked into at once. */
  given?: File | null;
  onClose: () => void;
  onTaken: (shots: number[]) => void;
}) {
  const look = useLookAtTimeline(project.id);
  const take = useTakeTimeline(project.id);
  const [file, setFile] = useState<File | null>(given);
  const [rate, setRate] = useState("24");
  const [scene, setScene] = useState(given ? withoutEnding(given.name) : "");
  const job = look.data && "id" in look.data ? look.data.id : null;
  const reading = useJob(job);
  const large = useQuery(largeTimeline(project.id, reading.job?.state === "done" ? job : null));
  const timeline = look.data && "events" in look.data ? look.data : large.data;
  const events = timeline?.events ?? [];
  const isUsable = (one: (typeof events)[number]) => one.picture !== null || one.in_folder;
  const usable = events.filter(isUsable).length;
  const see = (chosen: File, at: string) => look.mutate({ file: chosen, rate: at });
  const begin = useRef(() => given && see(given, rate));
  useEffect(() => void begin.current(), []);
  return (
    <Sheet title="Shots out of a timeline" isOpen onClose={onClose} width="720px">
      <SheetBody>
        <FileDrop
          file={file}
          onFile={(chosen) => {
            setFile(chosen);
            if (!scene) setScene(withoutEnding(chosen.name));
            see(chosen, rate);
          }}
          prompt="Drop a timeline here or choose one"
          kinds="OpenTimelineIO (.otio) or a CMX 3600 edit list (.edl)"
          accept={[".otio", ".edl"]}
        />
        <Picker
          label="Frames a second, where the file does not say"
          value={rate}
          options={RATES}
          onChange={(at) => {
            setRate(at);
            if (file) see(file, at);
          }}
        />
        {look.error && <Notice>{wordsFor(look.error)}</Notice>}
        <JobLine id={job} what="Reading the timeline" cancelled="Reading was cancelled." />
        {large.error && <Notice>{wordsFor(large.error)}</Notice>}
        {events.length > 0 && (
          <Scroll>
            <PlainTable aria-label="What it holds">
              <thead>
                <tr>
                  <th>Shot</th>
                  <th>Frames</th>
                  <th>Trims</th>
                  <th>Found</th>
                </tr>
              </thead>
              <tbody>
                {events.map((one, index) => (
                  <tr key={index}>
                    <td>{one.name}</td>
                    <td>{one.first === null ? "" : `${String(one.first)} to ${String(one.last)}`}</td>
                    <td>{one.cdl ? "ASC CDL" : ""}</td>
                    <td>{isUsable(one) ? one.words || "yes" : `Left out: ${one.words}`}</td>
                  </tr>
                ))}
              </tbody>
            </PlainTable>
          </Scroll>
        )}
        <TextBox label="Scene for these shots" value={scene} onChange={setScene} maxLength={80} />
        {take.error && <Notice>{wordsFor(take.error)}</Notice>}
      </SheetBody>
      <SheetFoot>
        <Secondary onPress={onClose}>Cancel</Secondary>
        <Primary
          isDisabled={usable === 0 || scene.trim() === "" || !file}
          isPending={take.isPending}
          onPress={() =>
            file &&
            take.mutate(
              { ...(job === null ? { file } : { job: String(job) }), rate, scene },
              {
                onSuccess: ({ shots }) => {
                  onTaken(shots);
                  onClose();
                },
              },
            )
          }
        >
          Bring in {usable}
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
