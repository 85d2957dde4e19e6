import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled, { useTheme } from "styled-components";
import { wordsFor } from "../../api/client";
import { pairFit as pairQuery, useKeepResult, useSendPair } from "../../api/making";
import type { Lut, PairReport } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { JobLine, useJob } from "../../jobs/JobLine";
import { Notice } from "../../kit/Notice";
import { Sheet, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { FileDrop } from "../../kit/FileDrop";
import { Part, Two } from "./Part";
import { PICTURES } from "../../media/accepted";
import { EncodingPicker } from "../../media/EncodingPicker";

const Body = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  flex: 1;
  overflow: hidden;
  min-height: 400px;
`;
const Figures = styled.dl`
  margin: 0;
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 3px 12px;
  dt {
    color: ${(p) => p.theme.tokens.soft};
  }
  dd {
    margin: 0;
    font-family: ${(p) => p.theme.tokens.numbers};
  }
`;
const Svg = styled.svg`
  width: 210px;
  height: 226px;
  display: block;
  text {
    font-size: 10.5px;
    fill: ${(p) => p.theme.tokens.soft};
  }
`;

/** Where the pair spoke: share of the lattice's points over blue that had evidence, by red downwards and green across. */
function Coverage({ map }: { map: PairReport["map"] }) {
  const { graph } = useTheme().tokens;
  const cell = 200 / map.length;
  return (
    <Svg viewBox="0 0 210 226" role="img" aria-label="Where the pair had evidence">
      <rect width={200} height={200} fill={graph.field} />
      {map.map((row, r) =>
        row.map(
          (value, g) =>
            value > 0 && (
              <rect
                key={`${r} ${g}`}
                x={g * cell}
                y={r * cell}
                width={cell + 0.3}
                height={cell + 0.3}
                fill={graph.fill}
                fillOpacity={0.15 + 0.85 * value}
              />
            ),
        ),
      )}
      <text x={0} y={214}>
        green across, red down; dark: evidence
      </text>
    </Svg>
  );
}

interface Props {
  readonly isOpen: boolean;
  readonly onClose: () => void;
  readonly onKept: (lut: Lut) => void;
}

/** A LUT from an original and its recoloured copy. */
export function PairSheet({ isOpen, onClose, onKept }: Props) {
  const [original, setOriginal] = useState<File | null>(null);
  const [recoloured, setRecoloured] = useState<File | null>(null);
  const [encoding, setEncoding] = useState("srgb");
  const [size, setSize] = useState<"17" | "33" | "65">("33");
  const [name, setName] = useState("");
  const [jobId, setJobId] = useState<number | null>(null);
  const send = useSendPair();
  const keep = useKeepResult();
  const { job, running } = useJob(jobId);
  const { data: found, error } = useQuery({ ...pairQuery(jobId), enabled: job?.state === "done" });
  const shownName = name || (recoloured ? recoloured.name.replace(/\.[^.]*$/, "") : "From a pair");
  const trouble = send.error ?? error ?? keep.error;

  function close() {
    setJobId(null);
    setOriginal(null);
    setRecoloured(null);
    setName("");
    send.reset();
    keep.reset();
    onClose();
  }
  return (
    <Sheet title="LUT from a pair of pictures" isOpen={isOpen} onClose={close} width="900px">
      <Body>
        <Part aria-label="The pair">
          <h3>The pair</h3>
          <FileDrop
            file={original}
            onFile={(file) => {
              setOriginal(file);
              setJobId(null);
            }}
            prompt="Drop the original here"
            kinds="as it was before"
            accept={PICTURES}
          />
          <FileDrop
            file={recoloured}
            onFile={(file) => {
              setRecoloured(file);
              setJobId(null);
            }}
            prompt="Drop its recoloured copy here"
            kinds="the same picture at the same size, from any program"
            accept={PICTURES}
          />
          <Two>
            <EncodingPicker label="Both are encoded in" value={encoding} onChange={setEncoding} />
            <Choice
              label="Grid points a side"
              titled
              value={size}
              options={[
                ["17", "17"],
                ["33", "33"],
                ["65", "65"],
              ]}
              onChange={setSize}
            />
          </Two>
          <Secondary
            isDisabled={!original || !recoloured}
            isPending={send.isPending || running}
            onPress={() => {
              if (original && recoloured) {
                setJobId(null);
                send.mutate(
                  { original, recoloured, encoding, size: Number(size) },
                  { onSuccess: (started) => setJobId(started.id) },
                );
              }
            }}
          >
            Fit a LUT
          </Secondary>
        </Part>
        <Part aria-label="The fit">
          <h3>The fit</h3>
          <JobLine id={jobId} what="Fitting" cancelled="Cancelled." />
          {trouble && <Notice>{wordsFor(trouble)}</Notice>}
          {found ? (
            <>
              <Figures>
                <dt>Residual, CIEDE2000: mean</dt>
                <dd>{found.mean.toFixed(2)}</dd>
                <dt>95 % of the pixels below</dt>
                <dd>{found.p95.toFixed(2)}</dd>
                <dt>largest</dt>
                <dd>{found.largest.toFixed(2)}</dd>
                <dt>Grid points with evidence</dt>
                <dd>{(found.coverage * 100).toFixed(1)} %</dd>
              </Figures>
              {found.moved > 0.01 && (
                <Notice>
                  {(found.moved * 100).toFixed(0)} % of the pixels changed in a way no LUT can explain: another change
                  than of colour, or not the same picture.
                </Notice>
              )}
              <Coverage map={found.map} />
              <p>Where there was no evidence the LUT is as smooth as it can be. Health: {found.health}.</p>
              <TextBox label="Name of the LUT" value={shownName} onChange={setName} maxLength={120} />
            </>
          ) : (
            !running &&
            !trouble &&
            job?.state !== "failed" && (
              <p>
                The LUT that turns the original into the copy, how far it is off, and which colours the pair said
                nothing about.
              </p>
            )
          )}
        </Part>
      </Body>
      <SheetFoot>
        <Secondary onPress={close}>Close</Secondary>
        <Primary
          isDisabled={!found}
          isPending={keep.isPending}
          onPress={() =>
            jobId !== null &&
            keep.mutate(
              { job: jobId, which: "fit", name: shownName, licence: "" },
              {
                onSuccess: (made) => {
                  close();
                  onKept(made);
                },
              },
            )
          }
        >
          Keep the LUT
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
