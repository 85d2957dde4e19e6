import { useQuery } from "@tanstack/react-query";
import { Check as CheckMark, MapPin } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { reviews as reviewsQuery, useAddPin, useSettlePin } from "../../api/review";
import type { Described, Pin } from "../../api/types";
import { Primary, Secondary, WordButton } from "../../kit/Button";
import type { Point } from "../../kit/Compare";
import { Notice } from "../../kit/Notice";
import { PinDot, PlacedDot } from "../../kit/PinDot";
import { TextBox } from "../../kit/TextBox";
import { Block, Small } from "../entry/layout";
import { withoutMarks } from "../../kit/PlainList";

const List = styled.ol`
  ${withoutMarks}
  display: grid;
  gap: 12px;
  > li {
    display: grid;
    grid-template-columns: 22px 1fr;
    gap: 8px;
    overflow-wrap: anywhere;
  }
  ul {
    list-style: none;
    margin: 4px 0 0;
    padding: 0 0 0 10px;
    border-left: 2px solid ${(p) => p.theme.tokens.line};
    display: grid;
    gap: 4px;
  }
  footer {
    display: flex;
    gap: 14px;
  }
`;

const heads = (pins: readonly Pin[]) => pins.filter((pin) => pin.answers === null);

/** Where remarks stand on the picture in view. */
export function PinMarks({ pins, picture, asking }: { pins: readonly Pin[]; picture: number; asking: Point | null }) {
  return (
    <>
      {heads(pins).map(
        (pin, index) =>
          pin.picture === picture &&
          pin.x !== null &&
          pin.y !== null && (
            <PlacedDot
              key={pin.id}
              $quiet={pin.settled_by !== ""}
              style={{ left: `${pin.x * 100}%`, top: `${pin.y * 100}%` }}
              title={pin.words}
            >
              {index + 1}
            </PlacedDot>
          ),
      )}
      {asking && <PlacedDot $quiet style={{ left: `${asking.x * 100}%`, top: `${asking.y * 100}%` }} />}
    </>
  );
}

function Answer({ onSend }: { onSend: (words: string) => void }) {
  const [open, setOpen] = useState(false);
  const [words, setWords] = useState("");
  if (!open) return <WordButton onPress={() => setOpen(true)}>Answer</WordButton>;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (words.trim() === "") return;
        onSend(words);
        setWords("");
        setOpen(false);
      }}
    >
      <TextBox label="Answer" value={words} onChange={setWords} maxLength={2000} autoFocus placeholder="Then Enter" />
    </form>
  );
}

interface Props {
  readonly entry: Described;
  readonly picture: number | undefined;
  /** The place that a new remark is about; null for the whole. */
  readonly place: Point | null;
  readonly picking: boolean;
  readonly onPicking: (picking: boolean) => void;
}

/** Remarks on the latest version, on places of pictures or on the whole: answered, and settled. */
export function Pins({ entry, picture, place, picking, onPicking }: Props) {
  const { data } = useQuery(reviewsQuery(entry.kind, entry.id));
  const add = useAddPin(entry.kind, entry.id);
  const settle = useSettlePin();
  const [words, setWords] = useState("");
  const latest = data?.versions[0];
  if (!data || !latest || (data.pins.length === 0 && !data.may_remark)) return null;
  const trouble = add.error ?? settle.error;
  const send = () =>
    add.mutate(
      {
        number: latest.number,
        words,
        ...(place && picture !== undefined ? { picture, x: place.x, y: place.y } : {}),
      },
      {
        onSuccess: () => {
          setWords("");
          onPicking(false);
        },
      },
    );
  return (
    <Block aria-label="Remarks">
      <h2>Remarks</h2>
      <List>
        {heads(data.pins).map((pin, index) => (
          <li key={pin.id}>
            <PinDot $quiet={pin.settled_by !== ""} aria-hidden>
              {pin.settled_by === "" ? index + 1 : <CheckMark size={12} />}
            </PinDot>
            <div>
              <p>{pin.words}</p>
              <Small>
                <bdi>{pin.by}</bdi>, version {pin.number}
                {pin.x !== null && ", on a place of a picture"}
                {pin.settled_by && `; settled by ${pin.settled_by}`}
              </Small>
              {data.pins.some((one) => one.answers === pin.id) && (
                <ul>
                  {data.pins
                    .filter((one) => one.answers === pin.id)
                    .map((one) => (
                      <li key={one.id}>
                        {one.words}{" "}
                        <Small>
                          <bdi>{one.by}</bdi>
                        </Small>
                      </li>
                    ))}
                </ul>
              )}
              <footer>
                {data.may_remark && (
                  <Answer onSend={(text) => add.mutate({ number: pin.number, words: text, answers: pin.id })} />
                )}
                {pin.may_settle && (
                  <WordButton onPress={() => settle.mutate({ id: pin.id, settled: pin.settled_by === "" })}>
                    {pin.settled_by === "" ? "Settle" : "Open again"}
                  </WordButton>
                )}
              </footer>
            </div>
          </li>
        ))}
      </List>
      {data.may_remark && (
        <>
          <TextBox
            label={place ? "Remark on the place marked" : "Remark on the whole"}
            value={words}
            onChange={setWords}
            maxLength={2000}
          />
          <div style={{ display: "flex", gap: 8 }}>
            <Secondary onPress={() => onPicking(!picking)}>
              <MapPin size={14} aria-hidden /> {picking ? "Without a place" : "Mark a place"}
            </Secondary>
            <Primary isDisabled={words.trim() === ""} isPending={add.isPending} onPress={send}>
              Remark
            </Primary>
          </div>
          {picking && !place && <Small>Click the place in the picture.</Small>}
        </>
      )}
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
    </Block>
  );
}
