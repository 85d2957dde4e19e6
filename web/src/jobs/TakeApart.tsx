import { useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { takenApart, useTakeApart } from "../api/making";
import type { Apart } from "../api/types";
import { Secondary } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { SettingBar } from "../kit/SettingBar";
import { JobLine } from "./JobLine";
import { useOutcome } from "./useOutcome";

const Root = styled.div`
  display: grid;
  gap: 8px;
  justify-items: start;
  > div {
    width: 100%;
  }
`;
const CLOSE = 0.3;

interface Props {
  /** The entry that the LUT is. */
  readonly lut: number;
  /** What it expects and gives, where it is taken as something else than what it is known for. */
  readonly expects?: string;
  readonly gives?: string;
  /** What is done with the steps, as the button says it. */
  readonly label: string;
  /** It was asked for elsewhere: nobody need press the button. `onBegun` is told once it has begun. */
  readonly atOnce?: boolean;
  readonly onBegun?: () => void;
  readonly onApart: (apart: Apart) => void;
}

/** A LUT as steps: from as close as they can be to only what matters most. */
export function TakeApart({ lut, expects = "", gives = "", label, atOnce = false, onBegun, onApart }: Props) {
  const [simple, setSimple] = useState(CLOSE);
  const [jobId, setJobId] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const start = useTakeApart();
  const { running } = useOutcome(jobId, ["shelf"], (job) => {
    takenApart(job.id).then(onApart, (error: unknown) => setProblem(wordsFor(error)));
  });
  function begin() {
    setProblem(null);
    setJobId(null);
    start.mutate({ lut, simple, expects, gives }, { onSuccess: (made) => setJobId(made.id) });
  }
  const asked = useRef({ begin, onBegun });
  useEffect(() => {
    asked.current = { begin, onBegun };
  });
  useEffect(() => {
    if (!atOnce) return;
    asked.current.onBegun?.();
    asked.current.begin();
  }, [atOnce]);
  return (
    <Root role="group" aria-label="As steps">
      <SettingBar
        label="How simple"
        low={0}
        high={1}
        neutral={CLOSE}
        step={0.05}
        digits={2}
        hint="0: as close as steps can come; 1: only what matters most. What they do not explain is a last LUT step"
        value={simple}
        onChange={setSimple}
        onDone={() => undefined}
      />
      {!running && (
        <Secondary isPending={start.isPending} onPress={begin}>
          {label}
        </Secondary>
      )}
      <JobLine id={jobId} what="Looking for steps" cancelled="Cancelled. Nothing was changed." />
      {start.error && <Notice>{wordsFor(start.error)}</Notice>}
      {problem && <Notice>{problem}</Notice>}
    </Root>
  );
}
