import { Trash2 } from "lucide-react";
import { memo, useCallback, useRef, useState } from "react";
import styled from "styled-components";
import { IconButton, WordButton } from "../../../kit/Button";
import { Choice } from "../../../kit/Choice";
import { NumberBox } from "../../../kit/NumberBox";
import { PickButton } from "../../../kit/PickButton";
import { Picker } from "../../../kit/Picker";
import { SettingBar, type Setting } from "../../../kit/SettingBar";
import { Toggle } from "../../../kit/Toggle";
import { useUnits } from "../../../kit/units";
import type { StepOf } from "../../../api/types";
import { CurveGraph } from "../graph/CurveGraph";
import { channels, IDENTITY, isIdentity, pointsOf, SMALLEST_STEP, type Channel, type Point } from "../graph/points";
import { PointList } from "../graph/PointList";
import { Ramp } from "../graph/Ramp";
import { usePicking } from "../../view/usePicking";
import type { EditorProps } from "../editor";

type Curves = StepOf<"curves">;

/** A point this near, in code values, is taken instead of a new one. */
const NEAR = 6 / 255;
const names: Record<Channel, string> = { master: "Master", red: "Red", green: "Green", blue: "Blue" };
const interpolations = [
  { id: "smooth", name: "Smooth", note: "no overshoot between points" },
  { id: "natural", name: "Natural", note: "freest bend, may overshoot" },
  { id: "linear", name: "Straight", note: "lines from point to point" },
];

const masterBends = [
  { id: "rgb", name: "Each channel" },
  { id: "luma", name: "Luma only", note: "colours keep their differences" },
];

const Head = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  margin: 8px 0;
`;
const Table = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 6px;
  margin-top: 8px;
`;
const Cell = styled.div<{ $on: boolean }>`
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 0 7px;
  border-radius: ${(p) => p.theme.tokens.radius.field};
  border: 1px solid ${(p) => (p.$on ? p.theme.tokens.accent : p.theme.tokens.line)};
  box-shadow: ${(p) => (p.$on ? `inset 0 0 0 1px ${p.theme.tokens.accent}` : "none")};
  input:last-child {
    text-align: right;
  }
  span {
    color: ${(p) => p.theme.tokens.soft};
    font-size: 10px;
  }
`;
const Options = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 14px;
  margin-top: 12px;
  align-items: end;
`;
const Wide = styled.div`
  grid-column: 1 / -1;
`;
const ranges: Readonly<Record<"low" | "high", Setting>> = {
  low: {
    hint: "The code at the left end of the curve: below 0 it reaches what lies under black",
    label: "Begins at",
    low: -1,
    high: 0,
    neutral: 0,
    step: 0.01,
    digits: 2,
  },
  high: {
    hint: "The code at the right end of the curve: above 1 it reaches light above white",
    label: "Ends at",
    low: 1,
    high: 100,
    neutral: 1,
    step: 0.1,
    digits: 2,
    inPowers: true,
  },
};
const Foot = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  margin-top: 10px;
  min-height: 28px;
`;
const Hint = styled.p`
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;

const channelOptions = channels.map((id) => [id, names[id]] as const);
const ChannelChoice = memo(function ChannelChoice({
  value,
  onChange,
}: {
  value: Channel;
  onChange: (next: Channel) => void;
}) {
  return <Choice label="Curve" value={value} options={channelOptions} onChange={onChange} />;
});

export default function CurvesEditor({ step, change, done, sketch, reaching }: EditorProps<Curves>) {
  const [channel, setChannel] = useState<Channel>("master");
  const [chosen, setChosen] = useState(0);
  const { peak, digits, units } = useUnits();
  const choose = useCallback((next: Channel) => {
    setChannel(next);
    setChosen(0);
  }, []);
  const held = useRef<{ index: number; from: number } | null>(null);
  const points = pointsOf(step, channel);
  const at = Math.min(chosen, points.length - 1);
  const label = names[channel].toLowerCase();
  const [from, to] = [step.low ?? 0, step.high ?? 1];
  /** A share of the range as a code value in the units that are chosen, and back. */
  const shown = (share: number) => (from + share * (to - from)) * peak;
  const shareOf = (value: number) => (value / peak - from) / (to - from);

  const set = (name: string, next: readonly Point[], gesture?: string) =>
    change(`Curves: ${name}`, (before) => ({ ...before, [channel]: next.map(([x, y]) => [x, y]) }), gesture);
  const move = (index: number, [x, y]: Point) => {
    const low = (points[index - 1]?.[0] ?? -SMALLEST_STEP) + SMALLEST_STEP;
    const high = (points[index + 1]?.[0] ?? 1 + SMALLEST_STEP) - SMALLEST_STEP;
    const held: Point = [Math.min(high, Math.max(low, x)), Math.min(1, Math.max(0, y))];
    set(
      `move ${label} point`,
      points.map((point, i) => (i === index ? held : point)),
      `${channel} ${index}`,
    );
  };
  const add = ([x, y]: Point) => {
    if (points.length >= 16 || points.some(([other]) => Math.abs(other - x) < SMALLEST_STEP)) return;
    const next = [...points, [x, y] as Point].sort((a, b) => a[0] - b[0]);
    const index = next.findIndex(([other]) => other === x);
    set(`add ${label} point`, next, `${channel} ${index}`);
    setChosen(index);
  };
  const remove = (index: number) => {
    if (points.length <= 2) return;
    set(
      `delete ${label} point`,
      points.filter((_, i) => i !== index),
    );
    setChosen(Math.max(0, index - 1));
  };

  const pick = usePicking("Click a tone in the picture, drag up or down to bend the curve there", {
    down: (pixel) => {
      const code = channel === "master" ? pixel.luma : (pixel.step[channels.indexOf(channel) - 1] ?? 0);
      const tone = Math.min(1, Math.max(0, (code - from) / (to - from)));
      const near = points.findIndex(([x]) => Math.abs(x - tone) < NEAR);
      const index = near >= 0 ? near : points.filter(([x]) => x < tone).length;
      const level =
        points[near]?.[1] ?? sketch?.lines[channel]?.[Math.round(tone * (sketch.lines[channel].length - 1))] ?? tone;
      held.current = { index, from: level };
      if (near >= 0) setChosen(near);
      else add([tone, Math.min(1, Math.max(0, level))]);
    },
    move: (_, up) => {
      const point = held.current && points[held.current.index];
      if (held.current && point) move(held.current.index, [point[0], held.current.from + up]);
    },
    up: () => {
      held.current = null;
      done();
    },
  });

  return (
    <>
      <Head>
        <ChannelChoice value={channel} onChange={choose} />
        <WordButton
          isDisabled={isIdentity(points)}
          onPress={() => {
            set(`straighten ${label}`, IDENTITY);
            setChosen(0);
          }}
        >
          Straighten
        </WordButton>
      </Head>
      <CurveGraph
        channel={channel}
        points={points}
        lines={sketch?.lines ?? {}}
        reaching={reaching}
        range={[from, to]}
        chosen={at}
        onChoose={setChosen}
        onMove={move}
        onAdd={add}
        onRemove={remove}
        onDone={done}
      />
      <Ramp after={sketch?.ramp} />
      <Table role="group" aria-label={`Points of the ${label} curve, in and out, ${units}`}>
        {points.map(([x, y], index) => (
          <Cell key={index} $on={index === at}>
            <NumberBox
              label={`Point ${index + 1} in`}
              value={shown(x)}
              low={shown(0)}
              high={shown(1)}
              step={1}
              digits={digits}
              onFocus={() => setChosen(index)}
              onChange={(value) => {
                move(index, [shareOf(value), y]);
                done();
              }}
            />
            <span aria-hidden>→</span>
            <NumberBox
              label={`Point ${index + 1} out`}
              value={shown(y)}
              low={shown(0)}
              high={shown(1)}
              step={1}
              digits={digits}
              onFocus={() => setChosen(index)}
              neutral={shown(x)}
              onChange={(value) => {
                move(index, [x, shareOf(value)]);
                done();
              }}
            />
          </Cell>
        ))}
      </Table>
      <PointList
        key={channel}
        points={points}
        scale={{ from, to, peak }}
        units={units}
        onTake={(next) => {
          set(`${label} points`, next);
          setChosen(0);
        }}
      />
      <Foot>
        <PickButton label="Pick a tone" isOn={pick.picking} onToggle={pick.toggle} />
        <Hint>in → out, {units}</Hint>
        <IconButton aria-label={`Delete point ${at + 1}`} isDisabled={points.length <= 2} onPress={() => remove(at)}>
          <Trash2 aria-hidden />
        </IconButton>
      </Foot>
      <CurveOptions
        interpolation={step.interpolation ?? "smooth"}
        masterOn={step.master_on ?? "rgb"}
        clip={step.clip ?? false}
        low={from}
        high={to}
        change={change}
        done={done}
      />
    </>
  );
}

interface OptionsProps {
  readonly interpolation: NonNullable<Curves["interpolation"]>;
  readonly masterOn: NonNullable<Curves["master_on"]>;
  readonly clip: boolean;
  readonly low: number;
  readonly high: number;
  readonly change: EditorProps<Curves>["change"];
  readonly done: () => void;
}

/** What does not change while a point is dragged, so that it is not drawn again for every move. */
const CurveOptions = memo(function CurveOptions({
  interpolation,
  masterOn,
  clip,
  low,
  high,
  change,
  done,
}: OptionsProps) {
  return (
    <Options>
      <Picker
        label="Between points"
        value={interpolation}
        options={interpolations}
        onChange={(value) =>
          change("Curves: between points", (before) => ({
            ...before,
            interpolation: value as NonNullable<Curves["interpolation"]>,
          }))
        }
      />
      <Picker
        label="Master bends"
        value={masterOn}
        options={masterBends}
        onChange={(value) =>
          change("Curves: master on", (before) => ({ ...before, master_on: value as NonNullable<Curves["master_on"]> }))
        }
      />
      {(Object.entries(ranges) as ["low" | "high", Setting][]).map(([field, setting]) => (
        <Wide key={field}>
          <SettingBar
            {...setting}
            value={field === "low" ? low : high}
            onDone={done}
            onChange={(value, moving) =>
              change(
                `Curves: ${setting.label.toLowerCase()}`,
                (before) => ({ ...before, [field]: value }),
                moving ? field : undefined,
              )
            }
          />
        </Wide>
      ))}
      <Toggle
        label={low === 0 && high === 1 ? "Clip to 0–1 after" : "Clip to the range after"}
        showLabel
        isOn={clip}
        onChange={(on) => change("Curves: clip", (before) => ({ ...before, clip: on }))}
      />
    </Options>
  );
});
