import { Maximize2, Minimize2 } from "lucide-react";
import { memo, useCallback } from "react";
import styled from "styled-components";
import type { Picture, Step } from "../../api/types";
import { IconButton, WordButton } from "../../kit/Button";
import { NumberBox } from "../../kit/NumberBox";
import { Toggle } from "../../kit/Toggle";
import { findStep } from "../arrange";
import type { Reader } from "../frames/reader";
import { titleOf } from "../titles";
import { beyondFull, mostStrength } from "./beyond";
import { editors } from "./editors";
import { StepEditor } from "./StepEditor";
import { StepNote } from "./StepNote";
import { StepToRead } from "./StepToRead";
import { StepFamily } from "./StepFamily";
import { StepVariants } from "./StepVariants";
import { useBench, useBenchPart, useViewPart } from "../useBench";
import { useReading } from "../frames/useFrames";

const Root = styled.section`
  padding: 12px 16px 14px;
  flex: 1;
  min-height: 0;
  overflow-y: auto;
`;
const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 8px;
  h2 {
    flex: 1;
    min-width: 0;
    font-size: ${(p) => p.theme.tokens.size.head};
    font-weight: 600;
  }
  label,
  span {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Name = styled.input`
  width: 100%;
  border: 0;
  background: none;
  padding: 1px 0;
  font-weight: 600;
  border-radius: 3px;
  text-overflow: ellipsis;
`;
const Share = styled.div`
  width: 44px;
  text-align: right;
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
`;
const PerShot = styled.div`
  margin-top: 12px;
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;
const Empty = styled.p`
  margin-top: 8px;
  color: ${(p) => p.theme.tokens.soft};
`;

/** The editor of the chosen step. */
export const StepPanel = memo(function StepPanel({
  reader,
  picture,
  onSwap,
}: {
  reader: Reader;
  picture: Picture | undefined;
  /** Others are tried in the place of the step. */
  onSwap: () => void;
}) {
  const { store, view, mayEdit } = useBench();
  const isLarge = useViewPart((now) => now.largeEditor);
  const step = useBenchPart((state) => findStep(state.look, state.selected));
  const chosen = useBenchPart((state) => state.marked.length);
  const id = step?.id ?? "";
  const own = useReading(reader, (readings) => readings.sketch?.steps.find((one) => one.id === id));
  const reaching = useReading(reader, (readings) => readings.scopes?.step);
  const change = useCallback(
    (name: string, next: (step: Step) => Step, gesture?: string) => store.editStep(name, id, next, gesture),
    [store, id],
  );
  const done = useCallback(() => store.dispatch({ type: "endGesture" }), [store]);
  const editor = step && editors[step.kind];
  if (!step || !editor)
    return (
      <Root>
        <Empty>
          {mayEdit
            ? "Choose a step in the recipe, or add one, to edit it here."
            : "Choose a step in the recipe to see what it does."}
        </Empty>
      </Root>
    );
  const title = editor.title;
  const name = titleOf(step);
  return (
    <Root aria-label={`Step: ${name}`}>
      <Head>
        <h2>
          <Name
            aria-label="Name of the step"
            maxLength={80}
            placeholder={title}
            value={step.name ?? ""}
            readOnly={!mayEdit}
            onKeyDown={(event) => {
              if (event.key === "Enter") event.currentTarget.blur();
              event.stopPropagation();
            }}
            onChange={(event) =>
              store.editStep("Rename step", id, (before) => ({ ...before, name: event.target.value }), "name")
            }
            onBlur={done}
          />
        </h2>
        {mayEdit && step.kind !== "convert" && <WordButton onPress={onSwap}>Swap…</WordButton>}
        <IconButton
          aria-label={isLarge ? "The editor small again" : "The editor large"}
          onPress={() => view.set({ largeEditor: !isLarge })}
        >
          {isLarge ? <Minimize2 /> : <Maximize2 />}
        </IconButton>
        {step.kind !== "convert" && (
          <>
            <span>strength</span>
            <Share>
              <NumberBox
                label="Strength of the step, percent"
                value={(step.strength ?? 1) * 100}
                low={0}
                high={mostStrength([step]) * 100}
                step={1}
                digits={0}
                neutral={100}
                onChange={(value) =>
                  store.editStep(`${name}: strength`, id, (before) => ({ ...before, strength: value / 100 }))
                }
              />
            </Share>
            <span>%</span>
            {(step.strength ?? 1) > 1 && <span>{beyondFull(step.strength ?? 1)}</span>}
          </>
        )}
      </Head>
      {chosen > 1 && (
        <Empty>
          {chosen} steps are chosen. Edited here: {name}.
        </Empty>
      )}
      {mayEdit ? (
        <>
          <StepEditor
            key={id}
            step={step}
            sketch={own}
            reaching={reaching}
            picture={picture}
            change={change}
            done={done}
          />
          <StepVariants id={id} />
          <StepFamily id={id} name={name} />
          <PerShot>
            <Toggle
              showLabel
              label="To be set for each shot"
              isOn={step.per_shot ?? false}
              onChange={(per_shot) =>
                store.editStep(`${name}: ${per_shot ? "" : "not "}for each shot`, id, (before) => ({
                  ...before,
                  per_shot,
                }))
              }
            />
          </PerShot>
          <StepNote
            key={`${id} note`}
            note={step.note ?? ""}
            onChange={(note) => store.editStep(`${name}: note`, id, (before) => ({ ...before, note }), "note")}
            onDone={done}
          />
        </>
      ) : (
        <StepToRead step={step} summary={own?.summary ?? ""} />
      )}
    </Root>
  );
});
