import { Columns2, Eye, Maximize, ScanLine, SplitSquareHorizontal, Stamp } from "lucide-react";
import { memo } from "react";
import { Button, ToggleButton } from "react-aria-components";
import styled, { css } from "styled-components";
import { Choice } from "../../kit/Choice";
import { Flyout } from "../../kit/Flyout";
import { Hint } from "../../kit/Hint";
import { NumberBox } from "../../kit/NumberBox";
import { FieldLabel } from "../../kit/FieldLabel";
import { Picker } from "../../kit/Picker";
import { useBench, useViewPart } from "../../look/useBench";
import type { Gamut, Marks, Source, Vision } from "../../look/view/view";
import type { SideChoice } from "./sides";
import { zoomedBy, zoomName } from "./zoom";

const Tools = styled.div`
  display: flex;
  align-items: center;
  gap: 2px;
  padding: 0 12px;
  min-width: 0;
  background: ${(p) => p.theme.surround.tray};
`;
const pill = css`
  display: inline-flex;
  align-items: center;
  gap: 6px;
  border: 0;
  background: none;
  padding: 4px 10px;
  min-height: 28px;
  border-radius: 14px;
  cursor: pointer;
  font-weight: 500;
  color: inherit;
  white-space: nowrap;
  svg {
    width: 15px;
    height: 15px;
    flex: none;
  }
  &[data-hovered] {
    background: color-mix(in srgb, currentColor 12%, transparent);
  }
  &[data-focus-visible] {
    outline-color: ${(p) => p.theme.surround.ink};
  }
`;
const Pill = styled(ToggleButton)`
  ${pill}
  &[data-selected], &[data-pressed] {
    background: ${(p) => p.theme.surround.pill};
    color: ${(p) => p.theme.surround.pillInk};
  }
`;
const Opens = styled(Button)<{ $on?: boolean }>`
  ${pill}
  min-width: 0;
  overflow: hidden;
  > span {
    overflow: hidden;
    text-overflow: ellipsis;
  }
  ${(p) =>
    p.$on &&
    css`
      background: ${p.theme.surround.pill};
      color: ${p.theme.surround.pillInk};
    `}
`;
const Gap = styled.span`
  flex: 1;
`;
const Row = styled.div`
  display: grid;
  grid-template-columns: 1fr auto auto;
  align-items: baseline;
  gap: 6px;
`;
const Short = styled.div`
  width: 44px;
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  input {
    text-align: right;
  }
`;

const markNames: readonly (readonly [Marks, string])[] = [
  ["none", "None"],
  ["clipping", "Clipping"],
  ["skin", "Skin"],
  ["left", "Skin left"],
  ["gamut", "Gamut"],
  ["bake", "Bake error"],
  ["vision", "Other eyes"],
];
/** Who sees so, by the cones that see otherwise. */
const visions = [
  { id: "protan", name: "Protan: long waves" },
  { id: "deutan", name: "Deutan: middle waves" },
  { id: "tritan", name: "Tritan: short waves" },
];

const gamuts = [
  { id: "srgb", name: "sRGB, BT.709" },
  { id: "display-p3", name: "P3-D65" },
  { id: "rec2020", name: "BT.2020" },
];

const MarksMenu = memo(function MarksMenu() {
  const { view } = useBench();
  const marks = useViewPart((one) => one.marks);
  const tolerance = useViewPart((one) => one.tolerance);
  const gamut = useViewPart((one) => one.gamut);
  const vision = useViewPart((one) => one.vision);
  const severity = useViewPart((one) => one.severity);
  const name = markNames.find(([id]) => id === marks)?.[1] ?? "";
  return (
    <Flyout
      label="Marks over the picture"
      placement="bottom end"
      button={
        <Opens $on={marks !== "none"} aria-label={`Marks over the picture: ${name}`}>
          <ScanLine aria-hidden />
          <span>{marks === "none" ? "Marks" : name}</span>
        </Opens>
      }
    >
      <Choice
        label="Marks over the picture"
        value={marks}
        options={markNames}
        onChange={(next) => view.set({ marks: next })}
      />
      {marks === "gamut" && (
        <Picker
          label="Colours outside of"
          value={gamut}
          options={gamuts}
          onChange={(next) => view.set({ gamut: next as Gamut })}
        />
      )}
      {marks === "vision" && (
        <>
          <Picker
            label="Cones that see otherwise"
            value={vision}
            options={visions}
            onChange={(next) => view.set({ vision: next as Vision })}
          />
          <Choice
            label="How far"
            value={String(severity)}
            options={[
              ["0.6", "In part"],
              ["1", "Fully"],
            ]}
            onChange={(next) => view.set({ severity: Number(next) })}
          />
        </>
      )}
      <Row>
        <FieldLabel elementType="span">Skin may turn by</FieldLabel>
        <Short>
          <NumberBox
            label="Degrees that skin may turn"
            value={tolerance}
            low={0.5}
            high={60}
            step={1}
            digits={1}
            neutral={6}
            onChange={(next) => view.set({ tolerance: next })}
          />
        </Short>
        <FieldLabel elementType="span">degrees</FieldLabel>
      </Row>
    </Flyout>
  );
});

/** How the picture is compared and looked at. */
export const StageTools = memo(function StageTools({
  choices,
  names,
}: {
  choices: readonly SideChoice[];
  names: { shown: string; against: string };
}) {
  const { view } = useBench();
  const mode = useViewPart((one) => one.mode);
  const held = useViewPart((one) => one.held);
  const zoom = useViewPart((one) => one.zoom);
  const shown = useViewPart((one) => one.shown);
  const against = useViewPart((one) => one.against);
  return (
    <Tools role="toolbar" aria-label="Compare and zoom">
      <Hint text="A line that can be dragged and turned · W">
        <Pill isSelected={mode === "wipe"} onChange={(on) => view.set({ mode: on ? "wipe" : "single" })}>
          <SplitSquareHorizontal aria-hidden />
          Wipe
        </Pill>
      </Hint>
      <Hint text="Both sides · D">
        <Pill isSelected={mode === "beside"} onChange={(on) => view.set({ mode: on ? "beside" : "single" })}>
          <Columns2 aria-hidden />
          Beside
        </Pill>
      </Hint>
      <Hint text={`Shows ${names.against} while held · O`}>
        <Pill
          isSelected={held}
          aria-label={`Hold for ${names.against}`}
          onPressStart={() => view.set({ held: true })}
          onPressEnd={() => view.set({ held: false })}
        >
          <Eye aria-hidden />
          Hold
        </Pill>
      </Hint>
      <Flyout
        label="The two sides"
        button={
          <Opens
            $on={shown !== "draft" || against !== "original"}
            aria-label={`Sides: ${names.against} / ${names.shown}`}
          >
            <Stamp aria-hidden />
            <span>
              {names.against} / {names.shown}
            </span>
          </Opens>
        }
      >
        <Picker
          label="Compared with"
          value={against}
          options={choices}
          onChange={(next) => view.set({ against: next as Source })}
        />
        <Picker
          label="Shown"
          value={shown}
          options={choices}
          onChange={(next) => view.set({ shown: next as Source })}
        />
      </Flyout>
      <Gap />
      <Hint text="The picture alone · V. A second window that follows, for another screen: Shift V">
        <Opens aria-label="The picture alone" onPress={() => view.set({ alone: true })}>
          <Maximize aria-hidden />
        </Opens>
      </Hint>
      <MarksMenu />
      <Hint text="Whole picture · F">
        <Pill isSelected={zoom === null} onChange={() => view.set({ zoom: null })}>
          Fit
        </Pill>
      </Hint>
      <Hint text="Pixel for pixel · Z. Further in and out: + and -, or the wheel">
        <Pill
          isSelected={zoom !== null}
          aria-label={`Zoom ${zoomName(zoom ?? 1)}`}
          onChange={() => view.set({ zoom: zoom === null ? 1 : zoom === 1 ? zoomedBy(zoom, 1) : 1 })}
        >
          {zoomName(zoom ?? 1)}
        </Pill>
      </Hint>
    </Tools>
  );
});
