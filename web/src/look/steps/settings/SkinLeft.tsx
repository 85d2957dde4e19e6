import type { StepOf } from "../../../api/types";
import { SettingBar, type Setting } from "../../../kit/SettingBar";

type Leaving = StepOf<"hue-bands" | "colour-curves" | "split-tone" | "lut">;
type LeaveSkin = NonNullable<Leaving["leave_skin"]>;

const settings: Readonly<Record<keyof LeaveSkin, Setting>> = {
  amount: {
    label: "Leave skin",
    low: 0,
    high: 1,
    neutral: 0,
    step: 0.01,
    digits: 2,
    hint: "How much of skin stays as it came; Marks, Skin left shows where",
  },
  width: {
    label: "as wide as",
    low: 5,
    high: 60,
    neutral: 20,
    step: 1,
    digits: 0,
    unit: "°",
    hint: "Hues so far from the line of skin are left in full; beyond it ever less",
  },
};

interface Props<S extends Leaving> {
  readonly title: string;
  readonly step: S;
  readonly change: (name: string, next: (step: S) => S, gesture?: string) => void;
  readonly done: () => void;
}

/** How much of skin a step leaves as it came, and how wide round its line. */
export function SkinLeft<S extends Leaving>({ title, step, change, done }: Props<S>) {
  const now = step.leave_skin ?? {};
  const shown = (now.amount ?? 0) > 0 ? (["amount", "width"] as const) : (["amount"] as const);
  return (
    <div role="group" aria-label={`${title}: skin`}>
      {shown.map((field) => (
        <SettingBar
          key={field}
          {...settings[field]}
          value={now[field] ?? settings[field].neutral}
          onDone={done}
          onChange={(value, moving) =>
            change(
              `${title}: ${field === "amount" ? "leave skin" : "how wide skin is left"}`,
              (before) => ({ ...before, leave_skin: { ...before.leave_skin, [field]: value } }),
              moving ? `skin ${field}` : undefined,
            )
          }
        />
      ))}
    </div>
  );
}
