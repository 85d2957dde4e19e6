import styled, { useTheme } from "styled-components";
import type { StepOf } from "../../../api/types";
import { hueRibbon } from "../../../kit/HueStrip";
import { PickButton } from "../../../kit/PickButton";
import { Handle } from "../graph/Handle";
import { usePicking } from "../../view/usePicking";
import { Settings } from "../settings/Settings";
import type { EditorProps } from "../editor";

type IsolateHue = StepOf<"isolate-hue">;

const [WIDTH, HEIGHT] = [312, 96];
const settings = {
  centre: { label: "Hue", low: 0, high: 359, neutral: 40, step: 1, digits: 0, unit: "°" },
  width: { label: "Width", low: 0, high: 360, neutral: 60, step: 1, digits: 0, unit: "°" },
  softness: { label: "Softness", low: 1, high: 120, neutral: 20, step: 1, digits: 0, unit: "°" },
  others: { label: "Others keep", low: 0, high: 1, neutral: 1, step: 0.01, digits: 2, unit: "x" },
} as const;

const Ribbon = styled.div`
  height: 16px;
  border-radius: 3px;
  margin: 10px 8px 0;
`;
const Svg = styled.svg`
  display: block;
  width: calc(100% - 16px);
  margin: 4px 8px 0;
  height: auto;
  overflow: visible;
`;
const Row = styled.div`
  margin: 10px 8px 0;
`;
const round = (hue: number) => ((hue % 360) + 360) % 360;

/** How much saturation a hue keeps, from the engine's line. */
function keptRibbon(line: readonly number[] | undefined): string {
  const stops = Array.from(
    { length: 49 },
    (_, index) =>
      `oklch(0.72 ${0.125 * (line?.[Math.round((index / 48) * (line.length - 1))] ?? 1)} ${(360 * index) / 48})`,
  );
  return `linear-gradient(90deg in oklab, ${stops.join(",")})`;
}

export default function IsolateHueEditor({ step, sketch, change, done }: EditorProps<IsolateHue>) {
  const { tokens } = useTheme();
  const { centre = 40, width = 60, softness = 20, others = 1 } = step;
  const line = sketch?.lines["saturation"];
  const set = (name: string, fields: Partial<IsolateHue>, gesture?: string) =>
    change(`Isolate hue: ${name}`, (before) => ({ ...before, ...fields }), gesture);
  const pick = usePicking("Click the colour that is to be kept", {
    down: (pixel) => {
      set("picked hue", { centre: Math.round(pixel.hue) % 360, ...(others === 1 ? { others: 0.2 } : {}) });
      done();
      pick.stop();
    },
  });
  const xOf = (hue: number) => (round(hue) / 360) * WIDTH;
  const yOf = (share: number) => HEIGHT - 10 - share * (HEIGHT - 20);
  const far = (x: number) => {
    const away = Math.abs(round((x / WIDTH) * 360 - centre + 180) - 180);
    return Math.min(180, away);
  };
  return (
    <>
      <Ribbon role="img" aria-label="Hues as they come in" style={{ background: hueRibbon }} />
      <Svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="group" aria-label="What is kept" data-testid="isolate-graph">
        <rect width={WIDTH} height={HEIGHT} rx={3} fill={tokens.graph.field} />
        {line && (
          <path
            d={line
              .map(
                (y, index) =>
                  `${index ? "L" : "M"}${((index / (line.length - 1)) * WIDTH).toFixed(1)} ${yOf(y).toFixed(1)}`,
              )
              .join("")}
            fill="none"
            stroke={tokens.graph.master}
            strokeWidth={2}
          />
        )}
        <Handle
          x={xOf(centre)}
          y={yOf(1)}
          label="Hue that is kept"
          value={centre}
          low={0}
          high={359}
          text={`${centre.toFixed(0)} degrees`}
          isChosen
          onMove={(x) => set("hue", { centre: Math.round(round((x / WIDTH) * 360)) % 360 }, "centre")}
          onNudge={(right) => set("hue", { centre: round(centre + right) }, "centre")}
          onDone={done}
        />
        <Handle
          x={xOf(centre + width / 2)}
          y={yOf(1)}
          label="Width of what is kept"
          value={width}
          low={0}
          high={360}
          text={`${width.toFixed(0)} degrees`}
          onMove={(x) => set("width", { width: Math.round(2 * far(x)) }, "width")}
          onNudge={(right) => set("width", { width: Math.min(360, Math.max(0, width + right)) }, "width")}
          onDone={done}
        />
        <Handle
          x={xOf(centre + width / 2 + softness)}
          y={yOf(others)}
          label="Softness, and what others keep"
          value={others}
          low={0}
          high={1}
          text={`over ${softness.toFixed(0)} degrees down to ${others.toFixed(2)}`}
          onMove={(x, y) =>
            set(
              "softness",
              {
                softness: Math.round(Math.min(120, Math.max(1, far(x) - width / 2))),
                others: Math.round(Math.min(1, Math.max(0, (HEIGHT - 10 - y) / (HEIGHT - 20))) * 100) / 100,
              },
              "softness",
            )
          }
          onNudge={(right, up) =>
            set(
              "softness",
              {
                softness: Math.min(120, Math.max(1, softness + right)),
                others: Math.min(1, Math.max(0, others + up * 0.01)),
              },
              "softness",
            )
          }
          onDone={done}
          onNeutral={() => set("to neutral", { others: 1 })}
        />
      </Svg>
      <Ribbon role="img" aria-label="Hues as they leave" style={{ background: keptRibbon(line), marginTop: 4 }} />
      <Row>
        <PickButton label="Pick the colour to keep" isOn={pick.picking} onToggle={pick.toggle} />
      </Row>
      <Settings title="Isolate hue" step={step} settings={settings} change={change} done={done} />
    </>
  );
}
