import styled from "styled-components";
import type { StepOf } from "../../../api/types";
import { Choice } from "../../../kit/Choice";
import { SettingBar } from "../../../kit/SettingBar";
import { Toggle } from "../../../kit/Toggle";
import { useUnits } from "../../../kit/units";
import { LineGraph } from "../graph/LineGraph";
import type { EditorProps } from "../editor";

type Limit = StepOf<"limit">;

const Root = styled.div`
  display: grid;
  gap: 6px;
  margin-top: 6px;
`;
const ends = [
  ["low", "Low end", 0],
  ["high", "High end", 1],
] as const;

export default function LimitEditor({ step, sketch, reaching, change, done }: EditorProps<Limit>) {
  const { peak, digits, units } = useUnits();
  const line = sketch?.lines["all"] ?? sketch?.lines["red"];
  return (
    <Root>
      <LineGraph
        label="What becomes of each code value"
        line={line}
        counts={reaching?.[3]}
        height={150}
        neutral="diagonal"
        ends={["0", units === "percent" ? "100 %" : String(peak)]}
      />
      {ends.map(([end, name, value]) => (
        <div key={end}>
          <Toggle
            label={`${name} held`}
            showLabel
            isOn={typeof step[end] === "number"}
            onChange={(on) =>
              change(`Limit: ${name.toLowerCase()} ${on ? "held" : "open"}`, (before) => ({
                ...before,
                [end]: on ? value : null,
              }))
            }
          />
          {typeof step[end] === "number" && (
            <SettingBar
              label={name}
              low={-0.5 * peak}
              high={1.5 * peak}
              neutral={value * peak}
              step={1}
              digits={digits}
              value={step[end] * peak}
              onDone={done}
              onChange={(next, moving) =>
                change(
                  `Limit: ${name.toLowerCase()}`,
                  (before) => ({ ...before, [end]: bounded(before, end, next / peak) }),
                  moving ? end : undefined,
                )
              }
            />
          )}
        </div>
      ))}
      <SettingBar
        label="Knee"
        low={0}
        high={1}
        neutral={0}
        step={0.01}
        digits={2}
        value={step.knee ?? 0}
        onDone={done}
        onChange={(knee, moving) =>
          change("Limit: knee", (before) => ({ ...before, knee }), moving ? "knee" : undefined)
        }
      />
      <Choice
        titled
        label="What is kept"
        value={step.keep ?? "channels"}
        options={[
          ["channels", "Each channel by itself"],
          ["hue", "Keep the hue"],
        ]}
        onChange={(keep) => change("Limit: what is kept", (before) => ({ ...before, keep }))}
      />
    </Root>
  );
}

/** The ends stay apart, in this order. */
function bounded(step: Limit, end: "low" | "high", value: number): number {
  const other = end === "low" ? step.high : step.low;
  if (typeof other !== "number") return value;
  return end === "low" ? Math.min(value, other - 0.01) : Math.max(value, other + 0.01);
}
