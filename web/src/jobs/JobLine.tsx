import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { isActive, job as jobQuery, useCancelJob } from "../api/jobs";
import type { Job } from "../api/types";
import { WordButton } from "../kit/Button";
import { Notice } from "../kit/Notice";

const Line = styled.div`
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 10px;
  align-items: center;
`;
export const Bar = styled.progress`
  width: 100%;
  height: 6px;
  border: 0;
  border-radius: 3px;
  overflow: hidden;
  background: ${(p) => p.theme.tokens.line};
  &::-webkit-progress-bar {
    background: ${(p) => p.theme.tokens.line};
  }
  &::-webkit-progress-value {
    background: ${(p) => p.theme.tokens.accent};
  }
`;

/** A job by its number, and whether it still goes on. */
export function useJob(id: number | null): { job: Job | undefined; running: boolean } {
  const { data: job } = useQuery(jobQuery(id));
  return { job, running: id !== null && (!job || isActive(job)) };
}

interface Props {
  readonly id: number | null;
  /** What goes on, e.g. "Baking". */
  readonly what: string;
  readonly cancelled: string;
}

/** How a job gets on: a bar and a cancel while it runs, what went wrong when it failed, nothing once it is done. */
export function JobLine({ id, what, cancelled }: Props) {
  const { job, running } = useJob(id);
  const cancel = useCancelJob();
  if (id === null) return null;
  return (
    <>
      {running && (
        <Line role="status">
          <span>{job?.state === "waiting" ? "Waiting for a worker…" : `${what}…`}</span>
          <Bar value={job?.progress ?? 0} max={1} aria-label={what} />
          <WordButton onPress={() => cancel.mutate(id)}>Cancel</WordButton>
        </Line>
      )}
      {job?.state === "failed" && <Notice>{job.problem}</Notice>}
      {job?.state === "cancelled" && <Notice tone="word">{cancelled}</Notice>}
      {cancel.error && <Notice>{wordsFor(cancel.error)}</Notice>}
    </>
  );
}
