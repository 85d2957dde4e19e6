import { useQuery } from "@tanstack/react-query";
import { CircleAlert, CircleCheck, Eye } from "lucide-react";
import { Link } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { encodings as encodingsQuery } from "../../api/encodings";
import { useCorrectEnds } from "../../api/luts";
import type { Lut } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Files } from "./Files";
import { Block, Facts, Pair, Small } from "./layout";
import { EncodingPicker } from "../../media/EncodingPicker";

const State = styled.span`
  display: inline-flex;
  gap: 6px;
  align-items: flex-start;
  svg {
    width: 15px;
    height: 15px;
    flex: none;
    margin-top: 1px;
  }
`;
const knowns: Record<string, string> = {
  declared: "The file itself says what it expects and gives.",
  guessed: "What it expects and gives was guessed from its name.",
  asked: "Nothing in the file says what it expects and gives: please say.",
};
const makings: Record<string, string> = {
  "round trip": "Read back from a chart",
  pair: "Fitted to a pair of pictures",
};

/** Where the LUT came from, in words and links. */
function Origin({ lut }: { lut: Lut }) {
  const from = lut.made_from;
  if (!from) return <>{makings[lut.made_by] ?? "Brought in"}</>;
  const link = <Link to={`/shelf/${from.kind}/${String(from.id)}`}>{from.name}</Link>;
  if (from.kind === "look")
    return (
      <>
        {link}, version {from.version}
      </>
    );
  return (
    <>
      {lut.made_by} of {link}
    </>
  );
}

function holdsOf(lut: Pick<Lut, "holds" | "size">): string {
  if (lut.size === 0) return lut.holds;
  return `${lut.holds}, ${String(lut.size)} ${lut.holds === "1D" ? "samples" : "grid points a side"}`;
}

function Ends({ lut }: { lut: Lut }) {
  const correct = useCorrectEnds();
  return (
    <>
      <Pair>
        <EncodingPicker
          label="Expects"
          value={lut.expects}
          onChange={(expects) => correct.mutate({ id: lut.id, expects })}
        />
        <EncodingPicker label="Gives" value={lut.gives} onChange={(gives) => correct.mutate({ id: lut.id, gives })} />
      </Pair>
      {knowns[lut.known] && <Small>{knowns[lut.known]}</Small>}
      {correct.error && <Notice>{wordsFor(correct.error)}</Notice>}
    </>
  );
}

/** What is known of a LUT: what it holds, expects and gives, its health, where it came from, and its files. */
export function LutFacts({ lut, onHealth }: { lut: Lut; onHealth: () => void }) {
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const nameOf = (key: string) => encodings.find((one) => one.id === key)?.name ?? key;
  const baked = lut.made_from?.kind === "look";
  const Icon = lut.health === "fine" ? CircleCheck : lut.health === "bad" ? CircleAlert : Eye;
  return (
    <>
      <Block aria-label="LUT">
        <h2>The LUT</h2>
        <Facts>
          <dt>Holds</dt>
          <dd>{holdsOf(lut)}</dd>
          <dt>Origin</dt>
          <dd>
            <Origin lut={lut} />
          </dd>
          {lut.health && (
            <>
              <dt>Health</dt>
              <dd>
                <State>
                  <Icon aria-hidden />
                  <WordButton onPress={onHealth}>{lut.health === "fine" ? "Healthy" : lut.health_words}</WordButton>
                </State>
              </dd>
            </>
          )}
          {lut.left_out.length > 0 && (
            <>
              <dt>Left out</dt>
              <dd>{lut.left_out.join(", ")}</dd>
            </>
          )}
          {(baked || !lut.may_change) && (
            <>
              <dt>Expects</dt>
              <dd>{nameOf(lut.expects)}</dd>
              <dt>Gives</dt>
              <dd>{nameOf(lut.gives)}</dd>
            </>
          )}
          {lut.offspring.length > 0 && (
            <>
              <dt>Made of it</dt>
              <dd>
                {lut.offspring.map((one, index) => (
                  <span key={one.id}>
                    {index > 0 && ", "}
                    <Link to={`/shelf/${one.kind}/${String(one.id)}`}>{one.name}</Link>
                  </span>
                ))}
              </dd>
            </>
          )}
          <dt>Content</dt>
          <dd>
            <code>{lut.files[0]?.sha256.slice(0, 16)}</code>
          </dd>
        </Facts>
        {!baked && lut.may_change && <Ends lut={lut} />}
      </Block>
      <Block aria-label="Files">
        <h2>Files</h2>
        <Files lut={lut.lut} files={lut.files} />
      </Block>
    </>
  );
}
