import { wordsFor } from "../api/client";
import { useTakeIn } from "../api/footage";
import { Uploads } from "../frame/Uploads";
import { FilesDrop } from "../kit/FileDrop";
import { Notice } from "../kit/Notice";
import { RoomLeft } from "../media/RoomLeft";

/** Where there is no picture yet: they are dropped here. */
export function FirstPictures() {
  const take = useTakeIn();
  const wrong = take.error ? [wordsFor(take.error)] : (take.data?.left_out ?? []);
  return (
    <>
      <FilesDrop
        prompt={
          take.isPending ? "Bringing in…" : "Drop pictures and clips here, or choose them: looks are seen on them"
        }
        kinds="PNG, JPEG, TIFF, EXR, DPX, WebP, HEIC, AVIF, HDR, raw; clips; numbered frames"
        several
        tall
        isDisabled={take.isPending}
        onFiles={(dropped) => take.mutate({ files: dropped.map((one) => one.file), gaps: "refuse" })}
      />
      {take.isPending ? <Uploads /> : <RoomLeft />}
      {wrong.map((words) => (
        <Notice key={words}>{words}</Notice>
      ))}
    </>
  );
}
