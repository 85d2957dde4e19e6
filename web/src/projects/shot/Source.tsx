import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { encodingsIn } from "../encodingsIn";
import { wordsFor } from "../../api/client";
import { encodings as encodingsQuery } from "../../api/encodings";
import { footageOf, useChangeFootage, useMakeProxy, type Footage } from "../../api/footage";
import { project as projectQuery, useChangeShots } from "../../api/projects";
import type { Shot } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { TextBox } from "../../kit/TextBox";
import { EncodingPicker } from "../../media/EncodingPicker";

const MATRICES = [
  { id: "bt601", name: "BT.601" },
  { id: "bt709", name: "BT.709" },
  { id: "bt2020", name: "BT.2020" },
];
const RANGES = [
  { id: "limited", name: "Limited, 16 to 235" },
  { id: "full", name: "Full, 0 to 255" },
];
const SAID: Readonly<Record<string, string>> = {
  file: "as the file says",
  size: "the file does not say; by its size",
  person: "as somebody here said",
};

interface EncodingProps {
  readonly project: number;
  readonly shots: readonly Shot[];
  readonly mayWork: boolean;
  readonly onDone: (done: { count: number; undo: number | null }) => void;
}

/** What shots are in; for several at once. Mixed values keep what they have until one is chosen. */
export function EncodingOf({ project, shots, mayWork, onDone }: EncodingProps) {
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const { data: whole } = useQuery(projectQuery(project));
  const change = useChangeShots(project);
  const say = (encoding: string) =>
    change.mutate({ shots: shots.map((one) => one.id), encoding }, { onSuccess: onDone });
  const found = new Set(shots.map((one) => one.encoding));
  const [only = ""] = found;
  const isMixed = found.size > 1;
  const name = encodings.find((one) => one.id === only)?.name ?? only;
  if (!mayWork) return <p>{isMixed ? `Mixed: ${[...found].join(", ")}` : name}</p>;
  return (
    <>
      <EncodingPicker
        label={isMixed ? "Encoding (mixed)" : "Encoding"}
        value={isMixed ? "" : only}
        here={encodingsIn(whole)}
        first={isMixed ? [{ id: "", name: `Mixed: ${[...found].join(", ")}` }] : []}
        onChange={(encoding) => {
          if (encoding) say(encoding);
        }}
      />
      {shots.some((one) => one.encoding_said) && (
        <p>
          Said here, in place of what the picture says.{" "}
          <WordButton onPress={() => say("")}>As the picture says</WordButton>
        </p>
      )}
      {change.error && <Notice>{wordsFor(change.error)}</Notice>}
    </>
  );
}

/** The camera, roll or folder that shots come from, by whose name corrections are put on all of it; kept once the box is left. */
export function RollOf({ project, shots, mayWork, onDone }: EncodingProps) {
  const change = useChangeShots(project);
  const found = new Set(shots.map((one) => one.roll));
  const [only = ""] = found;
  const kept = found.size > 1 ? "" : only;
  const [typed, setTyped] = useState<string | null>(null);
  const keep = () => {
    const roll = (typed ?? kept).trim();
    if (typed !== null && roll !== kept)
      change.mutate(
        { shots: shots.map((one) => one.id), roll },
        { onSuccess: onDone, onSettled: () => setTyped(null) },
      );
  };
  if (!mayWork) return only === "" ? null : <p>From {[...found].join(", ")}</p>;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
      onBlur={keep}
    >
      <TextBox
        label={found.size > 1 ? "Camera, roll or folder (mixed)" : "Camera, roll or folder"}
        value={typed ?? kept}
        onChange={setTyped}
        maxLength={80}
      />
      {change.error && <Notice>{wordsFor(change.error)}</Notice>}
    </form>
  );
}

function factsOf(clip: Footage): string {
  const rate = Number((clip.seconds > 0 ? clip.count / clip.seconds : 0).toFixed(3));
  return [
    clip.kind === "clip" ? clip.codec : `${clip.codec} frames`,
    `${String(clip.bits)} bit ${clip.chroma}`,
    `${String(clip.count)} frames at ${String(rate)}`,
    clip.variable ? "frames of unequal length" : "",
    clip.alpha ? "with alpha" : "",
    clip.held ? `frames ${clip.held} are missing, ${clip.leaves_gaps ? "and left so" : "the one before is held"}` : "",
    clip.in_place ? "read in place" : "",
  ]
    .filter(Boolean)
    .join(", ");
}

/** How a clip codes its colour: always shown, and put right where the file is wrong. */
function CodingOf({ id }: { id: number }) {
  const { data: clip } = useQuery(footageOf(id));
  const change = useChangeFootage();
  const again = useMakeProxy();
  if (!clip) return null;
  return (
    <>
      <p>{factsOf(clip)}</p>
      {clip.matrix !== "" && (
        <>
          {clip.may_change ? (
            <>
              <Picker
                label={`Matrix, ${SAID[clip.matrix_from] ?? ""}`}
                value={clip.matrix}
                options={MATRICES}
                onChange={(matrix) => change.mutate({ id, matrix: matrix as "bt709" })}
              />
              <Picker
                label={`Range, ${SAID[clip.range_from] ?? ""}`}
                value={clip.full ? "full" : "limited"}
                options={RANGES}
                onChange={(range) => change.mutate({ id, full: range === "full" })}
              />
            </>
          ) : (
            <p>
              {MATRICES.find((one) => one.id === clip.matrix)?.name}, {clip.full ? "full" : "limited"} range
            </p>
          )}
        </>
      )}
      {!clip.plays && (
        <p>
          Its small copy is being made; until then the first frame stands for all of them.{" "}
          {clip.may_change && <WordButton onPress={() => again.mutate(id)}>Make it once more</WordButton>}
        </p>
      )}
      {(change.error ?? again.error) && <Notice>{wordsFor(change.error ?? again.error)}</Notice>}
    </>
  );
}

/** Where the light comes from, and what it is in. */
export function Source({ project, shot, mayWork, onDone }: Omit<EncodingProps, "shots"> & { readonly shot: Shot }) {
  return (
    <>
      <p>
        <bdi>{shot.picture_name}</bdi>, {shot.width} x {shot.height}
      </p>
      <EncodingOf project={project} shots={[shot]} mayWork={mayWork} onDone={onDone} />
      <RollOf project={project} shots={[shot]} mayWork={mayWork} onDone={onDone} />
      {shot.moving && <CodingOf id={shot.picture} />}
    </>
  );
}
