import { ImagePlus } from "lucide-react";
import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { isJob, useChangePicture, useKeepFrame, useLookAtFrame } from "../../api/pictures";
import { useMay } from "../../api/session";
import type { Picture } from "../../api/types";
import { JobLine } from "../../jobs/JobLine";
import { useOutcome } from "../../jobs/useOutcome";
import { IconButton, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { PICTURES } from "../../media/accepted";
import { EncodingPicker } from "../../media/EncodingPicker";

const Line = styled.div`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 6px 12px;
  margin-bottom: 12px;
  button {
    color: ${(p) => p.theme.tokens.ink};
  }
  > button {
    color: inherit;
    text-decoration: underline;
  }
`;

/** Is this a picture to look at things on, and nothing else? A PNG may be a LUT too. */
export const isFrame = (name: string) => PICTURES.some((ending) => name.toLowerCase().endsWith(ending));

/** A frame of one's own to look at the wall on: sent, and told once it is there. */
export function useOwnFrame(onThere: (id: number) => void) {
  const send = useLookAtFrame();
  const [job, setJob] = useState<number | null>(null);
  const [file, setFile] = useState<File | null>(null);
  const { running } = useOutcome(job, ["pictures"], (done) => {
    if (done.picture) onThere(done.picture);
  });
  return {
    /** What was sent last; a PNG may hold a LUT instead. */
    file,
    send: (next: File) => {
      setJob(null);
      setFile(next);
      send.mutate(next, {
        onSuccess: (answer) => {
          if (isJob(answer)) setJob(answer.id);
          else onThere(answer.id);
        },
      });
    },
    job,
    isBusy: send.isPending || running,
    error: send.error,
  };
}

export type OwnFrame = ReturnType<typeof useOwnFrame>;

export function ChooseFrame({ frame }: { frame: OwnFrame }) {
  return (
    <FileTrigger acceptedFileTypes={PICTURES} onSelect={(files) => files?.[0] && frame.send(files[0])}>
      <IconButton aria-label="Look at it all on a frame of your own" isDisabled={frame.isBusy}>
        <ImagePlus aria-hidden />
      </IconButton>
    </FileTrigger>
  );
}

interface Props {
  readonly picture: Picture | undefined;
  readonly frame: OwnFrame;
  readonly onLut: (file: File) => void;
}

/** What the wall is seen on while that is one's own frame, and what can be done with it. */
export function FrameLine({ picture, frame, onLut }: Props) {
  const change = useChangePicture();
  const keep = useKeepFrame();
  const mayKeep = useMay("design");
  const trouble = frame.error ?? change.error ?? keep.error;
  return (
    <>
      <JobLine id={frame.job} what="Reading the frame" cancelled="Cancelled." />
      {picture?.passing && (
        <Line>
          <span>
            On your own frame “<bdi>{picture.name}</bdi>”, read as
          </span>
          <EncodingPicker
            label="Encoding of the frame"
            hideLabel
            value={picture.encoding}
            onChange={(encoding) => change.mutate({ id: picture.id, encoding })}
          />
          <span>It goes when you sign out.</span>
          {mayKeep && <WordButton onPress={() => keep.mutate(picture.id)}>Keep it among the pictures</WordButton>}
          {mayKeep && frame.file?.name.toLowerCase().endsWith(".png") && (
            <WordButton onPress={() => frame.file && onLut(frame.file)}>It holds a LUT: bring it in</WordButton>
          )}
        </Line>
      )}
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
    </>
  );
}
