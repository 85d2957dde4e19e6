import type { Job } from "../api/types";
import { Notice } from "../kit/Notice";

/** The file of a job that is done, with what it could not hold. */
export function ReadyFile({ job }: { job: Job | undefined }) {
  if (job?.state !== "done") return null;
  return (
    <Notice tone="word">
      Ready:{" "}
      <a href={job.download} download>
        {job.file_name}
      </a>
      {job.left_out.length > 0 && `. ${job.left_out.join("; ")}`}
    </Notice>
  );
}
