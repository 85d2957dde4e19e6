import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { encodings as encodingsQuery } from "../../../api/encodings";
import type { StepOf } from "../../../api/types";
import { Picker } from "../../../kit/Picker";
import { SettingBar } from "../../../kit/SettingBar";
import { Ramp } from "../graph/Ramp";
import { Settings } from "../settings/Settings";
import type { EditorProps } from "../editor";
import { EncodingPicker } from "../../../media/EncodingPicker";

type Convert = StepOf<"convert">;
type Rendering = NonNullable<Convert["rendering"]>;

const Root = styled.div`
  display: grid;
  gap: 12px;
  margin-top: 14px;
  justify-items: stretch;
  > p {
    color: ${(p) => p.theme.tokens.soft};
  }
`;

const gamuts = [
  { id: "keep", name: "Keep them", note: "values outside 0 to 1 go on" },
  { id: "clip", name: "Clip them" },
  {
    id: "compress",
    name: "Draw them in",
    note: "to the edge of the gamut; hue and lightness stay, and all that is inside",
  },
];

const renderings = [
  { id: "plain", name: "Plain", note: "light of 1 is white on both sides" },
  { id: "soft", name: "Soft", note: "highlights are drawn in, so that what lies above white is seen" },
  { id: "scale", name: "Tone scale", note: "grey, contrast and shoulder of your own: for a camera's log picture" },
  { id: "aces-1", name: "ACES 1 output", note: "as OpenColorIO has it; it brings colours into gamut itself" },
  { id: "aces-2", name: "ACES 2 output", note: "as OpenColorIO has it; it brings colours into gamut itself" },
];
const methods = [
  { id: "plain", name: "Plain", note: "light of 1 is white on both sides" },
  { id: "bt2446-a", name: "BT.2446 method A", note: "a curve on luma" },
  { id: "bt2446-c", name: "BT.2446 method C", note: "a curve on luminance; can be undone" },
];

const toneScale = {
  grey: {
    label: "18 % grey is shown as",
    low: 0.02,
    high: 0.5,
    neutral: 0.13,
    step: 0.005,
    digits: 3,
    unit: "light",
    inPowers: true,
  },
  contrast: { label: "Contrast", low: 0.5, high: 3, neutral: 1.35, step: 0.05, digits: 2 },
  toe: { label: "Toe", low: 0, high: 0.1, neutral: 0, step: 0.001, digits: 3, unit: "light" },
  shoulder: { label: "Shoulder", low: 0.3, high: 3, neutral: 1, step: 0.05, digits: 2, inPowers: true },
  hue: { label: "Hue kept in bright colours", low: 0, high: 1, neutral: 0.6, step: 0.05, digits: 2 },
} as const;
const adaptations = [
  { id: "bradford", name: "Bradford", note: "as ICC profiles do" },
  { id: "cat02", name: "CAT02", note: "as most makers' own transforms do" },
  { id: "cat16", name: "CAT16" },
];

export default function ConvertEditor({ step, sketch, change, done }: EditorProps<Convert>) {
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const of = (id: string | undefined) => encodings.find((one) => one.id === id);
  const [from, to] = [of(sketch?.before), of(step.to)];
  const ends = [from, to];
  const isHlg = ends.some((one) => one?.hdr && one.referred === "scene");
  const isPq = ends.some((one) => one?.hdr && one.referred === "display");
  const stated = to?.peak ?? from?.peak ?? null;
  const crosses = from && to && from.referred !== to.referred;
  const shownLight = (one: typeof from) => one !== undefined && (one.referred === "display" || one.hdr);
  const isHdrOf = (one: typeof from) => one?.hdr ?? false;
  const changesRange = shownLight(from) && shownLight(to) && isHdrOf(from) !== isHdrOf(to);
  const rendering = step.rendering ?? "plain";
  // What is chosen first is rendered as pictures are seen; a rendering that was chosen stays.
  const convertedTo = (before: Convert, value: string): Convert =>
    !before.to && from && of(value) && from.referred !== of(value)?.referred
      ? { ...before, to: value, rendering: "soft" }
      : { ...before, to: value };
  const render = (next: Rendering) => change("Convert: rendering", (before) => ({ ...before, rendering: next }));
  return (
    <Root>
      <p>
        From {from?.name ?? "the junction's encoding"} to {to?.name ?? "none yet: nothing changes"}. A conversion has no
        strength: groups fade looks, never conversions.
      </p>
      <EncodingPicker
        label="To"
        value={step.to ?? ""}
        first={[{ id: "", name: "Choose an encoding" }]}
        onChange={(value) => change("Convert: to another encoding", (before) => convertedTo(before, value))}
      />
      {crosses && (
        <Picker
          label="Between scene and display light"
          value={renderings.some((one) => one.id === rendering) ? rendering : "plain"}
          options={renderings}
          onChange={(next) => render(next as Rendering)}
        />
      )}
      {changesRange && (
        <Picker
          label="Between HDR and SDR"
          value={rendering.startsWith("bt2446") ? rendering : "plain"}
          options={methods}
          onChange={(next) => render(next as Rendering)}
        />
      )}
      {step.rendering === "soft" && (
        <SettingBar
          label="Becomes white"
          low={1}
          high={100}
          neutral={4}
          step={0.1}
          digits={1}
          unit="light"
          inPowers
          value={step.white ?? 4}
          onDone={done}
          onChange={(white, moving) =>
            change("Convert: white", (before) => ({ ...before, white }), moving ? "white" : undefined)
          }
        />
      )}
      {step.rendering === "scale" && (
        <Settings title="Convert" step={step} settings={toneScale} change={change} done={done} />
      )}
      {((crosses && (isHlg || (["scale", "aces-1", "aces-2"].includes(rendering) && isPq))) ||
        (changesRange && rendering === "bt2446-a" && isHdrOf(from))) &&
        (stated !== null ? (
          <p>For a display of {stated} cd/m², as its encoding says.</p>
        ) : (
          <SettingBar
            label={isHlg ? "Peak of the display that HLG is for" : "Peak that is shown"}
            low={400}
            high={10000}
            neutral={1000}
            step={10}
            digits={0}
            unit="cd/m²"
            inPowers
            value={step.peak ?? 1000}
            onDone={done}
            onChange={(peak, moving) =>
              change("Convert: peak", (before) => ({ ...before, peak }), moving ? "peak" : undefined)
            }
          />
        ))}
      <Picker
        label="Another white is adapted to by"
        value={step.adaptation ?? "bradford"}
        options={adaptations}
        onChange={(value) =>
          change("Convert: adaptation", (before) => ({
            ...before,
            adaptation: value as NonNullable<Convert["adaptation"]>,
          }))
        }
      />
      <Picker
        label="Colours out of gamut"
        value={step.gamut ?? "keep"}
        options={gamuts}
        onChange={(value) =>
          change("Convert: gamut", (before) => ({ ...before, gamut: value as NonNullable<Convert["gamut"]> }))
        }
      />
      <Ramp after={sketch?.ramp} />
    </Root>
  );
}
