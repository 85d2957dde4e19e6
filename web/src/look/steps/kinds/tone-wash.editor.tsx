import { useState } from "react";
import styled, { useTheme } from "styled-components";
import type { StepOf } from "../../../api/types";
import { WordButton } from "../../../kit/Button";
import { ColourField } from "../../../kit/ColourField";
import { NumberBox } from "../../../kit/NumberBox";
import { Picker } from "../../../kit/Picker";
import { Handle } from "../graph/Handle";
import { Ramp } from "../graph/Ramp";
import { blendModes } from "../settings/blendModes";
import type { EditorProps } from "../editor";
import { added, moved, type Place } from "../graph/tonePlaces";

type ToneWash = StepOf<"tone-wash">;

const [WIDTH, HEIGHT] = [312, 44];
const [FEWEST, MOST] = [2, 5];

const Root = styled.div`
  display: grid;
  gap: 14px;
  margin-top: 14px;
`;
const Svg = styled.svg`
  display: block;
  width: calc(100% - 16px);
  margin: 0 8px;
  height: auto;
  overflow: visible;
`;
const Row = styled.div`
  display: flex;
  align-items: baseline;
  gap: 12px;
  > div {
    width: 52px;
    border-bottom: 1px solid ${(p) => p.theme.tokens.line};
    input {
      text-align: right;
    }
  }
  > span {
    color: ${(p) => p.theme.tokens.soft};
    flex: 1;
  }
`;

const css = (colour: readonly number[]) => `rgb(${colour.map((value) => Math.round(value * 255)).join(" ")})`;
const coded = (at: number) => Math.round(at * 255);

export default function ToneWashEditor({ step, sketch, change, done }: EditorProps<ToneWash>) {
  const { tokens } = useTheme();
  const places: readonly Place[] = step.colours ?? [];
  const [at, setAt] = useState(0);
  const index = Math.min(at, places.length - 1);
  const chosen = places[index];
  const set = (what: string, next: (now: readonly Place[]) => readonly Place[], gesture?: string) =>
    change(`Wash over tones: ${what}`, (before) => ({ ...before, colours: [...next(before.colours ?? [])] }), gesture);
  const move = (which: number, to: number, gesture?: string) => set("place", (now) => moved(now, which, to), gesture);
  const add = () => {
    const { places: next, index: made } = added(places);
    set("another colour", () => next);
    setAt(made);
  };
  const isFull = places.length >= MOST;
  return (
    <Root>
      <Svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="group"
        aria-label="Colours by tone, dark to light"
        data-testid="tones"
      >
        <defs>
          <linearGradient id={`tones-${step.id ?? ""}`}>
            {places.map((one, which) => (
              <stop key={which} offset={one.at} stopColor={css(one.colour)} />
            ))}
          </linearGradient>
        </defs>
        <rect
          width={WIDTH}
          height={22}
          rx={3}
          fill={places.length > 0 ? `url(#tones-${step.id ?? ""})` : tokens.hush}
        />
        {places.map((one, which) => (
          <g key={which}>
            <path d={`M${one.at * WIDTH} 0V34`} stroke={tokens.graph.diagonal} />
            <Handle
              x={one.at * WIDTH}
              y={34}
              r={7}
              label={`Colour ${which + 1} of ${places.length}`}
              value={coded(one.at)}
              low={0}
              high={255}
              text={`at tone ${coded(one.at)} of 255`}
              fill={css(one.colour)}
              stroke={which === index ? tokens.accent : tokens.ink}
              isChosen={which === index}
              onChoose={() => setAt(which)}
              onMove={(x) => move(which, x / WIDTH, `place ${which}`)}
              onNudge={(right) => move(which, one.at + right / 255, `place ${which}`)}
              onDone={done}
              {...(places.length > FEWEST
                ? { onRemove: () => set("one colour less", (now) => now.filter((_, other) => other !== which)) }
                : {})}
            />
          </g>
        ))}
      </Svg>
      <Row>
        {chosen && (
          <>
            <span>At tone</span>
            <div>
              <NumberBox
                label="At tone, of 255"
                value={coded(chosen.at)}
                low={0}
                high={255}
                step={1}
                digits={0}
                onChange={(value) => {
                  move(index, value / 255);
                  done();
                }}
              />
            </div>
          </>
        )}
        <WordButton isDisabled={isFull} onPress={add}>
          {isFull ? "Five at most" : "Another colour"}
        </WordButton>
        {places.length > FEWEST && (
          <WordButton onPress={() => set("one colour less", (now) => now.filter((_, other) => other !== index))}>
            Take it out
          </WordButton>
        )}
      </Row>
      {chosen && (
        <ColourField
          label={`Colour ${index + 1}, code values`}
          value={chosen.colour}
          onDone={done}
          onChange={(colour, moving) =>
            set(
              "colour",
              (now) => now.map((one, other) => (other === index ? { ...one, colour } : one)),
              moving ? `colour ${index}` : undefined,
            )
          }
        />
      )}
      <Picker
        label="Laid over by"
        value={step.mode ?? "normal"}
        options={blendModes}
        onChange={(mode) =>
          change("Wash over tones: how it is laid over", (before) => ({
            ...before,
            mode: mode as NonNullable<ToneWash["mode"]>,
          }))
        }
      />
      <Ramp after={sketch?.ramp} />
    </Root>
  );
}
