import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { shotActivity, shotDetail, useAddNote, useRemoveNote } from "../../api/projects";
import { GuestVerdicts } from "../../guests/GuestVerdicts";
import { Secondary, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { WordList } from "../../kit/PlainList";
import { TextBox } from "../../kit/TextBox";
import { Actions, Block } from "./parts";

/** The picture with a ring round the place that is spoken of. */
const Placed = styled.span`
  position: relative;
  width: 150px;
  margin: 2px 0 4px;
  img {
    display: block;
    width: 100%;
  }
  i {
    position: absolute;
    width: 18px;
    height: 18px;
    transform: translate(-50%, -50%);
    border-radius: 50%;
    border: 2px solid ${(p) => p.theme.tokens.onPicture};
    box-shadow:
      0 0 0 1px ${(p) => p.theme.tokens.pictureEdge},
      inset 0 0 0 1px ${(p) => p.theme.tokens.pictureEdge};
  }
`;

interface Props {
  readonly project: number;
  readonly shot: number;
  /** The frame that is seen, as it is told; null for a still. */
  readonly frame: number | null;
  /** Number that the very first frame is told by. */
  readonly numbered: number;
  readonly onFrame: (frame: number) => void;
}

/** What people say of a shot, or of one of its frames. */
export function Notes({ project, shot, frame, numbered, onFrame }: Props) {
  const { data } = useQuery(shotDetail(project, shot));
  const add = useAddNote(project, shot);
  const remove = useRemoveNote(project);
  const [words, setWords] = useState("");
  const send = (of: number | null) => add.mutate({ words, frame: of }, { onSuccess: () => setWords("") });
  return (
    <Block aria-label="Notes">
      <h2>Notes</h2>
      <GuestVerdicts of={{ shot }} />
      <WordList>
        {data?.notes.map((note) => (
          <li key={note.id}>
            {note.x !== null && note.y !== null && (
              <Placed>
                <img
                  src={`/api/projects/${String(project)}/shots/${String(shot)}/preview.jpg${note.frame === null ? "" : `?frame=${String(note.frame)}`}`}
                  alt=""
                  loading="lazy"
                />
                <i style={{ left: `${note.x * 100}%`, top: `${note.y * 100}%` }} />
              </Placed>
            )}
            <span>{note.words}</span>
            <small>
              <bdi>{note.by}</bdi>, {note.at.slice(0, 10)}
              {note.frame !== null && (
                <>
                  {" "}
                  <WordButton onPress={() => onFrame(note.frame ?? 0)}>frame {numbered + note.frame}</WordButton>
                </>
              )}
              {note.x !== null && ", on this place"}
              {note.may_remove && (
                <>
                  {" "}
                  <WordButton onPress={() => remove.mutate(note.id)}>
                    {note.by.endsWith(" (guest)") ? "Remove" : "Take back"}
                  </WordButton>
                </>
              )}
            </small>
          </li>
        ))}
      </WordList>
      <TextBox
        label="A note"
        hideLabel
        value={words}
        onChange={setWords}
        maxLength={1000}
        placeholder="Say something"
      />
      {words.trim() !== "" && (
        <Actions>
          <Secondary isPending={add.isPending} onPress={() => send(null)}>
            To the shot
          </Secondary>
          {frame !== null && (
            <Secondary isPending={add.isPending} onPress={() => send(frame)}>
              To frame {numbered + frame}
            </Secondary>
          )}
        </Actions>
      )}
      {(add.error ?? remove.error) && <Notice>{wordsFor(add.error ?? remove.error)}</Notice>}
    </Block>
  );
}

/** Who did what to a shot. */
export function Done({ project, shot }: { project: number; shot: number }) {
  const { data: done = [] } = useQuery(shotActivity(project, shot));
  const [all, setAll] = useState(false);
  if (done.length === 0) return null;
  return (
    <Block aria-label="Activity">
      <h2>Activity</h2>
      <WordList>
        {done.slice(0, all ? done.length : 5).map((one, index) => (
          <li key={index}>
            <span>
              {one.by || "Saucer"}: {one.action}
              {typeof one.data.look === "string" && one.data.look !== "" && `, ${one.data.look}`}
            </span>
            <small>
              {one.at.slice(0, 10)} {one.at.slice(11, 16)}
            </small>
          </li>
        ))}
      </WordList>
      {done.length > 5 && !all && <WordButton onPress={() => setAll(true)}>All {done.length}</WordButton>}
    </Block>
  );
}
