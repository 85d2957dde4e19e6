import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { useBake } from "../../api/bakes";
import { wordsFor } from "../../api/client";
import { useSaveVersion } from "../../api/looks";
import type { Picture } from "../../api/types";
import { JobLine, useJob } from "../../jobs/JobLine";
import { RightsNote } from "../../jobs/RightsNote";
import { Primary, Secondary, TakeLink } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Sheet, SheetFoot } from "../../kit/Sheet";
import { useBench, useSaving } from "../../look/useBench";
import { CheckSection } from "./CheckSection";
import { ALL, bakeChoice, keepChoices, memberShown, membersOf } from "./choices";
import { FormatList } from "./FormatList";
import { Section } from "./layout";
import { SizeSection } from "./SizeSection";
import { useBakeChoices, type BakeChoices } from "./useBakeChoices";
import { useSurveys } from "./useSurveys";
import { WhatSection } from "./WhatSection";
import { WordsSection } from "./WordsSection";

const Body = styled.div`
  display: grid;
  grid-template-columns: 452px minmax(0, 1fr);
  min-height: 0;
  flex: 1;
`;
const Side = styled.div`
  display: grid;
  gap: 18px;
  padding: 18px 22px;
  align-content: start;
  overflow-y: auto;
  min-height: 0;
  h3 {
    font-weight: 600;
  }
`;
const Checked = styled(Side)`
  gap: 14px;
  background: ${(p) => p.theme.tokens.paper};
  border-left: 1px solid ${(p) => p.theme.tokens.line};
`;
const Foot = styled.div`
  flex: 1;
  min-width: 0;
`;

/** The job of a bake: the draft is saved as a version first, where it is the draft that is baked. */
function useBaking({ choices, whole, picked }: BakeChoices) {
  const { flush, refresh, revision } = useBench();
  const { entry } = useSaving();
  const [jobId, setJobId] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const version = useSaveVersion(entry.id);
  const bake = useBake(entry.id);

  async function versionToBake(): Promise<number> {
    if (picked !== null) return picked;
    const [latest] = entry.versions;
    if (latest && !entry.changed_since_version) return latest.number;
    return (await version.mutateAsync({ note: "Saved to bake", revision: revision() })).number;
  }

  async function start() {
    setBusy(true);
    setProblem(null);
    setJobId(null);
    try {
      keepChoices(choices);
      await flush();
      const version = await versionToBake();
      for (const member of membersOf(choices, whole)) {
        const started = await bake.mutateAsync({ version, choice: bakeChoice(choices, whole, member) });
        setJobId(started.id);
      }
      await refresh();
    } catch (error) {
      setProblem(wordsFor(error));
    }
    setBusy(false);
  }

  return {
    jobId,
    problem,
    busy,
    start,
    reset: () => {
      setJobId(null);
      setProblem(null);
    },
  };
}

interface Props {
  readonly isOpen: boolean;
  readonly onClose: () => void;
  readonly picture: Picture | undefined;
}

/** Bake the look, or a part of it, into LUT files that are shown with the look; measured before. The last choices are remembered. */
export function BakeSheet({ isOpen, onClose, picture }: Props) {
  const { entry } = useSaving();
  const chosen = useBakeChoices();
  const { choices, set, picked, usable } = chosen;
  const surveys = useSurveys(chosen, picture, isOpen);
  const { jobId, problem, busy, start, reset } = useBaking(chosen);
  const { job, running } = useJob(jobId);
  const latest = entry.versions[0];
  const fresh = entry.changed_since_version || !latest;
  const what =
    picked !== null
      ? `version ${picked}`
      : fresh
        ? `the draft, saved as version ${(latest?.number ?? 0) + 1}`
        : `version ${latest.number}`;
  const all = choices.member === ALL;
  const whose = all ? "All of the family, each as a LUT, of " : memberShown(choices) ? `${choices.member} of ` : "";

  function close() {
    reset();
    onClose();
  }

  function chooseFormats(formats: typeof choices.formats) {
    set({ formats });
    const added = formats.at(-1);
    if (added && formats.length > choices.formats.length) surveys.watch(added.format);
  }

  return (
    <Sheet title="Bake to a LUT" isOpen={isOpen} onClose={close} width="1180px">
      <Body>
        <Side>
          <WhatSection chosen={chosen} found={surveys.watched.found} />
          <SizeSection chosen={chosen} surveys={surveys} />
          <Section aria-label="Formats">
            <h3>Formats</h3>
            <FormatList formats={choices.formats} onChange={chooseFormats} />
          </Section>
          <WordsSection chosen={chosen} />
          {isOpen && <RightsNote kind="look" id={entry.id} version={picked} />}
        </Side>
        <Checked>
          <CheckSection chosen={chosen} surveys={surveys} picture={picture} />
        </Checked>
      </Body>
      <SheetFoot>
        <Foot>
          <JobLine id={jobId} what="Baking" cancelled="Cancelled. Nothing was kept." />
          {problem && <Notice>{problem}</Notice>}
          {job?.state === "done" && (
            <Notice tone="word">
              {all ? (
                <>
                  {membersOf(choices, chosen.whole).length} LUTs are with the look, <bdi>{job.file_name}</bdi> the last,
                  on the{" "}
                </>
              ) : (
                <>
                  <bdi>{job.file_name}</bdi> is with the look on the{" "}
                </>
              )}
              <Link to={job.page}>Shelf</Link>
              {job.entry !== null && (
                <>
                  , and as <Link to={`/shelf/lut/${job.entry}`}>an entry of its own</Link>
                </>
              )}
              .
            </Notice>
          )}
          {!running && !problem && jobId === null && (
            <span>
              {surveys.cannot ? "One of the formats cannot hold it: take it out, or choose another part. " : ""}Bakes{" "}
              {whose}
              {what}.
            </span>
          )}
        </Foot>
        <Secondary onPress={close}>Close</Secondary>
        {job?.state === "done" ? (
          <>
            <Secondary isPending={busy} isDisabled={!usable || surveys.cannot} onPress={() => void start()}>
              Bake again
            </Secondary>
            <TakeLink href={job.download} download>
              {choices.formats.length > 1 ? "Download all formats" : "Download it"}
            </TakeLink>
          </>
        ) : (
          <Primary isPending={busy || running} isDisabled={!usable || surveys.cannot} onPress={() => void start()}>
            Bake
          </Primary>
        )}
      </SheetFoot>
    </Sheet>
  );
}
