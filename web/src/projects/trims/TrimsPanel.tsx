import { useQuery } from "@tanstack/react-query";
import { ChevronDown, ChevronUp, Trash2 } from "lucide-react";
import { useCallback } from "react";
import styled from "styled-components";
import { readScopes, readSketch } from "../../api/seen";
import type { Picture, Step } from "../../api/types";
import { fresh, without } from "../../look/arrange";
import { titleOf } from "../../look/titles";
import { editors } from "../../look/steps/editors";
import { StepEditor } from "../../look/steps/StepEditor";
import { BenchContext, useBench, useBenchPart } from "../../look/useBench";
import { IconButton } from "../../kit/Button";
import { Picker } from "../../kit/Picker";
import { PlainList } from "../../kit/PlainList";
import { useTrims } from "./useTrims";
import { oneLine } from "../../kit/oneLine";

const OFFERED = [
  "tone",
  "white-balance",
  "saturation",
  "curves",
  "levels",
  "cdl",
  "hue-bands",
  "colour-curves",
  "split-tone",
] as const;

const Line = styled.li`
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
`;
const Open = styled.div`
  padding: 0 0 12px;
`;

interface Props {
  readonly encoding: string;
  readonly steps: readonly Step[];
  readonly picture: Picture | undefined;
  /** What adding one is called. */
  readonly adds?: string;
  /** What rested last is still being kept. */
  readonly isKeeping: boolean;
  readonly onMove: (steps: readonly Step[], isMoving: boolean) => void;
  readonly onRest: (steps: readonly Step[]) => void;
}

/** What brings a shot into range before its look, step by step, with the Bench's own editors. */
export function TrimsPanel({ encoding, steps, picture, adds = "Add a trim", isKeeping, onMove, onRest }: Props) {
  const bench = useTrims(encoding, steps, { isKeeping, onMove, onRest });
  return (
    <BenchContext value={bench}>
      <Lines picture={picture} adds={adds} />
    </BenchContext>
  );
}

function Lines({ picture, adds }: { picture: Picture | undefined; adds: string }) {
  const { store } = useBench();
  const look = useBenchPart((state) => state.look);
  const selected = useBenchPart((state) => state.selected);
  const steps = look.steps ?? [];
  const { data: sketch } = useQuery({
    queryKey: ["trims", "sketch", look],
    queryFn: ({ signal }) => readSketch(look, signal),
    placeholderData: (last) => last,
    enabled: steps.length > 0,
    gcTime: 0,
  });
  const { data: scopes } = useQuery({
    queryKey: ["trims", "scopes", look, picture?.id, selected],
    queryFn: ({ signal }) => readScopes(look, picture?.id ?? 0, selected ?? "", signal),
    placeholderData: (last) => last,
    enabled: steps.length > 0 && picture !== undefined,
    gcTime: 0,
  });
  const done = useCallback(() => store.dispatch({ type: "endGesture" }), [store]);
  return (
    <>
      <PlainList aria-label="Trims">
        {steps.map((step) => {
          const isOpen = step.id === selected;
          const own = sketch?.steps.find((one) => one.id === step.id);
          return (
            <Line key={step.id}>
              <Head
                step={step}
                words={own?.summary ?? ""}
                isOpen={isOpen}
                onOpen={() => store.dispatch({ type: "select", id: isOpen ? null : (step.id ?? null) })}
                onRemove={() =>
                  store.edit(`Remove ${titleOf(step)}`, (before) => ({
                    ...before,
                    steps: without(before.steps ?? [], new Set([step.id ?? ""])),
                  }))
                }
              />
              {isOpen && (
                <Open>
                  <StepEditor
                    step={step}
                    sketch={own}
                    reaching={scopes?.step}
                    picture={picture}
                    change={(name, next, gesture) => store.editStep(name, step.id ?? "", next, gesture)}
                    done={done}
                  />
                </Open>
              )}
            </Line>
          );
        })}
      </PlainList>
      <Picker
        label={adds}
        hideLabel
        value=""
        options={[{ id: "", name: adds }, ...OFFERED.map((kind) => ({ id: kind, name: editors[kind]?.title ?? kind }))]}
        onChange={(kind) => {
          const editor = editors[kind];
          if (!editor) return;
          const step = fresh(editor.fresh());
          store.edit(`Add ${editor.title}`, (before) => ({ ...before, steps: [...(before.steps ?? []), step] }));
          store.dispatch({ type: "select", id: step.id ?? null });
        }}
      />
    </>
  );
}

interface HeadProps {
  readonly step: Step;
  readonly words: string;
  readonly isOpen: boolean;
  readonly onOpen: () => void;
  readonly onRemove: () => void;
}

const HeadRow = styled.div`
  display: flex;
  align-items: center;
  gap: 4px;
  > button:first-child {
    flex: 1;
    min-width: 0;
    display: flex;
    align-items: center;
    gap: 6px;
    border: 0;
    background: none;
    text-align: left;
    padding: 6px 0;
    cursor: pointer;
    color: inherit;
    font: inherit;
    svg {
      width: 14px;
      height: 14px;
      flex: none;
    }
    small {
      color: ${(p) => p.theme.tokens.soft};
      ${oneLine}
      min-width: 0;
    }
  }
`;

function Head({ step, words, isOpen, onOpen, onRemove }: HeadProps) {
  const title = titleOf(step);
  return (
    <HeadRow>
      <button type="button" aria-expanded={isOpen} onClick={onOpen}>
        {isOpen ? <ChevronUp aria-hidden /> : <ChevronDown aria-hidden />}
        {title} <small>{words}</small>
      </button>
      <IconButton aria-label={`Remove ${title}`} onPress={onRemove}>
        <Trash2 />
      </IconButton>
    </HeadRow>
  );
}
