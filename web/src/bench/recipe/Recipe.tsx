import { useQuery } from "@tanstack/react-query";
import { memo, useMemo, useRef, type ReactNode } from "react";
import styled from "styled-components";
import { encodings as encodingsQuery } from "../../api/encodings";
import type { Advice, Picture, Step } from "../../api/types";
import { finishFrom, flat } from "../../look/arrange";
import { useSpatial } from "../../look/steps/useKinds";
import { byStep } from "../tray/failings";
import { useBench, useBenchPart } from "../../look/useBench";
import type { Reader } from "../../look/frames/reader";
import { useReading } from "../../look/frames/useFrames";
import { AddMember } from "../family/AddMember";
import { Beginning } from "./Beginning";
import { isJustBegun } from "./beginnings";
import { EncodingLine, PictureLine } from "./EncodingLine";
import { EndAdvice } from "./EndAdvice";
import { RecipeTools } from "./RecipeTools";
import { memberOf, ownFields } from "../../look/family";
import { StepLine } from "./StepLine";
import { useDragging } from "./useDragging";
import { useRemedy } from "./useRemedy";

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0 0 8px;
  overflow-y: auto;
  flex: 1;
  min-height: 0;
`;
const Junction = styled.li`
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 5px 16px 5px 23px;
  color: ${(p) => p.theme.tokens.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
  &::before {
    content: "";
    width: 7px;
    height: 7px;
    border-radius: 50%;
    border: 1.5px solid ${(p) => p.theme.tokens.faint};
    flex: none;
  }
`;
const Finish = styled.li`
  margin-top: 6px;
  padding: 8px 16px 2px 23px;
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  color: ${(p) => p.theme.tokens.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
  b {
    font-weight: 600;
    color: ${(p) => p.theme.tokens.ink};
    margin-right: 6px;
  }
`;
const Empty = styled.li`
  padding: 10px 20px 14px;
  color: ${(p) => p.theme.tokens.soft};
`;

interface Props {
  readonly reader: Reader;
  readonly picture: Picture | undefined;
  readonly onAdd: () => void;
  readonly onTowards: () => void;
  readonly onKeep: () => void;
}

/** The steps in the order the light goes through them. */
export const Recipe = memo(function Recipe({ reader, picture, onAdd, onTowards, onKeep }: Props) {
  const sketch = useReading(reader, (readings) => readings.sketch);
  const advice = useReading(reader, (readings) => readings.advice);
  const told = useReading(reader, (readings) => readings.told);
  const failings = useReading(reader, (readings) => readings.failings);
  const fails = useMemo(() => byStep(failings), [failings]);
  const look = useBenchPart((state) => state.look);
  const selected = useBenchPart((state) => state.selected);
  const marked = useBenchPart((state) => state.marked);
  const { data: encodings } = useQuery(encodingsQuery);
  const isSpatial = useSpatial();
  const list = useRef<HTMLOListElement>(null);
  const { mayEdit } = useBench();
  const own = useBenchPart((state) => memberOf(state.whole, state.member));
  const { drop, onGrip } = useDragging(list);
  const onRemedy = useRemedy();
  const steps = look.steps ?? [];
  const nameOf = (id: string) => encodings?.find((encoding) => encoding.id === id)?.name ?? id;
  const sketches = new Map(sketch?.steps.map((one) => [one.id, one]));
  const numbers = new Map(flat(steps).map((step, index) => [step.id, index + 1]));
  const neutral = useMemo(() => new Set(advice.filter((one) => one.kind === "neutral").map((one) => one.id)), [advice]);
  const advised = new Map<string, Advice[]>();
  // Of the step in hand it need not be said that it does nothing yet.
  for (const one of advice)
    if (one.kind !== "neutral" || one.id !== selected) advised.set(one.id, [...(advised.get(one.id) ?? []), one]);

  const line = (step: Step, depth: number, within: string | null): ReactNode[] => {
    const id = step.id ?? "";
    const drawn = sketches.get(id);
    const drawnLine = (
      <StepLine
        key={id}
        step={step}
        sketch={drawn}
        number={step.kind === "group" ? null : (numbers.get(id) ?? 0)}
        isOn={id === selected}
        isChosen={marked.includes(id)}
        depth={depth}
        within={within}
        drop={drop?.line === id ? drop.edge : null}
        advice={advised.get(id)}
        told={told.get(id)}
        fails={fails.get(id)}
        own={own && ownFields(own, id).length > 0 ? own.name : ""}
        onGrip={mayEdit ? onGrip : null}
        onRemedy={mayEdit ? onRemedy : null}
      />
    );
    const inner = step.kind === "group" ? (step.steps ?? []).flatMap((one) => line(one, depth + 1, id)) : [];
    const changes = drawn && drawn.before !== drawn.after && step.enabled !== false;
    return [
      drawnLine,
      ...(changes
        ? [
            <Junction key={`${id} junction`} data-testid="junction">
              now {nameOf(drawn.after)}
            </Junction>,
          ]
        : []),
      ...inner,
    ];
  };

  const from = finishFrom(steps, isSpatial);
  return (
    <>
      <List ref={list} aria-label="Steps" data-testid="recipe">
        <EncodingLine end="input" beside={<AddMember />} />
        <PictureLine picture={picture} />
        {steps.length === 0 && !mayEdit && <Empty>No steps yet: the picture goes through as it is.</Empty>}
        {steps.slice(0, from).map((step) => line(step, 0, null))}
        {mayEdit && isJustBegun(steps, neutral) && <Beginning picture={picture} neutral={neutral} />}
        <EncodingLine end="output" />
        <EndAdvice sketch={sketch} />
        {from < steps.length && (
          <Finish>
            <b>Finish</b>stays out of the LUT
          </Finish>
        )}
        {steps.slice(from).map((step) => line(step, 0, null))}
      </List>
      {mayEdit && <RecipeTools onAdd={onAdd} onTowards={onTowards} onKeep={onKeep} />}
    </>
  );
});
