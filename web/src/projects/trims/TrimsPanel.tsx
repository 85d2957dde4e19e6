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
import { NumberBox } from "../../kit/NumberBox";
import { Picker } from "../../kit/Picker";
import { PlainList } from "../../kit/PlainList";
import { LeftToShots } from "./LeftToShots";
import { OFFERED } from "./offered";
import { useTrims } from "./useTrims";
import { oneLine } from "../../kit/oneLine";

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
  /** With the exposure at hand, without a step being added first. */
  readonly withExposure?: boolean;
  /** Steps that the look leaves to each shot: offered first, as they stand in the look. */
  readonly left?: readonly Step[];
  /** What rested last is still being kept. */
  readonly isKeeping: boolean;
  readonly onMove: (steps: readonly Step[], isMoving: boolean) => void;
  readonly onRest: (steps: readonly Step[]) => void;
}

const none: readonly Step[] = [];
const Stops = styled.div`
  display: grid;
  grid-template-columns: 1fr 64px auto;
  gap: 8px;
  align-items: baseline;
  input {
    text-align: right;
  }
  > div {
    border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  }
  span {
    color: ${(p) => p.theme.tokens.soft};
  }
`;

/** What brings a shot into range before its look, step by step, with the Bench's own editors. */
export function TrimsPanel({
  encoding,
  steps,
  picture,
  adds = "Add a trim",
  withExposure = false,
  left = none,
  isKeeping,
  onMove,
  onRest,
}: Props) {
  const bench = useTrims(encoding, steps, { isKeeping, onMove, onRest });
  return (
    <BenchContext value={bench}>
      <Lines picture={picture} adds={adds} withExposure={withExposure} left={left} />
    </BenchContext>
  );
}

interface LinesProps {
  readonly picture: Picture | undefined;
  readonly adds: string;
  readonly withExposure: boolean;
  readonly left: readonly Step[];
}

function Lines({ picture, adds, withExposure, left }: LinesProps) {
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
    queryFn: ({ signal }) => readScopes(look, { picture: picture?.id ?? 0 }, selected ?? "", signal),
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
      <LeftToShots left={left} />
      {withExposure && <Exposure />}
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

/** What is corrected most often, without a step being added first: the exposure of the first Tone, or of one that this adds. */
function Exposure() {
  const { store } = useBench();
  const steps = useBenchPart((state) => state.look.steps ?? []);
  const tone = steps.find((one) => one.kind === "tone");
  const set = (exposure: number) => {
    if (tone) {
      store.editStep("Tone: exposure", tone.id ?? "", (before) => ({ ...before, exposure }) as Step);
      return;
    }
    const step = fresh({ kind: "tone", exposure });
    store.edit("Add Tone", (before) => ({ ...before, steps: [...(before.steps ?? []), step] }));
  };
  return (
    <Stops>
      <span aria-hidden>Exposure</span>
      <NumberBox
        label="Exposure, stops"
        value={tone?.exposure ?? 0}
        low={-8}
        high={8}
        step={0.05}
        digits={2}
        neutral={0}
        onChange={set}
      />
      <span aria-hidden>EV</span>
    </Stops>
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
