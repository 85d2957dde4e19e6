import { useRef, useState } from "react";
import styled, { useTheme } from "styled-components";
import type { StepOf } from "../../../api/types";
import { WordButton } from "../../../kit/Button";
import { PickButton } from "../../../kit/PickButton";
import { SettingBar, type Setting } from "../../../kit/SettingBar";
import { Handle } from "../graph/Handle";
import { Ribbon } from "../graph/Ribbon";
import { hueRibbon } from "../graph/gradients";
import { usePicking } from "../../view/usePicking";
import { SkinLeft } from "../settings/SkinLeft";
import { movedTogether } from "../graph/bandsTogether";
import { centres } from "./hue-bands";
import type { EditorProps } from "../editor";

type HueBands = StepOf<"hue-bands">;
type HueBand = NonNullable<HueBands["bands"]>[number];

const [WIDTH, HEIGHT] = [312, 92];
/** The lower part, for lightness. */
const [LIGHT_TOP, LIGHT, LIGHTEST] = [98, 44, 0.15];
const GAP = 5;
const MOST = 3;
/** Where skin lies, in OKLCh degrees; common practice, no source. */
const SKIN = [35, 75] as const;

const settings: Readonly<Record<"hue" | "saturation" | "lightness", Setting>> = {
  hue: { label: "Hue", low: -60, high: 60, neutral: 0, step: 0.5, digits: 1, unit: "°" },
  saturation: { label: "Saturation", low: 0, high: MOST, neutral: 1, step: 0.01, digits: 2, unit: "x" },
  lightness: { label: "Lightness", low: -0.3, high: 0.3, neutral: 0, step: 0.005, digits: 3, unit: "L" },
};

const Svg = styled.svg`
  display: block;
  width: calc(100% - 16px);
  margin: 4px 8px 4px;
  height: auto;
  overflow: visible;
`;
const Foot = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
  margin: 10px 8px 4px;
`;
const Note = styled.p`
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
  flex: 1;
  + button {
    white-space: nowrap;
  }
`;

const rounded = (value: number, low: number, high: number, digits = 2) =>
  Math.round(Math.min(high, Math.max(low, value)) * 10 ** digits) / 10 ** digits;

function bandsOf(step: HueBands): readonly HueBand[] {
  return step.bands ?? centres.map((centre) => ({ centre, hue: 0, saturation: 1, lightness: 0 }));
}

const across = (line: readonly number[], yOf: (value: number) => number) =>
  line
    .map(
      (value, index) =>
        `${index ? "L" : "M"}${((index / (line.length - 1)) * WIDTH).toFixed(1)} ${yOf(value).toFixed(1)}`,
    )
    .join("");

export default function HueBandsEditor({ step, sketch, change, done }: EditorProps<HueBands>) {
  const { tokens } = useTheme();
  const [chosen, setChosen] = useState(0);
  /** Those that are turned along with it. */
  const [along, setAlong] = useState<ReadonlySet<number>>(new Set());
  const [picked, setPicked] = useState<number | null>(null);
  const begun = useRef<HueBand | null>(null);
  const bands = bandsOf(step);
  const lines = sketch?.lines ?? {};
  const xOf = (hue: number) => (hue / 360) * WIDTH;
  const yOf = (factor: number) => HEIGHT - (Math.min(MOST, factor) / MOST) * HEIGHT;
  const lightY = (value: number) => LIGHT_TOP + LIGHT / 2 - (value / LIGHTEST) * (LIGHT / 2);

  const set = (index: number, what: string, next: Partial<HueBand>, gesture?: string) =>
    change(
      `Hue bands: ${what}`,
      (before) => ({
        ...before,
        bands: movedTogether(bandsOf(before), index, along.has(index) ? along : new Set(), next),
      }),
      gesture,
    );
  const choose = (index: number, also = false) => {
    setChosen(index);
    if (also) setAlong((now) => new Set([...now, chosen, index]));
    else if (!along.has(index)) setAlong(new Set());
  };
  const pick = usePicking("Click a colour in the picture; drag up or down for its saturation, sideways for its hue", {
    down: (pixel) => {
      const away = (centre: number) => Math.abs(((centre - pixel.hue + 540) % 360) - 180);
      const index = bands.reduce((best, one, at) => (away(one.centre) < away(bands[best]?.centre ?? 0) ? at : best), 0);
      begun.current = bands[index] ?? null;
      setPicked(pixel.chroma > 0.005 ? pixel.hue : null);
      choose(index);
    },
    move: (right, up) => {
      const from = begun.current;
      if (from)
        set(
          chosen,
          "drag in the picture",
          {
            saturation: rounded((from.saturation ?? 1) + up * 3, 0, MOST),
            hue: rounded((from.hue ?? 0) + right * 90, -60, 60),
          },
          `picked ${chosen}`,
        );
    },
    up: () => {
      begun.current = null;
      done();
    },
  });
  const band = bands[chosen] ?? bands[0];
  if (!band) return null;

  /** A centre stays between its neighbours, and on the circle as it is unrolled. */
  function placed(index: number, centre: number): number {
    const low =
      index === 0 ? Math.max(0, (bands.at(-1)?.centre ?? 0) - 360 + GAP) : (bands[index - 1]?.centre ?? 0) + GAP;
    const high =
      index === bands.length - 1
        ? Math.min(359.9, (bands[0]?.centre ?? 0) + 360 - GAP)
        : (bands[index + 1]?.centre ?? 360) - GAP;
    return Math.round(Math.min(high, Math.max(low, centre)) * 10) / 10;
  }

  return (
    <>
      <Ribbon role="img" aria-label="Hues as they come in" style={{ background: hueRibbon({}) }} />
      <Svg
        viewBox={`0 0 ${WIDTH} ${LIGHT_TOP + LIGHT}`}
        role="group"
        aria-label="Bands: place across; saturation up in the upper part, lightness in the lower"
        data-testid="hue-graph"
      >
        <rect width={WIDTH} height={HEIGHT} fill={tokens.graph.field} />
        <rect y={LIGHT_TOP} width={WIDTH} height={LIGHT} fill={tokens.graph.field} />
        <rect x={xOf(SKIN[0])} width={xOf(SKIN[1]) - xOf(SKIN[0])} height={HEIGHT} fill={tokens.hush} />
        <rect x={xOf(SKIN[0])} y={LIGHT_TOP} width={xOf(SKIN[1]) - xOf(SKIN[0])} height={LIGHT} fill={tokens.hush} />
        <text x={xOf((SKIN[0] + SKIN[1]) / 2)} y={HEIGHT - 5} fontSize={10.5} textAnchor="middle" fill={tokens.soft}>
          skin
        </text>
        <text x={WIDTH - 4} y={12} fontSize={10.5} textAnchor="end" fill={tokens.soft}>
          saturation
        </text>
        <text x={WIDTH - 4} y={LIGHT_TOP + LIGHT - 5} fontSize={10.5} textAnchor="end" fill={tokens.soft}>
          lightness
        </text>
        <path
          d={`M0 ${yOf(1)}H${WIDTH}M0 ${lightY(0)}H${WIDTH}`}
          stroke={tokens.graph.diagonal}
          strokeDasharray="3 4"
        />
        {picked !== null && (
          <path
            d={`M${xOf(picked)} 0V${LIGHT_TOP + LIGHT}`}
            stroke={tokens.accent}
            strokeWidth={1.5}
            data-testid="picked-hue"
          />
        )}
        {lines["saturation"] && (
          <path d={across(lines["saturation"], yOf)} fill="none" stroke={tokens.graph.master} strokeWidth={2} />
        )}
        {lines["lightness"] && (
          <path d={across(lines["lightness"], lightY)} fill="none" stroke={tokens.graph.master} strokeWidth={1.6} />
        )}
        {bands.map((one, index) => (
          <g key={index}>
            <Handle
              x={xOf(one.centre)}
              y={yOf(one.saturation ?? 1)}
              label={`Band ${index + 1} of ${bands.length}`}
              value={one.centre}
              low={0}
              high={360}
              text={`at ${one.centre.toFixed(0)} degrees, saturation ${(one.saturation ?? 1).toFixed(2)}`}
              isChosen={index === chosen || along.has(index)}
              onChoose={(also) => choose(index, also)}
              onDone={done}
              onNeutral={() => set(index, "band to neutral", { hue: 0, saturation: 1, lightness: 0 })}
              onMove={(x, y) =>
                set(
                  index,
                  "move band",
                  {
                    centre: placed(index, (x / WIDTH) * 360),
                    saturation: rounded(((HEIGHT - y) / HEIGHT) * MOST, 0, MOST),
                  },
                  `band ${index}`,
                )
              }
              onNudge={(right, up) =>
                set(
                  index,
                  "move band",
                  {
                    centre: placed(index, one.centre + right),
                    saturation: rounded((one.saturation ?? 1) + up * 0.01, 0, MOST, 3),
                  },
                  `band ${index}`,
                )
              }
            />
            <Handle
              x={xOf(one.centre)}
              y={lightY(one.lightness ?? 0)}
              r={4.5}
              label={`Lightness of band ${index + 1}`}
              value={one.lightness ?? 0}
              low={-0.3}
              high={0.3}
              text={(one.lightness ?? 0).toFixed(3)}
              isChosen={index === chosen || along.has(index)}
              onChoose={(also) => choose(index, also)}
              onDone={done}
              onNeutral={() => set(index, "lightness", { lightness: 0 })}
              onMove={(_, y) =>
                set(
                  index,
                  "lightness",
                  { lightness: rounded(((LIGHT_TOP + LIGHT / 2 - y) / (LIGHT / 2)) * LIGHTEST, -0.3, 0.3, 3) },
                  `light ${index}`,
                )
              }
              onNudge={(_, up) =>
                set(
                  index,
                  "lightness",
                  { lightness: rounded((one.lightness ?? 0) + up * 0.005, -0.3, 0.3, 4) },
                  `light ${index}`,
                )
              }
            />
          </g>
        ))}
      </Svg>
      <Ribbon
        role="img"
        aria-label="Hues as they leave"
        data-testid="ribbon-after"
        style={{ background: hueRibbon(lines) }}
      />
      <Foot>
        <PickButton label="Pick a colour" isOn={pick.picking} onToggle={pick.toggle} />
        <Note>
          {along.size > 1
            ? `${along.size} together`
            : `Band ${chosen + 1}, round ${band.centre.toFixed(0)}°; Shift adds others`}
        </Note>
        <WordButton onPress={() => setAlong(along.size > 1 ? new Set() : new Set(bands.keys()))}>
          {along.size > 1 ? "One by one" : "All"}
        </WordButton>
      </Foot>
      {(Object.entries(settings) as ["hue" | "saturation" | "lightness", Setting][]).map(([field, setting]) => (
        <SettingBar
          key={field}
          {...setting}
          value={band[field] ?? setting.neutral}
          onDone={done}
          onChange={(value, moving) =>
            set(chosen, setting.label.toLowerCase(), { [field]: value }, moving ? `${field} ${chosen}` : undefined)
          }
        />
      ))}
      <SkinLeft title="Hue bands" step={step} change={change} done={done} />
    </>
  );
}
