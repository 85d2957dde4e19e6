import styled, { useTheme } from "styled-components";
import type { StepOf } from "../../../api/types";
import { ColourField } from "../../../kit/ColourField";
import { Handle } from "../graph/Handle";
import { LineGraph } from "../graph/LineGraph";
import { Settings } from "../settings/Settings";
import type { EditorProps, OnPictureProps } from "../editor";

type Vignette = StepOf<"vignette">;

const settings = {
  amount: { label: "Amount", low: 0, high: 1, neutral: 0, step: 0.01, digits: 2 },
  midpoint: { label: "Midpoint", low: 0.05, high: 1.5, neutral: 0.75, step: 0.01, digits: 2 },
  feather: { label: "Feather", low: 0.01, high: 2, neutral: 0.7, step: 0.01, digits: 2 },
  roundness: { label: "Roundness", low: 0, high: 1, neutral: 0, step: 0.01, digits: 2 },
} as const;

export default function VignetteEditor({ step, sketch, change, done }: EditorProps<Vignette>) {
  return (
    <>
      <LineGraph
        label="How much of the colour, from the middle to a corner"
        line={sketch?.lines["weight"]}
        height={96}
        neutral={0}
        ends={["middle", "corner"]}
      />
      <Settings title="Vignette" step={step} settings={settings} change={change} done={done} />
      <ColourField
        label="Colour, sRGB"
        value={step.colour ?? [0, 0, 0]}
        onDone={done}
        onChange={(colour, moving) =>
          change("Vignette: colour", (before) => ({ ...before, colour }), moving ? "colour" : undefined)
        }
      />
    </>
  );
}

const Over = styled.svg`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: hidden;
  pointer-events: none;
`;
const SIZE = 1000;
const held = (value: number, low: number, high: number) => Math.round(Math.min(high, Math.max(low, value)) * 100) / 100;

/** Where half of it acts, and where it is full, as ellipses on the picture; the same ones as the engine's. */
export function OnPicture({ step, change, done, ratio }: OnPictureProps<Vignette>) {
  const { tokens } = useTheme();
  const { midpoint = 0.75, feather = 0.7, roundness = 0 } = step;
  const half = [SIZE / 2, SIZE / ratio / 2] as const;
  const circle = Math.hypot(...half) / Math.SQRT2;
  const [across, down] = half.map((side) => Math.SQRT2 * (side + roundness * (circle - side))) as [number, number];
  const full = midpoint + feather / 2;
  const shadow = { filter: `drop-shadow(0 0 1px ${tokens.pictureVeil})` };
  // A handle that would stand outside the picture waits at its edge.
  const x = Math.min(half[0] + midpoint * across, SIZE - 14);
  const y = Math.min(half[1] + full * down, half[1] * 2 - 14);
  return (
    <Over
      viewBox={`0 0 ${SIZE} ${half[1] * 2}`}
      role="group"
      aria-label="Vignette on the picture"
      data-testid="vignette-places"
    >
      <ellipse
        cx={half[0]}
        cy={half[1]}
        rx={midpoint * across}
        ry={midpoint * down}
        fill="none"
        stroke={tokens.onPicture}
        strokeWidth={2}
        strokeDasharray="7 6"
        style={shadow}
      />
      <ellipse
        cx={half[0]}
        cy={half[1]}
        rx={full * across}
        ry={full * down}
        fill="none"
        stroke={tokens.onPicture}
        strokeWidth={1.5}
        strokeDasharray="2 6"
        style={shadow}
      />
      <Handle
        x={x}
        y={half[1]}
        r={11}
        fill={tokens.onPicture}
        stroke={tokens.ink}
        label="Where half of the vignette acts"
        value={midpoint}
        low={0.05}
        high={1.5}
        text={midpoint.toFixed(2)}
        onMove={(to) =>
          change(
            "Vignette: midpoint",
            (before) => ({ ...before, midpoint: held((to - half[0]) / across, 0.05, 1.5) }),
            "midpoint",
          )
        }
        onNudge={(right) =>
          change(
            "Vignette: midpoint",
            (before) => ({ ...before, midpoint: held(midpoint + right * 0.01, 0.05, 1.5) }),
            "midpoint",
          )
        }
        onDone={done}
        onNeutral={() => change("Vignette: midpoint", (before) => ({ ...before, midpoint: 0.75 }))}
      />
      <Handle
        x={half[0]}
        y={y}
        r={11}
        fill="transparent"
        stroke={tokens.onPicture}
        label="Where the vignette is full"
        value={feather}
        low={0.01}
        high={2}
        text={`feather ${feather.toFixed(2)}`}
        onMove={(_, to) =>
          change(
            "Vignette: feather",
            (before) => ({ ...before, feather: held(2 * ((to - half[1]) / down - midpoint), 0.01, 2) }),
            "feather",
          )
        }
        onNudge={(_, up) =>
          change(
            "Vignette: feather",
            (before) => ({ ...before, feather: held(feather - up * 0.01, 0.01, 2) }),
            "feather",
          )
        }
        onDone={done}
        onNeutral={() => change("Vignette: feather", (before) => ({ ...before, feather: 0.7 }))}
      />
    </Over>
  );
}
