import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { ToggleButton } from "react-aria-components";
import styled from "styled-components";
import { callImage, loadImage, Problem, wordsFor } from "../api/client";
import { useLatest } from "../api/useLatest";
import { encodings as encodingsQuery, job as jobQuery, look as lookQuery, lut as lutQuery, useDeleteEntry, useGrade } from "../api/queries";
import type { Kind, Picture } from "../api/types";
import { Primary, Secondary } from "../kit/Button";
import { Compare, type Wipe } from "../kit/Compare";
import { Disc, Fingerprint } from "../kit/Disc";
import { Notice } from "../kit/Notice";
import { NumberBox } from "../kit/NumberBox";
import { Picker } from "../kit/Picker";
import { StrengthBar } from "../kit/StrengthBar";
import { SurroundChoice } from "../kit/SurroundChoice";
import { HealthView } from "./health/HealthView";
import { LutFacts } from "./LutFacts";
import { ToolsView } from "./tools/ToolsView";
import { usePictureChoice } from "../pictures/usePictureChoice";

const Columns = styled.main`
  display: grid; grid-template-columns: minmax(0, 1fr) 344px; height: 100%; min-height: 0;
`;
const Field = styled.section`
  display: grid; grid-template-rows: 44px minmax(0, 1fr) auto; min-width: 0; min-height: 0; background: ${(p) => p.theme.surround.field}; color: ${(p) => p.theme.surround.ink};
`;
const Tools = styled.div`
  display: flex; align-items: center; justify-content: space-between; padding: 0 14px;
`;
const Pill = styled(ToggleButton)`
  border: 0; background: none; padding: 4px 12px; border-radius: 14px; cursor: pointer; font-weight: 500; color: inherit;
  &[data-selected] { background: ${(p) => p.theme.surround.pill}; color: ${(p) => p.theme.surround.pillInk}; }
`;
const Group = styled.div`
  display: flex; gap: 2px;
`;
const Discs = styled.nav`
  display: flex; gap: 12px; padding: 10px 20px; overflow-x: auto; background: ${(p) => p.theme.surround.tray}; border-top: 1px solid ${(p) => p.theme.surround.line};
  button { border: 0; padding: 5px; background: none; cursor: pointer; border-radius: 50%; }
`;
const Side = styled.aside`
  display: flex; flex-direction: column; gap: 16px; padding: 18px; overflow-y: auto; background: ${(p) => p.theme.tokens.glaze}; border-left: 1px solid ${(p) => p.theme.tokens.line};
`;
const Head = styled.header`
  display: grid; grid-template-columns: 64px 1fr; gap: 14px; align-items: center;
  h1 { font-size: ${(p) => p.theme.tokens.size.title}; font-weight: 600; overflow-wrap: anywhere; }
  p { color: ${(p) => p.theme.tokens.soft}; font-size: ${(p) => p.theme.tokens.size.small}; }
`;
const Strength = styled.div`
  display: grid; grid-template-columns: auto 1fr 34px 12px; gap: 8px; align-items: center;
  input { text-align: right; }
`;
const Block = styled.section`
  display: grid; gap: 10px; padding-top: 14px; border-top: 1px solid ${(p) => p.theme.tokens.line};
  h2 { font-weight: 600; }
`;
const Pair = styled.div`
  display: grid; grid-template-columns: 1fr 1fr; gap: 10px;
`;

const formats = [
  { id: "", name: "As it came" },
  { id: "png", name: "PNG" },
  { id: "tiff", name: "TIFF" },
  { id: "jpeg", name: "JPEG" },
  { id: "openexr", name: "EXR" },
  { id: "dpx", name: "DPX" },
];

type View = "picture" | "health" | "tools";
const views: readonly (readonly [View, string])[] = [["picture", "Picture"], ["health", "Health"], ["tools", "Tools"]];

interface Try {
  kind: Kind;
  id: number;
  picture: number;
  strength: number;
  quality: "drag" | "rest";
}

function useTry(kind: Kind, id: number, picture: Picture | undefined, strength: number, dragging: boolean) {
  const [state, setState] = useState<{ after: ImageBitmap | null; before: ImageBitmap | null; drawn: number; problem: string | null }>({ after: null, before: null, drawn: 0, problem: null });
  const ask = useLatest<Try, ImageBitmap>(
    (input, signal) => callImage("/shelf/frame", input, signal),
    (after) => setState((last) => { last.after?.close(); return { ...last, after, drawn: last.drawn + 1, problem: null }; }),
    (error) => setState((last) => ({ ...last, problem: wordsFor(error) })),
  );
  const shown = picture?.id;
  useEffect(() => {
    if (shown !== undefined) ask({ kind, id, picture: shown, strength, quality: dragging ? "drag" : "rest" });
  }, [ask, kind, id, shown, strength, dragging]);
  useEffect(() => {
    if (shown === undefined) return undefined;
    const controller = new AbortController();
    loadImage(`/pictures/${shown}/frame.png`, controller.signal).then((before) => setState((last) => ({ ...last, before, drawn: last.drawn + 1 })), (error: unknown) => {
      if (!controller.signal.aborted) setState((last) => ({ ...last, problem: wordsFor(error) }));
    });
    return () => controller.abort();
  }, [shown]);
  return state;
}

function Download({ kind, id, picture, strength }: { kind: Kind; id: number; picture: Picture; strength: number }) {
  const { data: encodings } = useQuery(encodingsQuery);
  const [format, setFormat] = useState("");
  const [encoding, setEncoding] = useState("");
  const [jobId, setJobId] = useState<number | null>(null);
  const grade = useGrade();
  const { data: job } = useQuery(jobQuery(jobId));
  const running = jobId !== null && (!job || job.state === "waiting" || job.state === "running");
  return (
    <Block aria-label="Graded picture">
      <h2>Take the graded picture</h2>
      <Pair>
        <Picker label="Format" value={format} options={formats} onChange={setFormat} />
        <Picker label="Encoding" value={encoding} options={[{ id: "", name: "What it gives" }, ...(encodings ?? []).map((one) => ({ id: one.id, name: one.name }))]} onChange={setEncoding} />
      </Pair>
      <Secondary isPending={running || grade.isPending}
        onPress={() => { setJobId(null); grade.mutate({ kind, id, picture: picture.id, strength, format, encoding }, { onSuccess: (made) => setJobId(made.id) }); }}>
        {running ? `Grading ${Math.round((job?.progress ?? 0) * 100)} %` : `Grade ${picture.width} × ${picture.height}`}
      </Secondary>
      {grade.error && <Notice>{wordsFor(grade.error)}</Notice>}
      {job?.state === "failed" && <Notice>{job.problem}</Notice>}
      {job?.state === "done" && <Notice tone="word">Ready: <a href={`/api/jobs/${job.id}/file`} download>{job.file_name}</a></Notice>}
    </Block>
  );
}

/** One entry tried on a picture at any strength, and what can be taken away from it. */
export function EntryPage() {
  const params = useParams();
  const kind: Kind = params.kind === "lut" ? "lut" : "look";
  const id = Number(params.id);
  const { pictures, chosen, choose } = usePictureChoice();
  const [strength, setStrength] = useState(1);
  const [dragging, setDragging] = useState(false);
  const [wiping, setWiping] = useState(true);
  const [view, setView] = useState<View>("picture");
  const [wipe, setWipe] = useState<Wipe>({ x: 0.5, y: 0.5, angle: 6 });
  const lut = useQuery({ ...lutQuery(id), enabled: kind === "lut" });
  const look = useQuery({ ...lookQuery(id), enabled: kind === "look" });
  const shown = useTry(kind, id, chosen, strength, dragging);
  const remove = useDeleteEntry();
  const navigate = useNavigate();
  const name = kind === "lut" ? lut.data?.name : look.data?.name;
  const missing = lut.error ?? look.error;

  if (missing instanceof Problem && missing.status === 404) {
    return <Columns><Field /><Side><Notice>{missing.message}</Notice><Link to="/shelf">To the Shelf</Link></Side></Columns>;
  }
  return (
    <Columns>
      <Field aria-label="Picture">
        <Tools>
          <Group>
            {kind === "lut" && views.map(([key, called]) => <Pill key={key} isSelected={view === key} onChange={() => setView(key)}>{called}</Pill>)}
            {view === "picture" && <Pill isSelected={wiping} onChange={setWiping}>Wipe</Pill>}
          </Group>
          <SurroundChoice />
        </Tools>
        {view === "picture" || !lut.data ? (
          <Compare before={shown.before} after={shown.after} drawn={shown.drawn} wipe={wiping ? wipe : null} onWipe={setWipe} label={`${chosen?.name ?? "No picture"} through ${name ?? "it"}`} />
        ) : view === "health" ? (
          <HealthView key={id} lut={lut.data} picture={chosen} />
        ) : (
          <ToolsView key={id} lut={lut.data} picture={chosen} />
        )}
        <Discs aria-label="Pictures">
          {pictures.map((picture) => (
            <button key={picture.id} type="button" onClick={() => choose(picture.id)} aria-label={picture.name} aria-current={picture.id === chosen?.id || undefined} title={picture.name}>
              <Disc $size={48} $on={picture.id === chosen?.id} style={{ backgroundImage: `url(/api/pictures/${picture.id}/disc.jpg?${picture.state})` }} />
            </button>
          ))}
        </Discs>
      </Field>
      <Side>
        <Head>
          <Fingerprint $size={64} src={`/api/${kind}s/${id}/fingerprint.png?size=128`} alt="Fingerprint" />
          <div>
            <h1>{name}</h1>
            <p>{kind === "lut" ? "LUT" : "Look"} on {chosen?.name ?? "no picture"}</p>
          </div>
        </Head>
        <Strength>
          <span>Strength</span>
          <StrengthBar label="Strength" value={strength} onChange={(value) => { setDragging(true); setStrength(value); }} onChangeEnd={() => setDragging(false)} />
          <NumberBox label="Strength, percent" value={strength * 100} low={0} high={100} step={1} digits={0} neutral={100} onChange={(value) => setStrength(value / 100)} />
          <span>%</span>
        </Strength>
        {shown.problem && <Notice>{shown.problem}</Notice>}
        {chosen && <Download key={`${chosen.id}`} kind={kind} id={id} picture={chosen} strength={strength} />}
        {kind === "lut" ? <LutFacts id={id} onHealth={() => setView("health")} /> : <Block><h2>The look</h2><Primary onPress={() => void navigate(`/bench/${id}`)}>Open on the Bench</Primary><a href={`/api/looks/${id}/look.json`} download>Download the look file</a></Block>}
        <Block>
          <Secondary onPress={() => remove.mutate({ kind, id }, { onSuccess: () => void navigate("/shelf", { state: { gone: { kind, id, name } } }) })}>Delete from the Shelf</Secondary>
          {remove.error && <Notice>{wordsFor(remove.error)}</Notice>}
        </Block>
      </Side>
    </Columns>
  );
}
