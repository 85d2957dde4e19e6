import { Trash2 } from "lucide-react";
import { useRef, useState } from "react";
import styled from "styled-components";
import { IconButton, WordButton } from "../../../kit/Button";
import { Choice } from "../../../kit/Choice";
import { NumberBox } from "../../../kit/NumberBox";
import { PickButton } from "../../../kit/PickButton";
import { usePicking } from "../../view/usePicking";
import { SkinLeft } from "../settings/SkinLeft";
import type { EditorProps } from "../editor";
import { ColourCurveGraph, heightOf } from "../graph/ColourCurveGraph";
import { added, curves, isNeutral, moved, pointsOf, type ColourCurves, type Curve } from "../graph/colourPoints";
import { hueRibbon, toneRibbon } from "../graph/gradients";
import type { Point } from "../graph/points";
import { Ribbon } from "../graph/Ribbon";

const options: readonly (readonly [Curve, string])[] = [
  ["turn", "Hue"],
  ["saturation", "Saturation"],
  ["lightness", "Lightness"],
  ["saturation_by_lightness", "By tone"],
];
/** Degrees of hue, or lightness: a point this near to what was picked is taken instead of a new one. */
const NEAR = { hue: 8, tone: 0.04 };

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
  const [curve, setCurve] = useState<Curve>("saturation");
  const [chosen, setChosen] = useState(0);
  const picked = useRef<{ readonly index: number; readonly point: Point } | null>(null);
  const range = curves[curve];
  const points = pointsOf(step, curve);
  const at = Math.min(chosen, points.length - 1);
  const point = points[at];
  const lines = sketch?.lines ?? {};
  const line = lines[curve === "turn" ? "hue" : curve];
  const label = curve === "saturation_by_lightness" ? "saturation by tone" : range.name.toLowerCase();

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
  /** Where the curve runs now. */
  const valueAt = (place: number) => line?.[Math.round((place / range.across) * (line.length - 1))] ?? range.neutral;

  const pick = usePicking("Click a colour in the picture; drag up or down to shape the chosen curve there", {
    down: (pixel) => {
      const place = range.isCyclic ? pixel.hue : pixel.lightness;
      const away = (x: number) => (range.isCyclic ? Math.abs(((x - place + 540) % 360) - 180) : Math.abs(x - place));
      const near = points.findIndex(([x]) => away(x) < (range.isCyclic ? NEAR.hue : NEAR.tone));
      const index = near >= 0 ? near : add([place, valueAt(place)]);
      if (index === null) return;
      setChosen(index);
      picked.current = { index, point: points[near] ?? [place, valueAt(place)] };
    },
    move: (_, up) => {
      const from = picked.current;
      if (from) move(from.index, [from.point[0], from.point[1] + up * heightOf(curve)]);
    },
    up: () => {
      picked.current = null;
      done();
    },
  });

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
      <ColourCurveGraph
        curve={curve}
        label={label}
        points={points}
        line={line}
        chosen={at}
        onChoose={setChosen}
        onAdd={add}
        onMove={move}
        onRemove={remove}
        onDone={done}
      />
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
      <SkinLeft title="Colour curves" step={step} change={change} done={done} />
    </>
  );
}
