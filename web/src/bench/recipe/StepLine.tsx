import { TriangleAlert } from "lucide-react";
import { memo, type MouseEvent, type PointerEvent, type ReactNode } from "react";
import { Button } from "react-aria-components";
import styled, { css } from "styled-components";
import type { Advice, Step, StepSketch } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { Unseen } from "../../kit/Unseen";
import { StrengthBar } from "../../kit/StrengthBar";
import { Toggle } from "../../kit/Toggle";
import { useBench } from "../../look/useBench";
import { Sparkline } from "./Sparkline";
import { BEYOND, beyondFull } from "../../look/steps/beyond";
import { withVariant } from "../../look/variants";
import { titleOf } from "../../look/titles";
import { oneLine } from "../../kit/oneLine";

const Line = styled.li<{
  $on: boolean;
  $chosen: boolean;
  $off: boolean;
  $depth: number;
  $drop: "before" | "after" | null;
}>`
  position: relative;
  padding: 5px 14px 3px 4px;
  display: grid;
  grid-template-columns: 26px 34px minmax(0, 1fr) auto;
  column-gap: 8px;
  align-items: center;
  cursor: pointer;
  ${(p) =>
    p.$depth > 0 &&
    css`
      margin-left: ${14 * p.$depth}px;
      border-left: 2px solid ${p.theme.tokens.ink};
    `}
  ${(p) =>
    p.$chosen &&
    css`
      background: ${p.theme.tokens.accentWash};
    `}
  ${(p) =>
    p.$on &&
    css`
      &::before {
        content: "";
        position: absolute;
        left: 0;
        top: 0;
        bottom: 0;
        width: 3px;
        background: ${p.theme.tokens.accent};
      }
    `}
  ${(p) =>
    p.$drop &&
    css`
      &::after {
        content: "";
        position: absolute;
        left: 6px;
        right: 6px;
        ${p.$drop === "before" ? "top: -1px" : "bottom: -1px"};
        height: 2px;
        background: ${p.theme.tokens.accent};
      }
    `}
  > svg {
    opacity: ${(p) => (p.$off ? 0.35 : 1)};
  }
`;
const Grip = styled.span`
  align-self: stretch;
  display: grid;
  place-items: center end;
  padding-right: 2px;
  cursor: grab;
  touch-action: none;
  user-select: none;
  font-family: ${(p) => p.theme.tokens.numbers};
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;
const Name = styled(Button)`
  border: 0;
  background: none;
  padding: 0;
  text-align: left;
  cursor: pointer;
  min-width: 0;
  display: block;
  b {
    display: block;
    font-weight: 500;
    ${oneLine}
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
    ${oneLine}
  }
  /* Words are worth a second line, numbers are not. */
  small[data-testid="told"] {
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    white-space: normal;
    line-height: 1.3;
  }
`;
const OwnMark = styled.span`
  display: inline-block;
  width: 6px;
  height: 6px;
  margin: 0 0 2px 6px;
  border-radius: 50%;
  background: ${(p) => p.theme.tokens.accent};
`;
const Below = styled.div`
  grid-column: 3 / 5;
  display: grid;
  grid-template-columns: 1fr 44px;
  align-items: center;
  gap: 8px;
  output {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: 11px;
    color: ${(p) => p.theme.tokens.soft};
    text-align: right;
  }
`;
const Advised = styled.p`
  grid-column: 2 / 5;
  display: grid;
  grid-template-columns: 15px 1fr;
  gap: 5px;
  margin: 3px 0 2px;
  font-size: ${(p) => p.theme.tokens.size.small};
  line-height: 1.35;
  color: ${(p) => p.theme.tokens.caution};
  svg {
    width: 13px;
    height: 13px;
    margin-top: 1px;
  }
  button {
    font-size: inherit;
  }
`;

interface LineProps {
  readonly step: Step;
  readonly sketch: StepSketch | undefined;
  readonly number: number | null;
  readonly isOn: boolean;
  readonly isChosen: boolean;
  readonly depth: number;
  readonly within: string | null;
  readonly drop: "before" | "after" | null;
  readonly advice: readonly Advice[] | undefined;
  /** What it does to the picture in view, in words. */
  readonly told: string | undefined;
  /** On how many pictures it makes the look fail, and the worst of it. */
  readonly fails: { readonly count: number; readonly worst: string } | undefined;
  /** Which of the family has settings of its own here; empty where it follows the recipe. */
  readonly own: string;
  /** null where the person may not. */
  readonly onGrip: ((id: string, event: PointerEvent) => void) | null;
  readonly onRemedy: ((advice: Advice) => void) | null;
}

/** One step or group of the recipe; drawn again only when it, its drawing or its place changed. */
export const StepLine = memo(function StepLine({
  step,
  sketch,
  number,
  isOn,
  isChosen,
  depth,
  within,
  drop,
  advice,
  told,
  fails,
  own,
  onGrip,
  onRemedy,
}: LineProps) {
  const { store } = useBench();
  const id = step.id ?? "";
  const name = titleOf(step);
  const isGroup = step.kind === "group";
  const off = step.enabled === false;
  const strength = step.strength ?? 1;
  const count = isGroup ? (step.steps ?? []).length : 0;
  const words = isGroup
    ? `${count === 1 ? "1 step" : `${count} steps`}${step.blend && step.blend !== "normal" ? `, ${step.blend.replace("-", " ")}` : ""}`
    : sketch?.summary;

  function choose(event: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) {
    if (event.shiftKey) store.dispatch({ type: "markTo", id });
    else if (event.ctrlKey || event.metaKey) store.dispatch({ type: "mark", id });
    else store.dispatch({ type: "select", id });
  }
  const onClick = (event: MouseEvent) => {
    if (!(event.target as HTMLElement).closest("button, label, [role='slider'], input")) choose(event);
  };
  const lineProps = {
    $on: isOn,
    $chosen: isChosen,
    $off: off,
    $depth: depth,
    $drop: drop,
    "data-step": id,
    "data-within": within ?? undefined,
    "data-group": isGroup || undefined,
    onClick,
  };
  const below: ReactNode = step.kind !== "convert" && (
    <Below>
      <StepStrength id={id} name={name} value={strength} />
      <output title={beyondFull(strength) || undefined}>{Math.round(strength * 100)} %</output>
    </Below>
  );
  return (
    <Line {...lineProps} data-testid={isGroup ? "group" : "step"}>
      <Grip
        {...(onGrip
          ? { onPointerDown: (event: PointerEvent) => onGrip(id, event), title: "Drag to move" }
          : { style: { cursor: "default" } })}
      >
        {number ?? (
          <svg width={14} height={14} viewBox="0 0 14 14" aria-hidden>
            <path d="M2 14V5.5A3.5 3.5 0 0 1 5.5 2H14" fill="none" stroke="currentColor" strokeWidth={2} />
          </svg>
        )}
      </Grip>
      {isGroup ? <span /> : <Sparkline step={step} sketch={sketch} />}
      <Name aria-current={isOn ? "step" : undefined} aria-pressed={isChosen} data-line={id} onPress={choose}>
        <Unseen>{isGroup ? "Group: " : `Step ${number}: `}</Unseen>
        <b>
          {name}
          {own && <OwnMark title={`${own} has settings of its own here`} aria-label={`, set for ${own}`} role="img" />}
        </b>
        <small title={told ? words : undefined} data-testid={told ? "told" : undefined}>
          {off
            ? step.variant
              ? "variant, off"
              : "off"
            : [beyondFull(strength), told || words].filter(Boolean).join(": ")}
        </small>
      </Name>
      <OnOff id={id} name={name} isOn={!off} isVariant={Boolean(step.variant)} />
      {below}
      {fails && !off && (
        <Advised data-testid="fails">
          <TriangleAlert aria-label="Fails" />
          <span>
            Fails on {fails.count === 1 ? "1 picture" : `${fails.count} pictures`}: {fails.worst} at worst.
          </span>
        </Advised>
      )}
      {advice?.map((one) => (
        <Advised key={one.kind} data-testid="advice">
          <TriangleAlert aria-label="Advice" />
          <span>
            {one.words}{" "}
            {one.remedy && onRemedy && <WordButton onPress={() => onRemedy(one)}>{one.remedy.words}</WordButton>}
          </span>
        </Advised>
      ))}
    </Line>
  );
});

const OnOff = memo(function OnOff({
  id,
  name,
  isOn,
  isVariant,
}: {
  id: string;
  name: string;
  isOn: boolean;
  isVariant: boolean;
}) {
  const { store } = useBench();
  return (
    <Toggle
      label={`${name} on`}
      isOn={isOn}
      onChange={(on) =>
        on && isVariant
          ? store.edit(`${name}: this variant`, (look) => withVariant(look, id))
          : store.editStep(`${name}: ${on ? "on" : "off"}`, id, (before) => ({ ...before, enabled: on }))
      }
    />
  );
});

const StepStrength = memo(function StepStrength({ id, name, value }: { id: string; name: string; value: number }) {
  const { store } = useBench();
  return (
    <StrengthBar
      label={`Strength of ${name}`}
      value={value}
      most={BEYOND}
      onChange={(next) =>
        store.editStep(`${name}: strength`, id, (before) => ({ ...before, strength: next }), "strength")
      }
      onChangeEnd={() => store.dispatch({ type: "endGesture" })}
    />
  );
});
