import { useState } from "react";
import { wordsFor } from "../../api/client";
import { useGrade } from "../../api/shelf";
import type { Picture } from "../../api/types";
import { JobLine, useJob } from "../../jobs/JobLine";
import { ReadyFile } from "../../jobs/ReadyFile";
import { Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { Block, Pair } from "./layout";
import { EncodingPicker } from "../../media/EncodingPicker";
import { pictureFormats } from "../../media/pictureFormats";

interface Props {
  readonly entry: number;
  /** Which of a look's family; empty for the recipe. */
  readonly member: string;
  readonly picture: Picture;
  readonly strength: number;
}

/** The picture in its full size through the entry, as a file. */
export function GradedPicture({ entry, member, picture, strength }: Props) {
  const [format, setFormat] = useState("");
  const [encoding, setEncoding] = useState("");
  const [jobId, setJobId] = useState<number | null>(null);
  const grade = useGrade();
  const { job, running } = useJob(jobId);

  function start() {
    setJobId(null);
    grade.mutate(
      { entry, member, picture: picture.id, strength, format, encoding },
      { onSuccess: (made) => setJobId(made.id) },
    );
  }

  return (
    <Block aria-label="Graded picture">
      <h2>Take the graded picture</h2>
      <Pair>
        <Picker label="Format" value={format} options={[...pictureFormats]} onChange={setFormat} />
        <EncodingPicker
          label="Encoding"
          value={encoding}
          first={[{ id: "", name: "What it gives" }]}
          onChange={setEncoding}
        />
      </Pair>
      {!running && (
        <Secondary isPending={grade.isPending} onPress={start}>
          Grade {picture.width} × {picture.height}
        </Secondary>
      )}
      <JobLine id={jobId} what="Grading" cancelled="Cancelled. No file was made." />
      {grade.error && <Notice>{wordsFor(grade.error)}</Notice>}
      <ReadyFile job={job} />
    </Block>
  );
}
