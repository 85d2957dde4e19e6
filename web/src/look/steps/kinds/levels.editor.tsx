import { useState } from "react";
import styled, { useTheme } from "styled-components";
import type { StepOf } from "../../../api/types";
import { Choice } from "../../../kit/Choice";
import { SettingBar, type Setting } from "../../../kit/SettingBar";
import { useUnits } from "../../../kit/units";
import { Handle } from "../graph/Handle";
import { areaOf, channels, pathOf, type Channel } from "../graph/points";
import { Ramp } from "../graph/Ramp";
import type { EditorProps } from "../editor";

type Levels = StepOf<"levels">;
type LevelsRange = NonNullable<Levels["master"]>;

const [WIDTH, HEIGHT, FOOT] = [312, 150, 26];
type Field = keyof LevelsRange;
const neutral: Readonly<Record<Field, number>> = {
  input_black: 0,
  input_white: 1,
  gamma: 1,
  output_black: 0,
  output_white: 1,
};
const names: Readonly<Record<Channel, string>> = { master: "Master", red: "Red", green: "Green", blue: "Blue" };
const words: Readonly<Record<Field, string>> = {
  input_black: "Black in",
  input_white: "White in",
  gamma: "Gamma",
  output_black: "Black out",
  output_white: "White out",
};
const LEAST = 0.002;

const Svg = styled.svg`
  display: block;
  width: calc(100% - 16px);
  margin: 8px 8px 0;
  height: auto;
  overflow: visible;
`;
const Row = styled.div`
  margin: 8px 0 2px;
`;

const held = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));
const rounded = (value: number) => Math.round(value * 1e4) / 1e4;

export default function LevelsEditor({ step, sketch, reaching, change, done }: EditorProps<Levels>) {
  const { tokens } = useTheme();
  const { peak, digits, units } = useUnits();
  const [channel, setChannel] = useState<Channel>("master");
  const range = { ...neutral, ...step[channel] };
  const set = (field: Field, value: number, gesture?: string) =>
    change(
      `Levels: ${names[channel].toLowerCase()} ${words[field].toLowerCase()}`,
      (before) => ({ ...before, [channel]: { ...before[channel], [field]: rounded(limited(field, value)) } }),
      gesture && `${channel} ${gesture}`,
    );
  const limited = (field: Field, value: number) => {
    if (field === "input_black") return held(value, -1, range.input_white - LEAST);
    if (field === "input_white") return held(value, range.input_black + LEAST, 2);
    return field === "gamma" ? held(value, 0.1, 10) : held(value, -1, 2);
  };
  /** Where half of the output lies among the input: what gamma moves. */
  const middle = range.input_black + (range.input_white - range.input_black) * 0.5 ** range.gamma;
  const gammaAt = (x: number) =>
    Math.log(held((x - range.input_black) / (range.input_white - range.input_black), 0.001, 0.999)) / Math.log(0.5);
  const counts = reaching?.[channel === "master" ? 3 : channels.indexOf(channel) - 1];
  const colour = tokens.graph[channel];
  const lines = sketch?.lines ?? {};
  const line = lines[channel] ?? lines["all"] ?? lines["red"];
  const inputs: readonly (readonly [Field, number, number])[] = [
    ["input_black", range.input_black, 1],
    ["gamma", middle, -1],
    ["input_white", range.input_white, 1],
  ];
  const code: Omit<Setting, "label" | "neutral"> = {
    low: -peak,
    high: 2 * peak,
    step: 1,
    digits,
    unit: units === "percent" ? "%" : "",
  };
  return (
    <>
      <Row>
        <Choice
          label="Channel"
          value={channel}
          options={channels.map((id) => [id, names[id]] as const)}
          onChange={setChannel}
        />
      </Row>
      <Svg viewBox={`0 0 ${WIDTH} ${HEIGHT + FOOT}`} role="group" aria-label="Levels" data-testid="levels-graph">
        <rect width={WIDTH} height={HEIGHT} rx={4} fill={tokens.graph.field} />
        {counts && <path d={areaOf(counts, WIDTH, HEIGHT)} fill={colour} fillOpacity={0.16} />}
        <path d={`M0 ${HEIGHT}L${WIDTH} 0`} stroke={tokens.graph.diagonal} strokeDasharray="3 4" />
        <svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`}>
          <g transform={`scale(1 ${HEIGHT / WIDTH})`}>
            <path
              d={pathOf(line, WIDTH)}
              fill="none"
              stroke={colour}
              strokeWidth={2}
              vectorEffect="non-scaling-stroke"
            />
          </g>
        </svg>
        {inputs.map(([field, at, sign]) => (
          <g key={field}>
            <path d={`M${held(at, 0, 1) * WIDTH} 0V${HEIGHT + 6}`} stroke={tokens.graph.diagonal} />
            <Handle
              x={held(at, 0, 1) * WIDTH}
              y={HEIGHT + 13}
              r={5.5}
              label={words[field]}
              value={range[field]}
              low={-1}
              high={field === "gamma" ? 10 : 2}
              text={field === "gamma" ? range.gamma.toFixed(2) : `${(at * peak).toFixed(digits)} ${units}`}
              onMove={(x) => set(field, field === "gamma" ? gammaAt(x / WIDTH) : x / WIDTH, field)}
              onNudge={(right) => set(field, range[field] + right * sign * (field === "gamma" ? 0.01 : 1 / 255), field)}
              onDone={done}
              onNeutral={() => set(field, neutral[field])}
              fill={field === "input_black" ? tokens.ink : field === "gamma" ? tokens.faint : tokens.glaze}
            />
          </g>
        ))}
      </Svg>
      <Ramp after={sketch?.ramp} />
      {(["input_black", "input_white", "output_black", "output_white"] as const).map((field) => (
        <SettingBar
          key={field}
          {...code}
          label={words[field]}
          neutral={neutral[field] * peak}
          value={range[field] * peak}
          onDone={done}
          onChange={(value, moving) => set(field, value / peak, moving ? field : undefined)}
        />
      ))}
      <SettingBar
        label="Gamma"
        low={0.1}
        high={10}
        neutral={1}
        step={0.01}
        digits={2}
        inPowers
        value={range.gamma}
        onDone={done}
        onChange={(value, moving) => set("gamma", value, moving ? "gamma" : undefined)}
      />
    </>
  );
}
