import { useState } from "react";
import { wordsFor } from "../../api/client";
import { useGradePictures } from "../../api/looks";
import type { Job, Picture } from "../../api/types";
import { useKept } from "../../browser/kept";
import { JobLine } from "../../jobs/JobLine";
import { useOutcome } from "../../jobs/useOutcome";
import { Primary, Secondary } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { Sheet, SheetBody, SheetFoot } from "../../kit/Sheet";
import type { Painter } from "../../look/frames/painter";
import { shownLook } from "../../look/store";
import { useBench } from "../../look/useBench";
import { EncodingPicker } from "../../media/EncodingPicker";
import { pictureFormats } from "../../media/pictureFormats";
import { Pair } from "./layout";
import { depthsOf, readChoices, type TakeChoices } from "./choices";
import { save, whenCopied } from "./out";

interface Props {
  readonly picture: Picture | undefined;
  readonly tray: readonly Picture[];
  readonly painter: Painter;
  readonly onClose: () => void;
}

const NO_PICTURE = { width: 0, height: 0 };

/** The picture in view, or all of the tray, through the look as it stands, at full size. Enter takes it as it was taken last. */
export function TakeSheet({ picture, tray, painter, onClose }: Props) {
  const { store, view } = useBench();
  const [choices, keep] = useKept("take pictures", readChoices);
  const [all, setAll] = useState(false);
  const [jobId, setJobId] = useState<number | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [onCopied, setOnCopied] = useState<((job: Job) => void) | null>(null);
  const grade = useGradePictures();
  const { job, running } = useOutcome(jobId, [], (done) => (onCopied ? onCopied(done) : save(done)));
  const { width, height } = picture ?? NO_PICTURE;
  const set = (next: Partial<TakeChoices>) => keep(readChoices({ ...choices, ...next }));

  function start(given: TakeChoices, pictures: readonly Picture[]) {
    setJobId(null);
    setSaid(null);
    const read_as = Object.fromEntries(
      pictures.flatMap((one) => (view.get().readAs[one.id] ? [[one.id, view.get().readAs[one.id] ?? ""]] : [])),
    );
    const at = pictures.length === 1 && pictures[0]?.moving ? painter.frameOf(pictures[0].id) : null;
    const ids = pictures.map((one) => one.id);
    return grade.mutateAsync({ look: shownLook(store.get()), pictures: ids, ...given, at, read_as });
  }
  async function take() {
    setOnCopied(null);
    const made = await start(choices, all ? tray : picture ? [picture] : []).catch(() => null);
    if (made) setJobId(made.id);
  }
  /** As PNG of 8 bits, which is what other programs take from the clipboard. */
  function copy() {
    if (!picture) return;
    const { came, copied } = whenCopied();
    setOnCopied(() => came);
    void start({ format: "png", depth: "u8", encoding: "srgb" }, [picture]).then(
      (made) => setJobId(made.id),
      () => undefined,
    );
    copied.then(
      () => setSaid("Copied: it can be pasted anywhere."),
      () => setSaid("This browser did not let it be copied. Take it as a file."),
    );
  }

  return (
    <Sheet title="Take the picture, graded" isOpen onClose={onClose}>
      <SheetBody>
        <Choice
          titled
          label="Which"
          value={all ? "all" : "one"}
          options={[
            ["one", picture?.name ?? "No picture"],
            ["all", `All ${tray.length} of the tray`],
          ]}
          onChange={(which) => setAll(which === "all")}
        />
        <Pair>
          <Picker
            label="Format"
            value={choices.format}
            options={[...pictureFormats]}
            onChange={(format) => set({ format: format as TakeChoices["format"] })}
          />
          <Picker
            label="Of a sample"
            value={choices.depth}
            options={depthsOf(choices.format)}
            onChange={(depth) => set({ depth: depth as TakeChoices["depth"] })}
          />
        </Pair>
        <EncodingPicker
          label="Encoding"
          value={choices.encoding}
          first={[{ id: "", name: "What the look gives" }]}
          onChange={(encoding) => set({ encoding })}
        />
        <JobLine id={jobId} what="Grading" cancelled="Cancelled. No file was made." />
        {grade.error && <Notice>{wordsFor(grade.error)}</Notice>}
        {said && <Notice tone="word">{said}</Notice>}
        {!onCopied && job?.state === "done" && (
          <Notice tone="word">
            <bdi>{job.file_name}</bdi> was taken.{" "}
            <a href={job.download} download>
              Once more
            </a>
            {job.left_out.length > 0 && <>. It has no room for: {job.left_out.join("; ")}</>}
          </Notice>
        )}
      </SheetBody>
      <SheetFoot>
        <Secondary isDisabled={running || !picture} onPress={copy}>
          Copy to the clipboard
        </Secondary>
        <Primary autoFocus isPending={grade.isPending || running} isDisabled={!picture} onPress={() => void take()}>
          {all ? `Take all ${tray.length}` : `Take ${width} × ${height}`}
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
