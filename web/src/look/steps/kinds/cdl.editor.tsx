import styled, { useTheme } from "styled-components";
import type { StepOf } from "../../../api/types";
import { Matrix } from "../../../kit/Matrix";
import { SettingBar } from "../../../kit/SettingBar";
import { Toggle } from "../../../kit/Toggle";
import { pathOf } from "../graph/points";
import { Ramp } from "../graph/Ramp";
import type { EditorProps } from "../editor";

type Cdl = StepOf<"cdl">;

type Triple = [number, number, number];
type Column = "slope" | "offset" | "power";
const columns: Readonly<Record<Column, { neutral: number; low: number; high: number; step: number }>> = {
  slope: { neutral: 1, low: 0, high: 16, step: 0.01 },
  offset: { neutral: 0, low: -4, high: 4, step: 0.002 },
  power: { neutral: 1, low: 0.05, high: 8, step: 0.01 },
};
const channels = ["red", "green", "blue"] as const;
const [WIDTH, HEIGHT] = [312, 132];

const Svg = styled.svg`
  display: block;
  width: calc(100% - 16px);
  margin: 10px 8px 0;
  height: auto;
`;
const Gap = styled.div`
  margin-top: 12px;
`;

export default function CdlEditor({ step, sketch, change, done }: EditorProps<Cdl>) {
  const { tokens } = useTheme();
  const set = (column: Column, at: number, value: number, moving: boolean) =>
    change(
      `CDL: ${channels[at]} ${column}`,
      (before) => {
        const next: Triple = [
          ...(before[column] ?? [columns[column].neutral, columns[column].neutral, columns[column].neutral]),
        ];
        next[at] = value;
        return { ...before, [column]: next };
      },
      moving ? `${column} ${at}` : undefined,
    );
  const lines = sketch?.lines ?? {};
  return (
    <>
      <Svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label="What becomes of each channel">
        <rect width={WIDTH} height={HEIGHT} rx={4} fill={tokens.graph.field} />
        <path d={`M0 ${HEIGHT}L${WIDTH} 0`} stroke={tokens.graph.diagonal} strokeDasharray="3 4" />
        <g transform={`scale(1 ${HEIGHT / WIDTH})`}>
          {Object.entries(lines).map(([name, values]) => (
            <path
              key={name}
              d={pathOf(values, WIDTH)}
              fill="none"
              strokeWidth={1.8}
              vectorEffect="non-scaling-stroke"
              stroke={name === "red" || name === "green" || name === "blue" ? tokens.graph[name] : tokens.graph.master}
            />
          ))}
        </g>
      </Svg>
      <Ramp after={sketch?.ramp} />
      <Gap />
      <Matrix
        label="CDL"
        columns={["slope", "offset", "power"]}
        onDone={done}
        rows={channels.map((name, at) => ({
          name,
          swatch: name,
          cells: (Object.keys(columns) as Column[]).map((column) => ({
            ...columns[column],
            value: step[column]?.[at] ?? columns[column].neutral,
            digits: 4,
            span: column === "offset" ? 0.5 : 1,
            onChange: (value: number, moving: boolean) => set(column, at, value, moving),
          })),
        }))}
      />
      <SettingBar
        label="Saturation"
        low={0}
        high={4}
        neutral={1}
        step={0.01}
        digits={2}
        value={step.saturation ?? 1}
        onDone={done}
        onChange={(value, moving) =>
          change("CDL: saturation", (before) => ({ ...before, saturation: value }), moving ? "saturation" : undefined)
        }
      />
      <Toggle
        label="Hold to 0–1, as ASC CDL 1.2 does"
        showLabel
        isOn={step.clamp ?? false}
        onChange={(on) => change("CDL: clamp", (before) => ({ ...before, clamp: on }))}
      />
    </>
  );
}
