import { ArrowDown, ArrowUp, Plus, Trash2 } from "lucide-react";
import { useQuery } from "@tanstack/react-query";
import { memo } from "react";
import { Button, Menu as AriaMenu, MenuItem, MenuTrigger } from "react-aria-components";
import styled, { css, useTheme } from "styled-components";
import { encodings as encodingsQuery, stepKinds } from "../api/queries";
import type { Sketch, Step, StepSketch } from "../api/types";
import { IconButton } from "../kit/Button";
import { Menu } from "../kit/Picker";
import { StrengthBar } from "../kit/StrengthBar";
import { Toggle } from "../kit/Toggle";
import { pathOf } from "./graph/points";
import { editors } from "./steps/editors";
import { flat, movedStep, newStepId, withoutStep } from "./store";
import { useBench, useBenchPart } from "./useBench";

const List = styled.ol`
  list-style: none; margin: 0; padding: 0; overflow-y: auto; flex: 1; min-height: 0;
`;
const Junction = styled.li`
  display: flex; align-items: center; gap: 8px; padding: 6px 16px 6px 23px; color: ${(p) => p.theme.tokens.soft}; font-size: ${(p) => p.theme.tokens.size.small};
  &::before { content: ""; width: 7px; height: 7px; border-radius: 50%; border: 1.5px solid ${(p) => p.theme.tokens.faint}; flex: none; }
`;
const Line = styled.li<{ $on: boolean; $off: boolean; $inner: boolean }>`
  position: relative; padding: 6px 14px 4px 12px; display: grid; grid-template-columns: 20px 34px 1fr auto; column-gap: 8px; align-items: center; cursor: pointer;
  ${(p) => p.$inner && css`margin-left: 14px; border-left: 2px solid ${p.theme.tokens.ink};`}
  ${(p) => p.$on && css`background: ${p.theme.tokens.accentWash}; &::before { content: ""; position: absolute; left: 0; top: 0; bottom: 0; width: 3px; background: ${p.theme.tokens.accent}; }`}
  svg { opacity: ${(p) => (p.$off ? 0.35 : 1)}; }
`;
const Number_ = styled.span`
  font-family: ${(p) => p.theme.tokens.numbers}; font-size: ${(p) => p.theme.tokens.size.small}; color: ${(p) => p.theme.tokens.soft}; text-align: right;
`;
const Name = styled(Button)`
  border: 0; background: none; padding: 0; text-align: left; cursor: pointer; min-width: 0; display: block;
  b { display: block; font-weight: 500; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  span { display: block; font-size: ${(p) => p.theme.tokens.size.small}; color: ${(p) => p.theme.tokens.soft}; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
`;
const Below = styled.div`
  grid-column: 3 / 5; display: grid; grid-template-columns: 1fr 44px; align-items: center; gap: 8px;
  output { font-family: ${(p) => p.theme.tokens.numbers}; font-size: 11px; color: ${(p) => p.theme.tokens.soft}; text-align: right; }
`;
const Tools = styled.div`
  grid-column: 3 / 5; display: flex; gap: 2px; margin-left: -6px;
`;
const GroupHead = styled.li`
  display: flex; align-items: center; gap: 8px; margin-left: 14px; padding: 6px 14px 4px 10px; border-left: 2px solid ${(p) => p.theme.tokens.ink}; font-weight: 500;
  span { flex: 1; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
`;
const Add = styled(Button)`
  margin: 12px 14px 14px; display: flex; align-items: center; justify-content: space-between; padding: 7px 14px; border: 1.5px solid ${(p) => p.theme.tokens.line}; border-radius: 18px;
  background: none; cursor: pointer; color: ${(p) => p.theme.tokens.soft};
  svg { width: 16px; height: 16px; }
  &[data-hovered] { border-color: ${(p) => p.theme.tokens.faint}; color: ${(p) => p.theme.tokens.ink}; }
`;
const Item = styled(MenuItem)`
  padding: 6px 10px; border-radius: 5px; cursor: pointer;
  &[data-focused] { background: ${(p) => p.theme.tokens.accentWash}; }
`;
const Empty = styled.li`
  padding: 10px 20px 14px; color: ${(p) => p.theme.tokens.soft};
`;

const TONES = new Set(["all", "master", "red", "green", "blue"]);

/** A line as the graph draws it, 0..1: code values as they are, anything else between its own least and most. */
function inGraph(name: string, values: readonly number[]): readonly number[] {
  if (TONES.has(name)) return values;
  const [least, most] = [Math.min(...values, 0), Math.max(...values, 0)];
  return values.map((value) => 0.08 + 0.84 * ((value - least) / (most - least || 1)));
}

function Sparkline({ sketch }: { sketch: StepSketch | undefined }) {
  const { tokens } = useTheme();
  const lines = Object.entries(sketch?.lines ?? {});
  const isTone = lines.every(([name]) => TONES.has(name));
  const colourOf = (name: string) => (name === "red" || name === "green" || name === "blue" ? tokens.graph[name] : tokens.graph.master);
  const ramp = lines.length === 0 && sketch && !sketch.neutral && !sketch.spatial ? sketch.ramp : [];
  return (
    <svg width={34} height={26} viewBox="-2 -2 38 30" aria-hidden>
      <rect x={-2} y={-2} width={38} height={30} rx={4} fill={tokens.graph.field} />
      {ramp.map(([red, green, blue], index) => <rect key={index} x={index} y={9} width={1.6} height={8} fill={`rgb(${red} ${green} ${blue})`} />)}
      {ramp.length === 0 && isTone && !sketch?.spatial && <path d="M0 26L34 0" stroke={tokens.graph.diagonal} fill="none" />}
      <g transform="scale(1 0.765)">
        {lines.map(([name, values]) => (
          <path key={name} d={pathOf(inGraph(name, values), 34)} stroke={colourOf(name)} strokeWidth={1.6} fill="none" vectorEffect="non-scaling-stroke" />
        ))}
      </g>
    </svg>
  );
}

interface LineProps {
  readonly step: Step;
  readonly sketch: StepSketch | undefined;
  readonly number: number;
  readonly isOn: boolean;
  readonly isInner: boolean;
}

/** One step of the recipe; drawn again only when it, its drawing or its place changed. */
const StepLine = memo(function StepLine({ step, sketch, number, isOn, isInner }: LineProps) {
  const { store } = useBench();
  const id = step.id ?? "";
  const name = sketch?.title ?? editors[step.kind]?.title ?? step.kind;
  const off = step.enabled === false;
  const strength = step.strength ?? 1;
  const select = () => store.dispatch({ type: "select", id });
  const rearrange = (what: string, change: (steps: readonly Step[]) => Step[]) => store.edit(`${what} ${name}`, (before) => ({ ...before, steps: change(before.steps ?? []) }));
  return (
    <Line $on={isOn} $off={off} $inner={isInner} data-testid="step" onClick={select}>
      <Number_>{number}</Number_>
      <Sparkline sketch={sketch} />
      <Name aria-label={`Step ${number}: ${name}`} aria-current={isOn ? "step" : undefined} onPress={select}>
        <b>{name}</b>
        <span>{off ? "off" : sketch?.summary}</span>
      </Name>
      <OnOff id={id} name={name} isOn={!off} />
      <Below>
        <StepStrength id={id} name={name} value={strength} />
        <output>{Math.round(strength * 100)} %</output>
      </Below>
      {isOn && (
        <Tools>
          <IconButton aria-label={`Move ${name} up`} onPress={() => rearrange("Move", (steps) => movedStep(steps, id, -1))}><ArrowUp aria-hidden /></IconButton>
          <IconButton aria-label={`Move ${name} down`} onPress={() => rearrange("Move", (steps) => movedStep(steps, id, 1))}><ArrowDown aria-hidden /></IconButton>
          <IconButton aria-label={`Delete ${name}`} onPress={() => rearrange("Delete", (steps) => withoutStep(steps, id))}><Trash2 aria-hidden /></IconButton>
        </Tools>
      )}
    </Line>
  );
});

const OnOff = memo(function OnOff({ id, name, isOn }: { id: string; name: string; isOn: boolean }) {
  const { store } = useBench();
  return <Toggle label={`${name} on`} isOn={isOn} onChange={(on) => store.editStep(`${name}: ${on ? "on" : "off"}`, id, (before) => ({ ...before, enabled: on }))} />;
});

const StepStrength = memo(function StepStrength({ id, name, value }: { id: string; name: string; value: number }) {
  const { store } = useBench();
  return (
    <StrengthBar label={`Strength of ${name}`} value={value}
      onChange={(next) => store.editStep(`${name}: strength`, id, (before) => ({ ...before, strength: next }), "strength")}
      onChangeEnd={() => store.dispatch({ type: "endGesture" })} />
  );
});

/** The steps in the order the light goes through them. */
export const Recipe = memo(function Recipe({ sketch }: { sketch: Sketch | null }) {
  const look = useBenchPart((state) => state.look);
  const selected = useBenchPart((state) => state.selected);
  const { data: encodings } = useQuery(encodingsQuery);
  const steps = look.steps ?? [];
  const nameOf = (id: string) => encodings?.find((encoding) => encoding.id === id)?.name ?? id;
  const sketches = new Map(sketch?.steps.map((one) => [one.id, one]));
  const numbers = new Map(flat(steps).map((step, index) => [step.id, index + 1]));

  const line = (step: Step, isInner: boolean): React.ReactNode => {
    const id = step.id ?? "";
    if (step.kind === "group") {
      const name = step.name || "Group";
      return [
        <GroupHead key={id}>
          <span>{name}</span>
          <OnOff id={id} name={name} isOn={step.enabled ?? true} />
        </GroupHead>,
        ...(step.steps ?? []).map((one) => line(one, true)),
      ];
    }
    return <StepLine key={id} step={step} sketch={sketches.get(id)} number={numbers.get(id) ?? 0} isOn={id === selected} isInner={isInner} />;
  };

  return (
    <>
      <List aria-label="Steps">
        <Junction>in: {nameOf(look.input ?? "srgb")}</Junction>
        {steps.length === 0 && <Empty>No steps yet: the picture goes through as it is.</Empty>}
        {steps.map((step) => line(step, false))}
        <Junction>out: {nameOf(look.output ?? "srgb")}</Junction>
      </List>
      <AddStep />
    </>
  );
});

const AddStep = memo(function AddStep() {
  const { store } = useBench();
  const { data: kinds } = useQuery(stepKinds);

  function add(kind: string) {
    const fresh = editors[kind]?.fresh();
    if (!fresh) return;
    const step = { ...fresh, id: newStepId() };
    store.edit(`Add ${editors[kind]?.title.toLowerCase() ?? kind}`, (before) => ({ ...before, steps: [...(before.steps ?? []), step] }));
    store.dispatch({ type: "select", id: step.id });
  }

  return (
    <MenuTrigger>
      <Add>
        Add a step <Plus aria-hidden />
      </Add>
      <Menu>
        <AriaMenu onAction={(key) => add(String(key))} aria-label="Kinds of step">
          {(kinds ?? []).filter((kind) => editors[kind.kind]).map((kind) => (
            <Item key={kind.kind} id={kind.kind}>
              {kind.title}
            </Item>
          ))}
        </AriaMenu>
      </Menu>
    </MenuTrigger>
  );
});
