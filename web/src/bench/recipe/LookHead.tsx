import { History, Redo2, Undo2 } from "lucide-react";
import { memo, useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useMay } from "../../api/session";
import type { Picture } from "../../api/types";
import { IconButton, Secondary } from "../../kit/Button";
import { Fingerprint } from "../../kit/Disc";
import { Notice } from "../../kit/Notice";
import { NumberBox } from "../../kit/NumberBox";
import { StrengthBar } from "../../kit/StrengthBar";
import type { Reader } from "../../look/frames/reader";
import { BEYOND, mostStrength } from "../../look/steps/beyond";
import { useBench, useBenchPart, useSaving } from "../../look/useBench";
import { useReading } from "../../look/frames/useFrames";
import { WhoSees } from "../../entries/WhoSees";
import { LookChooser } from "./LookChooser";
import { useOwnCopy } from "./useOwnCopy";

const Root = styled.header`
  display: grid;
  grid-template-columns: 54px 1fr;
  gap: 4px 12px;
  padding: 12px 14px 8px 16px;
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
`;
const Title = styled.div`
  min-width: 0;
  align-self: center;
  p {
    margin-top: 1px;
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const State = styled(Button)`
  border: 0;
  background: none;
  padding: 0;
  margin-top: 1px;
  cursor: pointer;
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  &[data-hovered] {
    color: ${(p) => p.theme.tokens.ink};
  }
`;
const Under = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 12px;
`;
const NameRow = styled.div`
  display: flex;
  align-items: center;
  gap: 2px;
`;
const Name = styled.input`
  flex: 1;
  min-width: 0;
  border: 0;
  background: none;
  padding: 1px 0;
  font-size: ${(p) => p.theme.tokens.size.title};
  font-weight: 600;
  letter-spacing: -0.01em;
  text-overflow: ellipsis;
  border-radius: 3px;
`;
const Row = styled.div`
  grid-column: 1 / 3;
  display: grid;
  grid-template-columns: auto 1fr 38px auto;
  gap: 8px;
  align-items: center;
  color: ${(p) => p.theme.tokens.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
  > span {
    display: flex;
    margin-right: -6px;
    color: ${(p) => p.theme.tokens.ink};
  }
`;
const Typed = styled.div`
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: baseline;
  gap: 2px;
  input {
    text-align: right;
  }
`;
const Own = styled.div`
  grid-column: 1 / 3;
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;
const Blank = styled.div`
  width: 54px;
  height: 54px;
  border-radius: 50%;
  background: ${(p) => p.theme.tokens.hush};
`;

interface Props {
  readonly reader: Reader;
  readonly picture: Picture | undefined;
  readonly onHistory: () => void;
}

/** The look's name, fingerprint, encoding and strength; other looks; undo and redo. */
export const LookHead = memo(function LookHead({ reader, picture, onHistory }: Props) {
  const fingerprint = useReading(reader, (readings) => readings.fingerprint);
  const { store, mayEdit } = useBench();
  const mayDesign = useMay("design");
  const { entry } = useSaving();
  const lookName = useBenchPart((state) => state.look.name ?? "");
  const strength = useBenchPart((state) => state.look.strength ?? 1);
  const most = useBenchPart((state) => mostStrength(state.look.steps ?? []));
  const undone = useBenchPart((state) => state.past.at(-1)?.name);
  const redone = useBenchPart((state) => state.future.at(-1)?.name);
  const own = useOwnCopy();
  const [name, setName] = useState<string | null>(null);
  const latest = entry.versions[0];
  const state = !latest
    ? "Draft, no version yet"
    : entry.changed_since_version
      ? `Draft after version ${latest.number}`
      : `Version ${latest.number}`;

  function rename() {
    const next = name?.trim();
    setName(null);
    if (next && next !== lookName) store.edit("Rename", (before) => ({ ...before, name: next }));
  }

  return (
    <Root>
      {fingerprint ? <Fingerprint $size={54} src={fingerprint} alt="Fingerprint of the look" /> : <Blank />}
      <Title>
        <NameRow>
          <Name
            aria-label="Name of the look"
            maxLength={120}
            readOnly={!mayEdit}
            value={name ?? lookName}
            onChange={(event) => setName(event.target.value)}
            onBlur={rename}
            onKeyDown={(event) => {
              if (event.key === "Enter") event.currentTarget.blur();
              if (event.key === "Escape") setName(null);
              event.stopPropagation();
            }}
          />
          <LookChooser picture={picture} />
        </NameRow>
        <Under>
          <State onPress={onHistory} aria-label={`History: ${state}`}>
            {state}
          </State>
          <WhoSees kind="look" id={entry.id} mayChange={mayEdit} />
        </Under>
      </Title>
      <Row>
        {strength > 1 ? "Beyond full" : "Strength"}
        <StrengthBar
          label="Strength of the look"
          value={strength}
          most={BEYOND}
          onChange={(value) =>
            store.edit("Strength of the look", (before) => ({ ...before, strength: value }), "look strength")
          }
          onChangeEnd={() => store.dispatch({ type: "endGesture" })}
        />
        <Typed>
          <NumberBox
            label="Strength of the look, percent"
            value={strength * 100}
            low={0}
            high={most * 100}
            step={1}
            digits={0}
            neutral={100}
            onChange={(value) => store.edit("Strength of the look", (before) => ({ ...before, strength: value / 100 }))}
          />
          %
        </Typed>
        <span>
          <IconButton
            aria-label={undone ? `Undo ${undone}` : "Undo"}
            isDisabled={!undone}
            onPress={() => store.dispatch({ type: "undo" })}
          >
            <Undo2 aria-hidden />
          </IconButton>
          <IconButton
            aria-label={redone ? `Redo ${redone}` : "Redo"}
            isDisabled={!redone}
            onPress={() => store.dispatch({ type: "redo" })}
          >
            <Redo2 aria-hidden />
          </IconButton>
          <IconButton aria-label="History" onPress={onHistory}>
            <History aria-hidden />
          </IconButton>
        </span>
      </Row>
      {!mayEdit && mayDesign && (
        <Own>
          <span>{entry.by ? `By ${entry.by}: to look at only.` : "To look at only."}</span>
          <Secondary isPending={own.isPending} onPress={own.make}>
            Make your own of it
          </Secondary>
        </Own>
      )}
      {own.error && <Notice>{wordsFor(own.error)}</Notice>}
    </Root>
  );
});
