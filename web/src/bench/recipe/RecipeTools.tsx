import {
  Bookmark,
  Copy,
  CopyPlus,
  Group as GroupIcon,
  Images,
  MoveDown,
  MoveUp,
  Plus,
  Trash2,
  Ungroup,
} from "lucide-react";
import { memo, type ReactNode } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { IconButton } from "../../kit/Button";
import { Hint } from "../../kit/Hint";
import { findStep } from "../../look/arrange";
import { useBench, useBenchPart } from "../../look/useBench";
import { useArrange } from "./useArrange";
import { titleOf } from "../../look/titles";

const Root = styled.div`
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  padding: 6px 10px 12px;
  display: grid;
  gap: 6px;
`;
const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 0;
  justify-content: space-between;
`;
const Adding = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 6px;
  align-items: center;
`;
const Add = styled(Button)`
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 7px 14px;
  border: 1.5px solid ${(p) => p.theme.tokens.line};
  border-radius: 18px;
  background: none;
  cursor: pointer;
  color: ${(p) => p.theme.tokens.soft};
  svg {
    width: 16px;
    height: 16px;
  }
  &[data-hovered] {
    border-color: ${(p) => p.theme.tokens.faint};
    color: ${(p) => p.theme.tokens.ink};
  }
`;

interface Props {
  readonly onAdd: () => void;
  readonly onTowards: () => void;
  readonly onKeep: () => void;
}

/** What can be done with the chosen steps, adding one, and several at once towards a picture. */
export const RecipeTools = memo(function RecipeTools({ onAdd, onTowards, onKeep }: Props) {
  const { store } = useBench();
  const marked = useBenchPart((state) => state.marked);
  const isGroup = useBenchPart(
    (state) => state.marked.length === 1 && findStep(state.look, state.selected)?.kind === "group",
  );
  const arrange = useArrange();
  const what = () => {
    const step = findStep(store.get().look, marked[0] ?? null);
    return marked.length > 1 ? `${marked.length} steps` : step ? titleOf(step) : "the step";
  };
  const none = marked.length === 0;
  const tools: readonly { label: string; keys: string; icon: ReactNode; act: () => void; off: boolean }[] = [
    {
      label: "Move up",
      keys: "Alt ↑",
      icon: <MoveUp aria-hidden />,
      act: () => arrange.move(-1),
      off: marked.length !== 1,
    },
    {
      label: "Move down",
      keys: "Alt ↓",
      icon: <MoveDown aria-hidden />,
      act: () => arrange.move(1),
      off: marked.length !== 1,
    },
    isGroup
      ? { label: "Ungroup", keys: "Shift G", icon: <Ungroup aria-hidden />, act: arrange.ungroup, off: false }
      : { label: "Group", keys: "G", icon: <GroupIcon aria-hidden />, act: arrange.group, off: none },
    { label: "Duplicate", keys: "Shift D", icon: <CopyPlus aria-hidden />, act: arrange.duplicate, off: none },
    { label: "Copy", keys: "Ctrl C", icon: <Copy aria-hidden />, act: arrange.copy, off: none },
    { label: "Keep as a preset", keys: "P", icon: <Bookmark aria-hidden />, act: onKeep, off: none },
    { label: "Delete", keys: "Delete", icon: <Trash2 aria-hidden />, act: arrange.remove, off: none },
  ];
  return (
    <Root>
      <Row role="toolbar" aria-label={`Arrange ${what()}`}>
        {tools.map(({ label, keys, icon, act, off }) => (
          <Hint key={label} text={`${label} · ${keys}`}>
            <IconButton aria-label={`${label}: ${what()}`} isDisabled={off} onPress={act}>
              {icon}
            </IconButton>
          </Hint>
        ))}
      </Row>
      <Adding>
        <Add onPress={onAdd}>
          Add a step <Plus aria-hidden />
        </Add>
        <Hint text="Towards a picture whose colours are wanted · Shift T">
          <IconButton aria-label="Towards a picture" onPress={onTowards}>
            <Images aria-hidden />
          </IconButton>
        </Hint>
      </Adding>
    </Root>
  );
});
