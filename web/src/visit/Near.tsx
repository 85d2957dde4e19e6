import { ChevronLeft, ChevronRight, X } from "lucide-react";
import { useEffect, useState } from "react";
import { Dialog, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import type { GuestRemark, ShownPage } from "../api/types";
import { useJudgeShown, useRemarkShown, useTakeBackRemark } from "../api/visit";
import { IconButton, Primary, WordButton } from "../kit/Button";
import type { Point } from "../kit/Compare";
import { Notice } from "../kit/Notice";
import { withoutMarks } from "../kit/PlainList";
import { TextBox } from "../kit/TextBox";
import { VerdictPills } from "../kit/Verdict";
import { moves, type Seen } from "./seen";
import { Stage } from "./Stage";

const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 20;
  background: ${(p) => p.theme.surround.field};
`;
const Body = styled(Dialog)`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 320px;
  height: 100vh;
  outline: none;
  @media (max-width: 800px) {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(0, 1fr) minmax(0, 44vh);
  }
`;
const Side = styled.aside`
  display: grid;
  gap: 14px;
  align-content: start;
  overflow-y: auto;
  padding: 12px 18px 24px;
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  border-left: 1px solid ${(p) => p.theme.tokens.line};
  h2 {
    font-size: ${(p) => p.theme.tokens.size.title};
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
const Steps = styled.nav`
  display: flex;
  align-items: center;
  gap: 4px;
  > :last-child {
    margin-left: auto;
  }
`;
const Line = styled.div`
  display: flex;
  gap: 6px;
`;
const Ways = styled.div`
  display: flex;
  align-items: baseline;
  gap: 12px;
`;
const Remarks = styled.ol`
  ${withoutMarks}
  display: grid;
  gap: 10px;
  li {
    display: grid;
    grid-template-columns: 18px 1fr;
    gap: 6px;
    overflow-wrap: anywhere;
  }
  li > b {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-weight: 600;
  }
`;

interface Props {
  readonly code: string;
  readonly page: ShownPage;
  readonly seen: Seen;
  /** Which of all it is, in words. */
  readonly place: string;
  readonly onStep: (by: -1 | 1) => void;
  readonly onClose: () => void;
}

const isOn = (remark: GuestRemark, { thing }: Seen) => remark.kind === thing.kind && remark.of === thing.id;

/** One picture as large as the window: what one thinks of it, and words on it or on a place that was pressed. */
export function Near({ code, page, seen, place, onStep, onClose }: Props) {
  const { thing, picture } = seen;
  const judge = useJudgeShown(code);
  const remark = useRemarkShown(code);
  const takeBack = useTakeBackRemark(code);
  const [point, setPoint] = useState<Point | null>(null);
  const [words, setWords] = useState("");
  const [frame, setFrame] = useState(moves(thing) ? thing.poster : null);
  const remarks = page.remarks.filter((one) => isOn(one, seen));
  const trouble = judge.error ?? remark.error ?? takeBack.error;
  const send = () =>
    remark.mutate(
      { thing, words, picture: picture?.id ?? null, frame, place: point },
      {
        onSuccess: () => {
          setWords("");
          setPoint(null);
        },
      },
    );
  // In a field the arrows move in the words.
  useEffect(() => {
    const onKey = ({ key, target }: KeyboardEvent) => {
      if (target instanceof HTMLInputElement) return;
      if (key === "ArrowLeft" || key === "ArrowRight") onStep(key === "ArrowLeft" ? -1 : 1);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [onStep]);
  const title = picture ? `${thing.name}, ${picture.name}` : thing.name;
  return (
    <Veil isOpen onOpenChange={(open) => !open && onClose()}>
      <Modal>
        <Body aria-label={title}>
          <Stage
            code={code}
            seen={seen}
            title={title}
            remarks={remarks}
            point={point}
            onPoint={setPoint}
            frame={frame}
            onFrame={(next) => {
              setFrame(next);
              setPoint(null);
            }}
          />
          <Side>
            <Steps aria-label="Pictures">
              <IconButton aria-label="The one before" onPress={() => onStep(-1)}>
                <ChevronLeft aria-hidden />
              </IconButton>
              <small>{place}</small>
              <IconButton aria-label="The next one" onPress={() => onStep(1)}>
                <ChevronRight aria-hidden />
              </IconButton>
              <IconButton aria-label="Close" onPress={onClose}>
                <X aria-hidden />
              </IconButton>
            </Steps>
            <div>
              <h2>{thing.name}</h2>
              <small>{picture?.name ?? thing.group}</small>
            </div>
            <Line role="group" aria-label={`What do you think of ${thing.name}?`}>
              <VerdictPills said={thing.choice} onSay={(choice) => judge.mutate({ thing, choice })} />
            </Line>
            {remarks.length > 0 && (
              <Remarks aria-label="Your remarks">
                {remarks.map((one, index) => (
                  <li key={one.id}>
                    <b>{index + 1}</b>
                    <div>
                      <p>{one.words}</p>
                      <Ways>
                        {one.frame !== null && thing.first !== null && (
                          <small>
                            frame{" "}
                            <WordButton onPress={() => setFrame(one.frame)}>
                              {one.frame - (thing.first ?? 0) + 1}
                            </WordButton>
                          </small>
                        )}
                        <WordButton onPress={() => takeBack.mutate(one.id)}>Take back</WordButton>
                      </Ways>
                    </div>
                  </li>
                ))}
              </Remarks>
            )}
            <form
              style={{ display: "grid", gap: 8, justifyItems: "start" }}
              onSubmit={(event) => {
                event.preventDefault();
                if (words.trim() !== "") send();
              }}
            >
              <div style={{ width: "100%" }}>
                <TextBox
                  label={point ? "What about this place?" : "What do you say of it?"}
                  value={words}
                  onChange={setWords}
                  maxLength={1000}
                />
              </div>
              <Primary type="submit" isDisabled={words.trim() === ""} isPending={remark.isPending}>
                Say it
              </Primary>
              {point ? (
                <WordButton onPress={() => setPoint(null)}>Of the whole picture instead</WordButton>
              ) : (
                <small>Press a place in the picture to speak of that place.</small>
              )}
            </form>
            {trouble && <Notice>{wordsFor(trouble)}</Notice>}
          </Side>
        </Body>
      </Modal>
    </Veil>
  );
}
