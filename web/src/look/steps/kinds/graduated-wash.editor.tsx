import styled, { useTheme } from "styled-components";
import type { StepOf } from "../../../api/types";
import { Choice } from "../../../kit/Choice";
import { ColourField } from "../../../kit/ColourField";
import { NumberBox } from "../../../kit/NumberBox";
import { Picker } from "../../../kit/Picker";
import { SettingBar } from "../../../kit/SettingBar";
import { Handle } from "../graph/Handle";
import { blendModes } from "../settings/blendModes";
import { neutral } from "./graduated-wash";
import type { EditorProps, OnPictureProps } from "../editor";

type GraduatedWash = StepOf<"graduated-wash">;

const words = { start: "full here", end: "nothing from here" } as const;
type End = keyof typeof words;

const Root = styled.div`
  display: grid;
  gap: 12px;
  margin-top: 12px;
  > p {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Places = styled.div`
  display: grid;
  grid-template-columns: auto 1fr 1fr;
  gap: 6px 12px;
  align-items: baseline;
  font-size: ${(p) => p.theme.tokens.size.small};
  span {
    color: ${(p) => p.theme.tokens.soft};
  }
  div {
    border-bottom: 1px solid ${(p) => p.theme.tokens.line};
    input {
      text-align: right;
    }
  }
`;
const rounded = (value: number) => Math.round(Math.min(2, Math.max(-1, value)) * 1000) / 1000;

export default function GraduatedWashEditor({ step, change, done }: EditorProps<GraduatedWash>) {
  const set = (name: string, fields: Partial<GraduatedWash>, gesture?: string) =>
    change(`Graduated wash: ${name}`, (before) => ({ ...before, ...fields }), gesture);
  const move = (end: End, axis: 0 | 1, value: number) => {
    const next: [number, number] = [...(step[end] ?? neutral[end])];
    next[axis] = rounded(value);
    set(end, { [end]: next });
    done();
  };
  return (
    <Root>
      <p>Drag the two places on the picture: the colour is full at the filled one and gone at the open one.</p>
      <Choice
        titled
        label="Shape"
        value={step.shape ?? "linear"}
        options={[
          ["linear", "Straight"],
          ["radial", "Round"],
        ]}
        onChange={(shape) => set("shape", { shape })}
      />
      <SettingBar
        label="Amount"
        low={0}
        high={1}
        neutral={0}
        step={0.01}
        digits={2}
        value={step.amount ?? 0}
        onDone={done}
        onChange={(amount, moving) => set("amount", { amount }, moving ? "amount" : undefined)}
      />
      <Places role="group" aria-label="Places, percent of width and height">
        {(["start", "end"] as const).map((end) => [
          <span key={end}>{words[end]}</span>,
          ...([0, 1] as const).map((axis) => (
            <div key={`${end} ${axis}`}>
              <NumberBox
                label={`${end === "start" ? "Full at" : "Nothing at"}, percent ${axis ? "down" : "across"}`}
                value={(step[end] ?? neutral[end])[axis] * 100}
                low={-100}
                high={200}
                step={1}
                digits={1}
                neutral={neutral[end][axis] * 100}
                onChange={(value) => move(end, axis, value / 100)}
              />
            </div>
          )),
        ])}
      </Places>
      <ColourField
        label="Colour, code values"
        value={step.colour ?? [1, 1, 1]}
        onDone={done}
        onChange={(colour, moving) => set("colour", { colour }, moving ? "colour" : undefined)}
      />
      <Picker
        label="Laid over by"
        value={step.mode ?? "multiply"}
        options={blendModes}
        onChange={(mode) => set("how it is laid over", { mode: mode as NonNullable<GraduatedWash["mode"]> })}
      />
    </Root>
  );
}

const Over = styled.svg`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: visible;
  pointer-events: none;
`;
const SIZE = 1000;

/** The two places on the picture, and how the wash runs between them. */
export function OnPicture({ step, change, done, ratio }: OnPictureProps<GraduatedWash>) {
  const { tokens } = useTheme();
  const [width, height] = [SIZE, SIZE / ratio];
  const at = (end: End): readonly [number, number] => {
    const [x, y] = step[end] ?? neutral[end];
    return [x * width, y * height];
  };
  const [start, end] = [at("start"), at("end")];
  const put = (which: End, x: number, y: number) =>
    change(
      `Graduated wash: ${which}`,
      (before) => ({ ...before, [which]: [rounded(x / width), rounded(y / height)] }),
      which,
    );
  const away = Math.hypot(end[0] - start[0], end[1] - start[1]) || 1;
  const across = [-(end[1] - start[1]) / away, (end[0] - start[0]) / away] as const;
  const level = (place: readonly [number, number]) =>
    `M${place[0] - across[0] * 2 * SIZE} ${place[1] - across[1] * 2 * SIZE}L${place[0] + across[0] * 2 * SIZE} ${place[1] + across[1] * 2 * SIZE}`;
  const line = {
    fill: "none",
    stroke: tokens.onPicture,
    strokeWidth: 2,
    style: { filter: `drop-shadow(0 0 1px ${tokens.pictureVeil})` },
  } as const;
  return (
    <Over
      viewBox={`0 0 ${width} ${height}`}
      preserveAspectRatio="none"
      role="group"
      aria-label="Graduated wash on the picture"
      data-testid="wash-places"
    >
      <clipPath id="picture-edge">
        <rect width={width} height={height} />
      </clipPath>
      <g clipPath="url(#picture-edge)">
        <path d={`M${start[0]} ${start[1]}L${end[0]} ${end[1]}`} {...line} strokeDasharray="7 6" />
        {step.shape === "radial" ? (
          <circle cx={start[0]} cy={start[1]} r={away} {...line} strokeDasharray="3 6" />
        ) : (
          <path d={`${level(start)}${level(end)}`} {...line} strokeDasharray="3 6" />
        )}
      </g>
      {(["start", "end"] as const).map((which) => {
        const [x, y] = at(which);
        return (
          <Handle
            key={which}
            x={x}
            y={y}
            r={12}
            label={which === "start" ? "Where the wash is full" : "Where the wash ends"}
            value={Math.round((y / height) * 100)}
            low={-100}
            high={200}
            text={`${Math.round((x / width) * 100)} % across, ${Math.round((y / height) * 100)} % down`}
            fill={which === "start" ? tokens.onPicture : "transparent"}
            stroke={which === "start" ? tokens.ink : tokens.onPicture}
            onMove={(toX, toY) => put(which, toX, toY)}
            onNudge={(right, up) => put(which, x + right * 0.01 * width, y - up * 0.01 * height)}
            onDone={done}
            onNeutral={() => put(which, neutral[which][0] * width, neutral[which][1] * height)}
          />
        );
      })}
    </Over>
  );
}
