import type { Job } from "../api/types";
import styled from "styled-components";
import { TakeLink } from "../kit/Button";
import { Notice } from "../kit/Notice";

const Ready = styled.div`
  display: grid;
  gap: 8px;
  justify-items: start;
  ${TakeLink} {
    max-width: 100%;
    white-space: normal;
    overflow-wrap: anywhere;
  }
`;

/** The file of a job that is done, with what it could not hold. */
export function ReadyFile({ job }: { job: Job | undefined }) {
  if (job?.state !== "done") return null;
  return (
    <Ready role="status">
      <TakeLink href={job.download} download>
        Take <bdi>{job.file_name}</bdi>
      </TakeLink>
      {job.left_out.length > 0 && <Notice tone="word">{job.left_out.join("; ")}</Notice>}
    </Ready>
  );
}
