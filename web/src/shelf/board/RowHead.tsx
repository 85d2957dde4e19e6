import { GripVertical, MessageSquare, X } from "lucide-react";
import { characterOf, markOf } from "../../api/shelf";
import { useState } from "react";
import { Dialog, DialogTrigger } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useJudge } from "../../api/boards";
import type { Entry, GuestVerdict, Verdict } from "../../api/types";
import { Primary } from "../../kit/Button";
import { Fingerprint } from "../../kit/Disc";
import { Notice } from "../../kit/Notice";
import { Menu } from "../../kit/Picker";
import { WordList } from "../../kit/PlainList";
import { TextBox } from "../../kit/TextBox";
import { Pill, VerdictPills, wordOf } from "../../kit/Verdict";
import { oneLine } from "../../kit/oneLine";

const Root = styled.div`
  position: relative;
  display: grid;
  grid-template-columns: 40px minmax(0, 1fr);
  grid-template-rows: minmax(0, 1fr) auto;
  gap: 6px 10px;
  padding: 10px 12px;
  border-radius: 10px;
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  min-height: 0;
  overflow: hidden;
  a {
    color: inherit;
    font-weight: 600;
    display: block;
    ${oneLine}
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
    display: -webkit-box;
    -webkit-line-clamp: 2;
    -webkit-box-orient: vertical;
    overflow: hidden;
  }
`;
const Letter = styled.span`
  display: grid;
  place-items: center;
  width: 40px;
  height: 40px;
  border-radius: 50%;
  font-weight: 600;
  font-size: 17px;
  border: 1.5px solid ${(p) => p.theme.tokens.line};
`;
const Verdicts = styled.div`
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 4px;
`;
/** At the corner, in sight under the pointer and where the keys are. */
const Handles = styled.div`
  position: absolute;
  top: 4px;
  right: 4px;
  display: flex;
  opacity: 0;
  background: ${(p) => p.theme.tokens.glaze};
  border-radius: 8px;
  *:hover > &,
  &:focus-within {
    opacity: 1;
  }
`;
export const Handle = styled.button`
  display: grid;
  place-items: center;
  width: 24px;
  height: 24px;
  border: 0;
  padding: 0;
  background: none;
  color: inherit;
  cursor: pointer;
  border-radius: 6px;
  &[draggable="true"] {
    cursor: grab;
  }
  svg {
    width: 15px;
    height: 15px;
  }
`;
const Said = styled(Dialog)`
  width: 280px;
  padding: 8px 10px;
  display: grid;
  gap: 10px;
  outline: none;
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
/** One's own verdict, and in a small panel one's note and what the others say. */
function Judging({
  board,
  entry,
  name,
  verdicts,
  guests,
}: {
  board: number;
  entry: number;
  name: string;
  verdicts: readonly Verdict[];
  guests: readonly GuestVerdict[];
}) {
  const judge = useJudge(board);
  const mine = verdicts.find((one) => one.mine);
  const others = verdicts.filter((one) => !one.mine);
  const [note, setNote] = useState<string | null>(null);
  const count = verdicts.length + guests.length;
  const choice = mine?.choice ?? "";
  const kept = mine?.note ?? "";
  return (
    <Verdicts role="group" aria-label={`Verdict on ${name}`}>
      <VerdictPills said={choice} onSay={(said) => judge.mutate({ entry, choice: said, note: kept })} />
      <DialogTrigger onOpenChange={(open) => setNote(open ? kept : null)}>
        <Pill aria-label={`Notes on ${name}: ${String(count)}`} style={{ marginLeft: "auto" }}>
          <MessageSquare aria-hidden />
          {count > 0 && count}
        </Pill>
        <Menu placement="bottom start">
          <Said aria-label={`What is said of ${name}`}>
            {({ close }) => (
              <>
                <TextBox label="Your note" value={note ?? ""} onChange={setNote} maxLength={1000} autoFocus />
                <Primary
                  isDisabled={(note ?? "").trim() === kept}
                  isPending={judge.isPending}
                  onPress={() => judge.mutate({ entry, choice, note: note ?? "" }, { onSuccess: close })}
                >
                  Keep the note
                </Primary>
                {others.length + guests.length > 0 && (
                  <WordList aria-label="The others">
                    {others.map((one) => (
                      <li key={one.by}>
                        <span>
                          <bdi>{one.by}</bdi>: {wordOf(one.choice)}
                        </span>
                        {one.note && <span>{one.note}</span>}
                        {one.earlier && <small>Said before it was last changed</small>}
                      </li>
                    ))}
                    {guests.map((one, index) => (
                      <li key={index}>
                        <span>
                          <bdi>{one.by}</bdi> (guest): {wordOf(one.choice)}
                        </span>
                        {one.earlier && <small>Said before it was last changed</small>}
                      </li>
                    ))}
                  </WordList>
                )}
                {mine?.earlier && <small>It has changed since you said so.</small>}
              </>
            )}
          </Said>
        </Menu>
      </DialogTrigger>
      {judge.error && <Notice>{wordsFor(judge.error)}</Notice>}
    </Verdicts>
  );
}

interface Props {
  readonly entry: Entry;
  readonly name: string;
  readonly hidden: boolean;
  readonly board: number | null;
  readonly verdicts: readonly Verdict[];
  readonly guests: readonly GuestVerdict[];
  readonly mayChange: boolean;
  readonly isAlone: boolean;
  readonly onMove: (by: number) => void;
  readonly onDrag: () => void;
  readonly onRemove: () => void;
}

/** What stands before a row: which entry it is, and what is said of it. */
export function RowHead(props: Props) {
  const { entry, name, hidden, board, verdicts, guests, mayChange, isAlone, onMove, onDrag, onRemove } = props;
  return (
    <Root role="rowheader" aria-label={name}>
      {hidden ? <Letter aria-hidden>{name}</Letter> : <Fingerprint $size={40} src={markOf(entry)} alt="" />}
      <div style={{ minWidth: 0 }}>
        {hidden ? (
          <small>Name hidden</small>
        ) : (
          <>
            <Link to={`/shelf/${entry.kind}/${String(entry.id)}`} title={entry.name}>
              {entry.name}
            </Link>
            <small>{characterOf(entry) || entry.detail}</small>
          </>
        )}
      </div>
      {board !== null && (
        <Judging
          board={board}
          entry={entry.id}
          name={name}
          verdicts={verdicts}
          // Where names are hidden nobody follows others: they are told once one has said something oneself.
          guests={hidden && !verdicts.some((one) => one.mine && one.choice) ? [] : guests}
        />
      )}
      {mayChange && !hidden && (
        <Handles>
          <Handle
            type="button"
            aria-label={`Move ${name}; arrow keys move it too`}
            draggable
            onDragStart={(event) => {
              event.dataTransfer.setData("text/plain", name);
              event.dataTransfer.effectAllowed = "move";
              onDrag();
            }}
            onKeyDown={(event) => {
              if (event.key === "ArrowUp" || event.key === "ArrowDown") {
                event.preventDefault();
                onMove(event.key === "ArrowUp" ? -1 : 1);
              }
            }}
          >
            <GripVertical aria-hidden />
          </Handle>
          {!isAlone && (
            <Handle type="button" aria-label={`Take ${name} off the board`} onClick={onRemove}>
              <X aria-hidden />
            </Handle>
          )}
        </Handles>
      )}
    </Root>
  );
}
