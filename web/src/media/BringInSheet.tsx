import { useState } from "react";
import { wordsFor } from "../api/client";
import { isJob, useBringInPicture } from "../api/pictures";
import { JobLine } from "../jobs/JobLine";
import { useOutcome } from "../jobs/useOutcome";
import { Primary, Secondary } from "../kit/Button";
import { FileDrop } from "../kit/FileDrop";
import { Notice } from "../kit/Notice";
import { Sheet, SheetBody, SheetFoot } from "../kit/Sheet";
import { PICTURES } from "./accepted";
import { EncodingPicker } from "./EncodingPicker";
import { RoomLeft } from "./RoomLeft";

interface Props {
  readonly isOpen: boolean;
  readonly onClose: () => void;
  /** With the new picture's number. */
  readonly onDone: (picture: number) => void;
}

/** Bring in a picture of one's own and say what encoding it is in. */
export function BringInSheet({ isOpen, onClose, onDone }: Props) {
  const [file, setFile] = useState<File | null>(null);
  const [encoding, setEncoding] = useState("");
  const bring = useBringInPicture();
  const [jobId, setJobId] = useState<number | null>(null);
  const { running } = useOutcome(jobId, ["pictures"], (job) => job.picture !== null && finish(job.picture));

  function close() {
    setFile(null);
    setEncoding("");
    setJobId(null);
    bring.reset();
    onClose();
  }

  function finish(picture: number) {
    onDone(picture);
    close();
  }

  async function send() {
    if (!file) return;
    const answer = await bring.mutateAsync({ file, encoding }).catch(() => null);
    if (answer && isJob(answer)) setJobId(answer.id);
    else if (answer) finish(answer.id);
  }

  const first = [
    { id: "", name: "Go by the file", note: "what it says; else EXR is linear, DPX film log, others sRGB" },
  ];
  return (
    <Sheet title="Bring in a picture" isOpen={isOpen} onClose={close}>
      <SheetBody>
        <FileDrop
          file={file}
          onFile={(chosen) => {
            setFile(chosen);
            bring.reset();
          }}
          prompt="Drop a picture here or choose one"
          kinds="PNG, JPEG, TIFF, EXR, DPX, WebP, HEIC, AVIF, HDR or raw, up to 100 megapixels"
          accept={PICTURES}
        />
        <RoomLeft bytes={file?.size ?? 0} />
        <EncodingPicker label="Its encoding" value={encoding} first={first} onChange={setEncoding} />
        {bring.error && <Notice>{wordsFor(bring.error)}</Notice>}
        <JobLine id={jobId} what="Reading a large picture" cancelled="Cancelled. Nothing was kept." />
      </SheetBody>
      <SheetFoot>
        <Secondary onPress={close}>{running ? "Close" : "Cancel"}</Secondary>
        <Primary isDisabled={!file} isPending={bring.isPending || running} onPress={() => void send()}>
          {bring.isPending || running ? "Bringing in…" : "Bring in"}
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
