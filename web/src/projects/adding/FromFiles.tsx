import { useState } from "react";
import { wordsFor } from "../../api/client";
import { type Gaps, useTakeIn } from "../../api/footage";
import { FilesDrop } from "../../kit/FileDrop";
import { Notice } from "../../kit/Notice";
import { Uploads } from "../../frame/Uploads";
import { RoomLeft } from "../../media/RoomLeft";
import { MissingFrames } from "./MissingFrames";

/** Stills, clips and the frames of sequences, dropped together. */
export function FromFiles({ onTaken }: { onTaken: (pictures: readonly number[]) => void }) {
  const take = useTakeIn();
  const [gaps, setGaps] = useState<Gaps>("refuse");
  return (
    <>
      <FilesDrop
        prompt={take.isPending ? "Bringing in…" : "Drop stills, clips and numbered frames here, or choose them"}
        kinds="Frames whose names differ in their number become one sequence"
        several
        onFiles={(dropped) =>
          take.mutate(
            { files: dropped.map((one) => one.file), gaps },
            { onSuccess: ({ pictures }) => onTaken(pictures) },
          )
        }
      />
      {take.isPending ? <Uploads /> : <RoomLeft />}
      <MissingFrames value={gaps} onChange={setGaps} />
      {take.data && take.data.left_out.length > 0 && (
        <Notice>
          {take.data.left_out.map((words) => (
            <span key={words}>
              {words}
              <br />
            </span>
          ))}
        </Notice>
      )}
      {take.error && <Notice>{wordsFor(take.error)}</Notice>}
    </>
  );
}
