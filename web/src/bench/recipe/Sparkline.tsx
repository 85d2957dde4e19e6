import { useTheme } from "styled-components";
import type { Step, StepSketch } from "../../api/types";
import { pathOf } from "../../look/steps/graph/points";
import { editors } from "../../look/steps/editors";

const TONES = new Set(["all", "master", "red", "green", "blue"]);

/** A line as the graph draws it, 0..1: code values as they are, anything else between its own least and most. */
function inGraph(name: string, values: readonly number[]): readonly number[] {
  if (TONES.has(name)) return values;
  const [least, most] = [Math.min(...values, 0), Math.max(...values, 0)];
  return values.map((value) => 0.08 + 0.84 * ((value - least) / (most - least || 1)));
}

/** What a step does, small: its curves, its weights, or what becomes of a grey ramp. */
export function Sparkline({ step, sketch }: { step: Step; sketch: StepSketch | undefined }) {
  const { tokens } = useTheme();
  const zones = sketch !== undefined && "highlights" in sketch.lines;
  const Spark = sketch?.neutral ? undefined : editors[step.kind]?.Spark;
  const lines = zones || Spark || sketch?.neutral ? [] : Object.entries(sketch?.lines ?? {});
  const isTone = lines.every(([name]) => TONES.has(name));
  const colourOf = (name: string) =>
    name === "red" || name === "green" || name === "blue" ? tokens.graph[name] : tokens.graph.master;
  const ramp = lines.length === 0 && !Spark && sketch && !sketch.neutral && !sketch.spatial ? sketch.ramp : [];
  return (
    <svg width={34} height={26} viewBox="-2 -2 38 30" aria-hidden>
      <rect x={-2} y={-2} width={38} height={30} rx={4} fill={tokens.graph.field} />
      {ramp.map(([red, green, blue], index) => (
        <rect key={index} x={index} y={9} width={1.6} height={8} fill={`rgb(${red} ${green} ${blue})`} />
      ))}
      {ramp.length === 0 && isTone && !Spark && !sketch?.spatial && (
        <path d="M0 26L34 0" stroke={tokens.graph.diagonal} fill="none" />
      )}
      {Spark && <Spark step={step} lines={sketch?.lines ?? {}} />}
      <g transform="scale(1 0.765)">
        {lines.map(([name, values]) => (
          <path
            key={name}
            d={pathOf(inGraph(name, values), 34)}
            stroke={colourOf(name)}
            strokeWidth={1.6}
            fill="none"
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </g>
    </svg>
  );
}
