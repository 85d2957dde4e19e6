import { useQuery } from "@tanstack/react-query";
import { CircleAlert, CircleCheck, Eye } from "lucide-react";
import { useId, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { encodings as encodingsQuery, lut as lutQuery, shelf as shelfQuery, useChangeLut } from "../api/queries";
import type { Lut } from "../api/types";
import { Primary, WordButton } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { Picker } from "../kit/Picker";
import { TextBox } from "../kit/TextBox";
import { categoriesOf } from "./categories";

const Facts = styled.dl`
  margin: 0; display: grid; grid-template-columns: 84px 1fr; gap: 6px 10px;
  dt { color: ${(p) => p.theme.tokens.soft}; } dd { margin: 0; overflow-wrap: anywhere; }
  code { font-family: ${(p) => p.theme.tokens.numbers}; font-size: 11px; }
`;
const Block = styled.section`
  display: grid; gap: 10px; padding-top: 14px; border-top: 1px solid ${(p) => p.theme.tokens.line};
  h2 { font-weight: 600; }
`;
const Pair = styled.div`
  display: grid; grid-template-columns: 1fr 1fr; gap: 10px;
`;
const Files = styled.ul`
  list-style: none; margin: 0; padding: 0; display: grid; gap: 6px;
  li { display: grid; gap: 1px; overflow-wrap: anywhere; }
  small { color: ${(p) => p.theme.tokens.soft}; font-size: ${(p) => p.theme.tokens.size.small}; }
`;
const Small = styled.small`
  color: ${(p) => p.theme.tokens.soft}; font-size: ${(p) => p.theme.tokens.size.small};
`;
const State = styled.span`
  display: inline-flex; gap: 6px; align-items: flex-start;
  svg { width: 15px; height: 15px; flex: none; margin-top: 1px; }
`;
const knowns: Record<string, string> = { declared: "The file itself says what it expects and gives.", guessed: "What it expects and gives was guessed from its name.", asked: "Nothing in the file says what it expects and gives: please say." };
const makings: Record<string, string> = { "round trip": "Read back from a chart", pair: "Fitted to a pair of pictures" };

interface TextFactProps {
  readonly label: string;
  readonly value: string;
  readonly max: number;
  readonly placeholder?: string;
  /** What others of the kind are called, to choose from. */
  readonly list?: readonly string[];
  readonly onSave: (value: string) => void;
}

function TextFact({ label, value, max, placeholder = "Not said", list, onSave }: TextFactProps) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  return (
    <div onBlur={() => { if (draft !== null && draft !== value) onSave(draft); setDraft(null); }}>
      <TextBox label={label} value={draft ?? value} onChange={setDraft} maxLength={max} placeholder={placeholder} list={list && id} />
      {list && <datalist id={id}>{list.map((one) => <option key={one} value={one} />)}</datalist>}
    </div>
  );
}

/** Where the LUT came from, in words and links. */
function Origin({ lut }: { lut: Lut }) {
  const { version, look: bench, look_name: called } = lut;
  if (version !== null) return <><Link to={`/bench/${bench}`}>{called}</Link>, version {version}</>;
  if (lut.parent !== null) return <>{lut.made_by} of <Link to={`/shelf/lut/${lut.parent}`}>{lut.parent_name}</Link></>;
  return <>{makings[lut.made_by] ?? "Brought in"}</>;
}

/** What is known of a LUT: its files, what it expects and gives, its health, where it came from, and who may use it. */
export function LutFacts({ id, onHealth }: { id: number; onHealth: () => void }) {
  const { data: lut } = useQuery(lutQuery(id));
  const { data: encodings } = useQuery(encodingsQuery);
  const { data: entries = [] } = useQuery(shelfQuery("", "lut"));
  const change = useChangeLut();
  const categories = categoriesOf(entries).map((one) => one.path);
  const options = (encodings ?? []).map((one) => ({ id: one.id, name: one.name }));
  const nameOf = (key: string) => encodings?.find((one) => one.id === key)?.name ?? key;
  if (!lut) return null;
  const baked = lut.version !== null;
  const Icon = lut.health === "fine" ? CircleCheck : lut.health === "bad" ? CircleAlert : Eye;
  return (
    <>
      <Block aria-label="LUT file">
        <h2>The LUT</h2>
        <Facts>
          <dt>Holds</dt><dd>{lut.kind}{lut.size ? `, ${lut.size}${lut.kind === "1D" ? " samples" : " nodes a side"}` : ""}</dd>
          <dt>Origin</dt><dd><Origin lut={lut} /></dd>
          {lut.author && <><dt>Author</dt><dd>{lut.author}</dd></>}
          {lut.health && <><dt>Health</dt><dd><State><Icon aria-hidden /><WordButton onPress={onHealth}>{lut.health === "fine" ? "Healthy" : lut.health_words}</WordButton></State></dd></>}
          {lut.fidelity && <><dt>Fidelity</dt><dd>CIEDE2000 {lut.fidelity.mean.toFixed(2)} mean, {lut.fidelity.p99.toFixed(2)} for 99 %</dd></>}
          {lut.left_out.length > 0 && <><dt>Left out</dt><dd>{lut.left_out.join(", ")}</dd></>}
          {baked && <><dt>Expects</dt><dd>{nameOf(lut.expects)}</dd><dt>Gives</dt><dd>{nameOf(lut.gives)}</dd></>}
          {lut.children.length > 0 && <><dt>Made of it</dt><dd>{lut.children.map((one, index) => <span key={one.id}>{index > 0 && ", "}<Link to={`/shelf/lut/${one.id}`}>{one.name}</Link></span>)}</dd></>}
          <dt>Content</dt><dd><code>{lut.sha256.slice(0, 16)}</code></dd>
        </Facts>
        {!baked && (
          <>
            <Pair>
              <Picker label="Expects" value={lut.expects} options={options} onChange={(expects) => change.mutate({ id, expects })} />
              <Picker label="Gives" value={lut.gives} options={options} onChange={(gives) => change.mutate({ id, gives })} />
            </Pair>
            {knowns[lut.known] && <Small>{knowns[lut.known]}</Small>}
          </>
        )}
        <TextFact label="Category" value={lut.category} max={200} placeholder="None, or a path: Film/Night" list={categories} onSave={(category) => change.mutate({ id, category })} />
        <TextFact label="Note" value={lut.note} max={2000} onSave={(note) => change.mutate({ id, note })} />
        <TextFact label="Rights" value={lut.rights} max={200} onSave={(rights) => change.mutate({ id, rights })} />
        {change.error && <Notice>{wordsFor(change.error)}</Notice>}
      </Block>
      <Block aria-label="Files">
        <h2>Files</h2>
        <Files>
          {[{ id: 0, file_name: lut.file_name, bytes: lut.bytes, lost: lut.lost, fidelity: lut.fidelity }, ...lut.files].map((file) => (
            <li key={file.id}>
              <a href={file.id ? `/api/luts/${id}/files/${file.id}` : `/api/luts/${id}/file`} download>{file.file_name}</a>
              <small>{file.bytes < 100_000 ? `${(file.bytes / 1000).toFixed(1)} kB` : `${(file.bytes / 1e6).toFixed(2)} MB`}{file.fidelity ? `, CIEDE2000 ${file.fidelity.p99.toFixed(2)} for 99 %` : ""}{file.lost.length ? `; ${file.lost.join("; ")}` : ""}</small>
            </li>
          ))}
        </Files>
        <Primary onPress={() => window.location.assign(lut.files.length ? `/api/luts/${id}/files.zip` : `/api/luts/${id}/file`)}>{lut.files.length ? "Download all of them" : "Download the LUT"}</Primary>
      </Block>
    </>
  );
}
