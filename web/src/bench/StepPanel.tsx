import { memo, useCallback } from "react";
import styled from "styled-components";
import type { Scopes, Sketch, Step } from "../api/types";
import { NumberBox } from "../kit/NumberBox";
import { editors } from "./steps/editors";
import { findStep } from "./store";
import { useBench, useBenchPart } from "./useBench";

const Root = styled.section`
  padding: 12px 16px 14px; flex: 1; min-height: 0; overflow-y: auto;
`;
const Head = styled.header`
  display: flex; align-items: center; gap: 8px;
  h2 { flex: 1; min-width: 0; font-size: ${(p) => p.theme.tokens.size.head}; font-weight: 600; }
  label, span { font-size: ${(p) => p.theme.tokens.size.small}; color: ${(p) => p.theme.tokens.soft}; }
`;
const Name = styled.input`
  width: 100%; border: 0; background: none; padding: 1px 0; font-weight: 600; border-radius: 3px; text-overflow: ellipsis;
`;
const Share = styled.div`
  width: 44px; text-align: right; border-bottom: 1px solid ${(p) => p.theme.tokens.line};
`;
const Empty = styled.p`
  margin-top: 8px; color: ${(p) => p.theme.tokens.soft};
`;

/** The editor of the chosen step. */
export const StepPanel = memo(function StepPanel({ sketch, scopes }: { sketch: Sketch | null; scopes: Scopes | null }) {
  const { store } = useBench();
  const step = useBenchPart((state) => findStep(state.look, state.selected));
  const id = step?.id ?? "";
  const change = useCallback((name: string, next: (step: Step) => Step, gesture?: string) => store.editStep(name, id, next, gesture), [store, id]);
  const done = useCallback(() => store.dispatch({ type: "endGesture" }), [store]);
  const editor = step && editors[step.kind];
  if (!step) return <Root><Empty>Choose a step in the recipe, or add one, to edit it here.</Empty></Root>;
  const own = sketch?.steps.find((one) => one.id === id);
  const title = editor?.title ?? own?.title ?? "Group";
  return (
    <Root aria-label={`Step: ${step.name || title}`}>
      <Head>
        <h2>
          <Name aria-label="Name of the step" maxLength={80} placeholder={title} value={step.name ?? ""} onKeyDown={(event) => { if (event.key === "Enter") event.currentTarget.blur(); event.stopPropagation(); }}
            onChange={(event) => store.editStep("Rename step", id, (before) => ({ ...before, name: event.target.value }), "name")} onBlur={() => store.dispatch({ type: "endGesture" })} />
        </h2>
        <span>strength</span>
        <Share>
          <NumberBox label="Strength of the step, percent" value={(step.strength ?? 1) * 100} low={0} high={100} step={1} digits={0} neutral={100}
            onChange={(value) => store.editStep(`${step.name || title}: strength`, id, (before) => ({ ...before, strength: value / 100 }))} />
        </Share>
        <span>%</span>
      </Head>
      {editor
        ? <editor.Editor key={id} step={step} sketch={own} reaching={scopes?.step} change={change} done={done} />
        : <Empty>{own ? `${own.summary}. ` : ""}These settings are edited in the look file.</Empty>}
    </Root>
  );
});
