import { Trash2 } from "lucide-react";
import { useId, useRef, useState, type PointerEvent } from "react";
import styled, { useTheme } from "styled-components";
import { IconButton, WordButton } from "../../../kit/Button";
import { Choice } from "../../../kit/Choice";
import { NumberBox } from "../../../kit/NumberBox";
import { PickButton } from "../../../kit/PickButton";
import { usePicking } from "../../view/usePicking";
import type { EditorProps } from "../editor";
import { added, curves, isNeutral, moved, pointsOf, type ColourCurves, type Curve } from "../graph/colourPoints";
import { Handle } from "../graph/Handle";
import type { Point } from "../graph/points";
import { Ribbon } from "../graph/Ribbon";
import { hueRibbon, toneRibbon } from "../graph/gradients";

const [WIDTH, HEIGHT] = [312, 150];
/** What is drawn up and down; points beyond it, typed in, stand at the edge. */
const drawn: Readonly<Record<Curve, readonly [number, number]>> = {
  turn: [-90, 90],
  saturation: [0, 2.5],
  lightness: [-0.25, 0.25],
  saturation_by_lightness: [0, 2.5],
};
const ends: Readonly<Record<Curve, readonly [string, string]>> = {
  turn: ["turned on", "turned back"],
  saturation: ["more", "grey"],
  lightness: ["lighter", "darker"],
  saturation_by_lightness: ["more", "grey"],
};
const options: readonly (readonly [Curve, string])[] = [
  ["turn", "Hue"],
  ["saturation", "Saturation"],
  ["lightness", "Lightness"],
  ["saturation_by_lightness", "By tone"],
];
/** Degrees of hue, or lightness: a point this near to what was picked is taken instead of a new one. */
const NEAR = { hue: 8, tone: 0.04 };
/** A hue of the fingerprint's lightness. */
const inkOf = (hue: number) => `oklch(0.72 0.125 ${hue})`;

const Svg = styled.svg`
  display: block;
  width: calc(100% - 16px);
  margin: 4px 8px;
  height: auto;
  overflow: visible;
  cursor: crosshair;
  touch-action: none;
`;
const Row = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  margin: 8px 8px 4px;
  min-height: 28px;
`;
const Boxes = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  margin: 0 8px;
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
  > span {
    width: 74px;
    padding: 0 7px;
    border: 1px solid ${(p) => p.theme.tokens.line};
    border-radius: ${(p) => p.theme.tokens.radius.field};
  }
  > :last-child {
    margin-left: auto;
  }
`;
const Note = styled.p`
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
  margin: 0 8px;
`;

export default function ColourCurvesEditor({ step, sketch, change, done }: EditorProps<ColourCurves>) {
  const { tokens } = useTheme();
  const fill = useId();
  const svg = useRef<SVGSVGElement>(null);
  const [curve, setCurve] = useState<Curve>("saturation");
  const [chosen, setChosen] = useState(0);
  const begun = useRef<{ readonly index: number; readonly point: Point } | null>(null);
  const range = curves[curve];
  const [least, most] = drawn[curve];
  const points = pointsOf(step, curve);
  const at = Math.min(chosen, points.length - 1);
  const point = points[at];
  const lines = sketch?.lines ?? {};
  const line = lines[curve === "turn" ? "hue" : curve];
  const label = curve === "saturation_by_lightness" ? "saturation by tone" : range.name.toLowerCase();

  const xOf = (x: number) => (Math.min(x, range.across) / range.across) * WIDTH;
  const yOf = (y: number) => HEIGHT - ((Math.min(most, Math.max(least, y)) - least) / (most - least)) * HEIGHT;
  const back = (x: number, y: number): Point => [
    (x / WIDTH) * range.across,
    least + ((HEIGHT - y) / HEIGHT) * (most - least),
  ];
  const say = ([x, y]: Point) =>
    `at ${range.isCyclic ? `${x.toFixed(0)} degrees` : `lightness ${x.toFixed(2)}`}, ${y.toFixed(range.digits)} ${range.unit}`;

  const set = (what: string, next: (before: readonly Point[]) => readonly Point[], gesture?: string) =>
    change(
      `Colour curves: ${what}`,
      (before) => ({ ...before, [curve]: next(pointsOf(before, curve)).map(([x, y]) => [x, y]) }),
      gesture && `${curve} ${gesture}`,
    );
  const move = (index: number, to: Point) =>
    set(`move ${label} point`, (before) => moved(before, index, to, range), String(index));
  const remove = (index: number) => {
    set(`delete ${label} point`, (before) => before.filter((_, i) => i !== index));
    setChosen(Math.max(0, index - 1));
  };
  const add = (to: Point): number | null => {
    const made = added(points, to, range);
    if (!made) return null;
    set(`add ${label} point`, () => made.points, String(made.index));
    setChosen(made.index);
    return made.index;
  };

  const pick = usePicking("Click a colour in the picture; drag up or down to shape the chosen curve there", {
    down: (pixel) => {
      const place = range.isCyclic ? pixel.hue : pixel.lightness;
      const away = (x: number) => (range.isCyclic ? Math.abs(((x - place + 540) % 360) - 180) : Math.abs(x - place));
      const near = points.findIndex(([x]) => away(x) < (range.isCyclic ? NEAR.hue : NEAR.tone));
      const index = near >= 0 ? near : add([place, valueAt(place)]);
      if (index === null) return;
      setChosen(index);
      begun.current = { index, point: points[near] ?? [place, valueAt(place)] };
    },
    move: (_, up) => {
      const from = begun.current;
      if (from) move(from.index, [from.point[0], from.point[1] + up * (most - least)]);
    },
    up: () => {
      begun.current = null;
      done();
    },
  });

  /** Where the curve runs now. */
  function valueAt(place: number): number {
    return line?.[Math.round((place / range.across) * (line.length - 1))] ?? range.neutral;
  }

  function onPointerDown(event: PointerEvent<SVGSVGElement>) {
    const matrix = svg.current?.getScreenCTM();
    if (event.button !== 0 || !matrix) return;
    const place = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    const index = add(back(place.x, place.y));
    if (index === null) return;
    svg.current?.setPointerCapture(event.pointerId);
    begun.current = { index, point: back(place.x, place.y) };
  }
  function onPointerMove(event: PointerEvent<SVGSVGElement>) {
    const matrix = svg.current?.getScreenCTM();
    if (!begun.current || !matrix) return;
    const place = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    move(begun.current.index, back(place.x, place.y));
  }
  function release() {
    if (begun.current) done();
    begun.current = null;
  }

  const path = line
    ?.map((y, i) => `${i ? "L" : "M"}${((i / (line.length - 1)) * WIDTH).toFixed(1)} ${yOf(y).toFixed(1)}`)
    .join("");
  const level = yOf(range.neutral);
  const stops = Array.from({ length: 25 }, (_, index) => index / 24);
  return (
    <>
      <Row>
        <Choice
          label="Curve"
          value={curve}
          options={options}
          onChange={(next) => {
            setCurve(next);
            setChosen(0);
          }}
        />
      </Row>
      <Ribbon
        role="img"
        aria-label={range.isCyclic ? "Hues as they come in" : "Tones as they come in"}
        style={{ background: range.isCyclic ? hueRibbon({}) : toneRibbon({}, range.across) }}
      />
      <Svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="group"
        aria-label={`Curve of ${label}${range.isCyclic ? " over hue" : ""}; click to add a point`}
        data-testid="colour-curve"
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={release}
        onPointerCancel={release}
      >
        <rect width={WIDTH} height={HEIGHT} rx={4} fill={tokens.graph.field} />
        <linearGradient id={fill}>
          {stops.map((share) => (
            <stop
              key={share}
              offset={share}
              stopColor={range.isCyclic ? inkOf(360 * share) : `oklch(${share} 0.06 40)`}
            />
          ))}
        </linearGradient>
        {path && <path d={`${path}L${WIDTH} ${level}L0 ${level}Z`} fill={`url(#${fill})`} fillOpacity={0.45} />}
        <path d={`M0 ${level}H${WIDTH}`} stroke={tokens.graph.diagonal} strokeDasharray="3 4" />
        {!range.isCyclic && <path d={`M${xOf(1)} 0V${HEIGHT}`} stroke={tokens.graph.grid} />}
        <text x={4} y={12} fontSize={10.5} fill={tokens.soft}>
          {ends[curve][0]}
        </text>
        <text x={4} y={HEIGHT - 5} fontSize={10.5} fill={tokens.soft}>
          {ends[curve][1]}
        </text>
        {!range.isCyclic && (
          <text x={xOf(1) - 4} y={HEIGHT - 5} fontSize={10.5} textAnchor="end" fill={tokens.soft}>
            white
          </text>
        )}
        {path && <path d={path} fill="none" stroke={tokens.graph.master} strokeWidth={2} data-testid="colour-line" />}
        {points.map((one, index) => (
          <g key={index}>
            <path d={`M${xOf(one[0])} ${level}V${yOf(one[1])}`} stroke={tokens.graph.master} strokeOpacity={0.5} />
            <Handle
              x={xOf(one[0])}
              y={yOf(one[1])}
              label={`Point ${index + 1} of ${points.length}`}
              value={one[1]}
              low={range.low}
              high={range.high}
              text={say(one)}
              isChosen={index === at}
              fill={range.isCyclic && index !== at ? inkOf(one[0]) : undefined}
              onChoose={() => setChosen(index)}
              onDone={done}
              onRemove={() => remove(index)}
              onMove={(x, y) => move(index, back(x, y))}
              onNudge={(right, up) =>
                move(index, [one[0] + right * (range.isCyclic ? 1 : 0.01), one[1] + up * range.step])
              }
            />
          </g>
        ))}
      </Svg>
      <Ribbon
        role="img"
        aria-label={range.isCyclic ? "Hues as they leave" : "Tones as they leave"}
        data-testid="ribbon-after"
        style={{ background: range.isCyclic ? hueRibbon(lines) : toneRibbon(lines, range.across) }}
      />
      <Row>
        <PickButton label="Pick a colour" isOn={pick.picking} onToggle={pick.toggle} />
        <WordButton
          isDisabled={isNeutral(step, curve)}
          onPress={() => {
            set(`straighten ${label}`, () => []);
            setChosen(0);
          }}
        >
          Straighten
        </WordButton>
      </Row>
      {point ? (
        <Boxes role="group" aria-label={`Point ${at + 1} of the ${label} curve`}>
          {range.isCyclic ? "At hue" : "At lightness"}
          <span>
            <NumberBox
              label={range.isCyclic ? "At hue, degrees" : "At lightness"}
              value={point[0]}
              low={0}
              high={range.isCyclic ? 359.9 : 4}
              step={range.isCyclic ? 1 : 0.01}
              digits={range.isCyclic ? 1 : 3}
              onChange={(x) => {
                move(at, [x, point[1]]);
                done();
              }}
            />
          </span>
          <span>
            <NumberBox
              label={`${range.name} there, ${range.unit}`}
              value={point[1]}
              low={range.low}
              high={range.high}
              step={range.step}
              digits={range.digits}
              neutral={range.neutral}
              onChange={(y) => {
                move(at, [point[0], y]);
                done();
              }}
            />
          </span>
          {range.unit}
          <IconButton aria-label={`Delete point ${at + 1}`} onPress={() => remove(at)}>
            <Trash2 aria-hidden />
          </IconButton>
        </Boxes>
      ) : (
        <Note>Click the graph, or pick a colour, to set the first point.</Note>
      )}
    </>
  );
}
