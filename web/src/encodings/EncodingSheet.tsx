import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import styled, { useTheme } from "styled-components";
import { wordsFor } from "../api/client";
import {
  drawCurve,
  encodings as encodingsQuery,
  useAddEncoding,
  type CurveDrawn,
  type OwnEncoding,
} from "../api/encodings";
import { useLatest } from "../api/useLatest";
import { Primary, Secondary } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { Notice } from "../kit/Notice";
import { FieldLabel } from "../kit/FieldLabel";
import { Picker } from "../kit/Picker";
import { Sheet, SheetBody, SheetFoot } from "../kit/Sheet";
import { TextBox } from "../kit/TextBox";
import {
  corners,
  definitionOf,
  fieldsOf,
  fresh,
  idFor,
  placedAs,
  settled,
  withCurve,
  type CurveKind,
  type Draft,
} from "./draft";

const Sides = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 260px;
  gap: 22px;
  align-items: start;
`;
const Fields = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 14px;
  align-items: end;
`;
const Stack = styled.div`
  display: grid;
  gap: 12px;
`;
const Places = styled.div`
  display: grid;
  grid-template-columns: auto 1fr 1fr;
  gap: 6px 8px;
  align-items: center;
`;
const Axis = styled.span`
  color: ${(p) => p.theme.tokens.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
`;
const Lines = styled.textarea`
  width: 100%;
  min-height: 128px;
  padding: 6px 10px;
  resize: vertical;
  border: 1px solid ${(p) => p.theme.tokens.line};
  border-radius: ${(p) => p.theme.tokens.radius.field};
  background: ${(p) => p.theme.tokens.glaze};
  font-family: ${(p) => p.theme.tokens.numbers};
  font-size: ${(p) => p.theme.tokens.size.small};
`;
const Facts = styled.p`
  margin: 6px 0 0;
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;
const SIZE = 260;

/** The curve as the engine computes it: codes across, stops about 18 % grey up. */
function CurvePicture({ curve }: { curve: CurveDrawn | null }) {
  const { tokens } = useTheme();
  const path = curve?.line
    .map(
      (y, i) => `${i ? "L" : "M"}${((i / (curve.line.length - 1)) * SIZE).toFixed(1)} ${((1 - y) * SIZE).toFixed(1)}`,
    )
    .join("");
  return (
    <svg viewBox={`0 0 ${SIZE} ${SIZE + 16}`} width="100%" role="img" aria-label="The curve: light over code values">
      <rect width={SIZE} height={SIZE} rx={4} fill={tokens.graph.field} />
      <path d={`M0 ${SIZE / 2}H${SIZE}`} stroke={tokens.graph.diagonal} strokeDasharray="3 4" />
      <text x={SIZE - 4} y={SIZE / 2 - 4} fontSize={10.5} textAnchor="end" fill={tokens.soft}>
        18 % grey
      </text>
      <text x={4} y={12} fontSize={10.5} fill={tokens.soft}>
        10 stops over
      </text>
      <text x={SIZE - 4} y={SIZE - 5} fontSize={10.5} textAnchor="end" fill={tokens.soft}>
        10 stops under
      </text>
      {path && <path d={path} fill="none" stroke={tokens.graph.master} strokeWidth={2} data-testid="own-curve" />}
      <text x={0} y={SIZE + 13} fontSize={10.5} fill={tokens.soft}>
        code 0
      </text>
      <text x={SIZE} y={SIZE + 13} fontSize={10.5} textAnchor="end" fill={tokens.soft}>
        code 1
      </text>
    </svg>
  );
}

/** An encoding of the team's own: a curve, primaries and a white. */
export function EncodingSheet({ onClose, onMade }: { onClose: () => void; onMade: (name: string) => void }) {
  const { data: known = [] } = useQuery(encodingsQuery);
  const add = useAddEncoding();
  const [draft, setDraft] = useState<Draft>(fresh);
  const [curve, setCurve] = useState<CurveDrawn | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const ask = useLatest<OwnEncoding, CurveDrawn>(
    drawCurve,
    (found) => {
      setCurve(found);
      setRefused(null);
    },
    (error) => setRefused(wordsFor(error)),
  );
  const { definition, problem } = definitionOf(draft);
  const key = JSON.stringify(definition);
  useEffect(() => {
    if (key !== "null") ask(JSON.parse(key) as OwnEncoding);
  }, [ask, key]);

  const set = (change: Partial<Draft>) => setDraft((before) => ({ ...before, ...change }));
  const field = (name: string, label: string, hideLabel = false) => (
    <TextBox
      key={name}
      label={label}
      hideLabel={hideLabel}
      value={draft.fields[name] ?? ""}
      onChange={(value) => set({ fields: { ...draft.fields, [name]: value } })}
      maxLength={24}
    />
  );
  const byName = [...new Map(known.map((one) => [one.primaries, one])).values()];
  const chosen = byName.find((one) =>
    corners.every((corner) =>
      [0, 1].every((axis) => draft.fields[`${corner}.${"xy"[axis] ?? ""}`] === String(one[corner][axis])),
    ),
  );
  const words = add.error ? wordsFor(add.error) : refused;
  return (
    <Sheet title="An encoding of your own" isOpen onClose={onClose} width="820px">
      <SheetBody>
        <Sides>
          <Stack>
            <TextBox label="Name" value={draft.name} onChange={(name) => set({ name })} maxLength={80} autoFocus />
            {draft.name && <Facts>Its id in files: {idFor(draft.name) || "none yet: use letters or digits"}</Facts>}
            <Choice
              titled
              label="Curve"
              value={draft.kind}
              options={
                [
                  ["log", "Logarithm"],
                  ["logc3", "LogC3"],
                  ["gamma", "Power"],
                  ["pq", "PQ"],
                  ["points", "Points"],
                ] as const
              }
              onChange={(kind: CurveKind) => setDraft(withCurve(draft, kind, known))}
            />
            {settled[draft.kind] === undefined && (
              <Choice
                titled
                label="Its light is that of"
                value={draft.referred}
                options={[
                  ["scene", "A scene"],
                  ["display", "A display"],
                ]}
                onChange={(referred) => set({ referred })}
              />
            )}
            {draft.kind !== "points" && (
              <Fields>{fieldsOf[draft.kind].map(([name, label]) => field(name, label))}</Fields>
            )}
            {draft.kind === "points" && (
              <label>
                <FieldLabel elementType="span">
                  Code value and linear light, a pair a line; straight between them
                </FieldLabel>
                <Lines
                  value={draft.points}
                  onChange={(event) => set({ points: event.target.value })}
                  spellCheck={false}
                />
              </label>
            )}
            <Picker
              label="Primaries and white"
              value={chosen?.id ?? ""}
              options={[
                { id: "", name: "As typed below" },
                ...byName.map((one) => ({ id: one.id, name: one.primaries })),
              ]}
              onChange={(id) => {
                const of = byName.find((one) => one.id === id);
                if (of) setDraft(placedAs(draft, of));
              }}
            />
            <Places role="group" aria-label="Chromaticities">
              <span />
              <Axis aria-hidden>x</Axis>
              <Axis aria-hidden>y</Axis>
              {corners.map((corner) => [
                <FieldLabel key={corner} elementType="span">
                  {corner[0]?.toUpperCase()}
                  {corner.slice(1)}
                </FieldLabel>,
                field(`${corner}.x`, `${corner} x`, true),
                field(`${corner}.y`, `${corner} y`, true),
              ])}
            </Places>
          </Stack>
          <div>
            <CurvePicture curve={curve} />
            {curve && (
              <Facts data-testid="curve-facts">
                18 % grey is code {curve.grey.toFixed(3)}, white {curve.white.toFixed(3)}; code 1 is a light of{" "}
                {curve.brightest.toPrecision(4)}.
              </Facts>
            )}
            {problem && <Facts>{problem}</Facts>}
          </div>
        </Sides>
        {words && !problem && <Notice>{words}</Notice>}
      </SheetBody>
      <SheetFoot>
        <Secondary onPress={onClose}>Cancel</Secondary>
        <Primary
          isDisabled={!definition || draft.name.trim() === "" || idFor(draft.name) === "" || refused !== null}
          isPending={add.isPending}
          onPress={() => {
            if (definition)
              add.mutate(definition, {
                onSuccess: (made) => {
                  onMade(made.name);
                  onClose();
                },
              });
          }}
        >
          Keep it
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
