import { useState } from "react";
import { ColorArea, ColorSlider, ColorThumb, SliderTrack, parseColor, type Color } from "react-aria-components";
import styled from "styled-components";
import { HexBox } from "./HexBox";
import type { Rgb } from "./hex";
import { NumberBox } from "./NumberBox";
import { FieldLabel } from "./FieldLabel";
import { useUnits } from "./units";

const Root = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 84px;
  gap: 8px 14px;
  align-items: start;
  > span:first-child {
    grid-column: 1 / 3;
  }
`;
const Area = styled(ColorArea)`
  width: 100%;
  height: 92px;
  border-radius: 4px;
`;
const Hue = styled(ColorSlider)`
  width: 100%;
  margin-top: 10px;
`;
const Track = styled(SliderTrack)`
  height: 14px;
  width: 100%;
  border-radius: 7px;
`;
const Thumb = styled(ColorThumb)`
  width: 16px;
  height: 16px;
  border-radius: 50%;
  border: 2.5px solid ${(p) => p.theme.tokens.glaze};
  box-shadow: 0 0 0 1.5px ${(p) => p.theme.tokens.ink};
  &[data-focus-visible] {
    outline: 2px solid ${(p) => p.theme.tokens.accent};
    outline-offset: 3px;
  }
`;
const Numbers = styled.div`
  display: grid;
  gap: 5px;
  > div {
    display: grid;
    grid-template-columns: 16px 1fr;
    align-items: baseline;
    border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  }
  input {
    text-align: right;
  }
  span {
    color: ${(p) => p.theme.tokens.soft};
    font-size: 11px;
  }
`;
const Swatch = styled.div`
  height: 28px;
  border-radius: 14px;
  border: 1px solid ${(p) => p.theme.tokens.line} !important;
`;

const names = ["red", "green", "blue"] as const;

interface Props {
  readonly label: string;
  /** Code values 0..1. */
  readonly value: Rgb;
  readonly onChange: (value: [number, number, number], dragging: boolean) => void;
  readonly onDone: () => void;
}

const colourOf = ([red, green, blue]: Rgb) =>
  parseColor(`rgb(${red * 255}, ${green * 255}, ${blue * 255})`).toFormat("hsb");

/** A colour as code values: by area and hue, or by exact numbers. */
export function ColourField({ label, value, onChange, onDone }: Props) {
  const { units, peak, digits } = useUnits();
  // The colour as it is being chosen: grey and black have no hue of their own, so that it must be remembered.
  const [held, setHeld] = useState<Color>(() => colourOf(value));
  const shown = held.toFormat("rgb");
  const same = names.every((name, index) => Math.abs(shown.getChannelValue(name) / 255 - (value[index] ?? 0)) < 0.003);
  const colour = same ? held : colourOf(value);
  function choose(next: Color) {
    setHeld(next);
    const rgb = next.toFormat("rgb");
    onChange(
      names.map((name) => Math.round((rgb.getChannelValue(name) / 255) * 1e4) / 1e4) as [number, number, number],
      true,
    );
  }
  return (
    <Root role="group" aria-label={label}>
      <FieldLabel elementType="span">{label}</FieldLabel>
      <div>
        <Area
          aria-label={`${label}: saturation and brightness`}
          colorSpace="hsb"
          xChannel="saturation"
          yChannel="brightness"
          value={colour}
          onChange={choose}
          onChangeEnd={onDone}
        >
          <Thumb />
        </Area>
        <Hue aria-label={`${label}: hue`} channel="hue" value={colour} onChange={choose} onChangeEnd={onDone}>
          <Track>
            <Thumb style={{ top: "50%" }} />
          </Track>
        </Hue>
      </div>
      <Numbers>
        {names.map((name, index) => (
          <div key={name}>
            <span aria-hidden>{name[0]?.toUpperCase()}</span>
            <NumberBox
              label={`${label}, ${name}, ${units}`}
              value={(value[index] ?? 0) * peak}
              low={0}
              high={peak}
              step={1}
              digits={digits}
              onChange={(next) => {
                onChange(value.map((old, at) => (at === index ? next / peak : old)) as [number, number, number], false);
                onDone();
              }}
            />
          </div>
        ))}
        <div>
          <span aria-hidden>#</span>
          <HexBox
            label={`${label}, hexadecimal`}
            value={value}
            onChange={(next) => {
              onChange(next, false);
              onDone();
            }}
          />
        </div>
        <Swatch style={{ background: `rgb(${value.map((one) => Math.round(one * 255)).join(" ")})` }} />
      </Numbers>
    </Root>
  );
}
