import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { encodings as encodingsQuery } from "../../../api/encodings";
import type { StepOf } from "../../../api/types";
import { Matrix, type MatrixCell } from "../../../kit/Matrix";
import { Choice } from "../../../kit/Choice";
import { Toggle } from "../../../kit/Toggle";
import { Ramp } from "../graph/Ramp";
import type { EditorProps } from "../editor";

type ChannelMix = StepOf<"channel-mix">;

type Triple = [number, number, number];
type Row = "red" | "green" | "blue" | "grey";
const identity: Readonly<Record<Row, Triple>> = {
  red: [1, 0, 0],
  green: [0, 1, 0],
  blue: [0, 0, 1],
  grey: [0.2126, 0.7152, 0.0722], // until the encodings are there
};

const Options = styled.div`
  display: grid;
  gap: 10px;
  margin-top: 14px;
  justify-items: start;
`;
const Note = styled.p`
  margin: 10px 0 8px;
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;

const channels = ["red", "green", "blue"] as const;
const none: Triple = [0, 0, 0];

function put(values: readonly number[] | undefined, at: number, value: number, otherwise: Triple): Triple {
  const next: Triple = [...((values as Triple | undefined) ?? otherwise)];
  next[at] = value;
  return next;
}

export default function ChannelMixEditor({ step, sketch, change, done }: EditorProps<ChannelMix>) {
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const luma = encodings.find((one) => one.id === sketch?.before)?.luma;
  const plain = (row: Row): Triple => (row === "grey" && luma ? [...luma] : identity[row]);
  const rows: readonly Row[] = step.monochrome ? ["grey"] : channels;
  const offset = (at: number): MatrixCell => ({
    value: step.offset?.[at] ?? 0,
    neutral: 0,
    low: -1,
    high: 1,
    step: 0.005,
    digits: 3,
    span: 0.5,
    onChange: (value, moving) =>
      change(
        `Channel mix: ${channels[at]} offset`,
        (before) => ({ ...before, offset: put(before.offset, at, value, none) }),
        moving ? `offset ${at}` : undefined,
      ),
  });
  const share = (row: Row, at: number): MatrixCell => ({
    value: (step[row] ?? plain(row))[at] ?? 0,
    neutral: plain(row)[at] ?? 0,
    low: -2,
    high: 2,
    step: 0.01,
    digits: 3,
    onChange: (value, moving) =>
      change(
        `Channel mix: ${row} from ${channels[at]}`,
        (before) => ({ ...before, [row]: put(before[row] ?? undefined, at, value, plain(row)) }),
        moving ? `${row} ${at}` : undefined,
      ),
  });
  const swatch = (row: Row) => (row === "grey" ? "master" : row);
  return (
    <>
      <Note>
        {step.monochrome
          ? "One row makes all three channels, at first with the luma weights of the encoding; offsets tint the result."
          : "Each row makes one channel out of the three that come in."}
      </Note>
      {step.monochrome ? (
        <Matrix
          label="Channel mix"
          columns={channels}
          onDone={done}
          rows={[
            { name: "grey", swatch: "master", cells: [0, 1, 2].map((at) => share("grey", at)) },
            { name: "offset", swatch: "master", cells: [0, 1, 2].map(offset) },
          ]}
        />
      ) : (
        <Matrix
          label="Channel mix"
          columns={[...channels, "offset"]}
          onDone={done}
          rows={rows.map((row, index) => ({
            name: row,
            swatch: swatch(row),
            cells: [...[0, 1, 2].map((at) => share(row, at)), offset(index)],
          }))}
        />
      )}
      <Ramp after={sketch?.ramp} />
      <Options>
        <Choice
          titled
          label="Mixed in"
          value={step.light ?? "code"}
          options={[
            ["code", "Code values"],
            ["linear", "Linear light"],
          ]}
          onChange={(light) => change("Channel mix: what is mixed", (before) => ({ ...before, light }))}
        />
        <Toggle
          label="Keep neutral: rows scaled to sum 1"
          showLabel
          isOn={step.keep_neutral ?? false}
          onChange={(on) => change("Channel mix: keep neutral", (before) => ({ ...before, keep_neutral: on }))}
        />
        <Toggle
          label="Monochrome: one row for all three"
          showLabel
          isOn={step.monochrome ?? false}
          onChange={(on) => change("Channel mix: monochrome", (before) => ({ ...before, monochrome: on }))}
        />
      </Options>
    </>
  );
}
