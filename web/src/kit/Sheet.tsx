import { useRef, useState, type ReactNode } from "react";
import { Dialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import { X } from "lucide-react";
import styled from "styled-components";
import { IconButton, WordButton } from "./Button";

const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 20;
  display: grid;
  place-items: center;
  background: rgb(0 0 0 / 34%);
`;
const Panel = styled(Modal)<{ $width: string }>`
  width: min(${(p) => p.$width}, calc(100vw - 64px));
  max-height: calc(100vh - 64px);
  display: flex;
  background: ${(p) => p.theme.tokens.glaze};
  border-radius: ${(p) => p.theme.tokens.radius.sheet};
  overflow: hidden;
`;
const Body = styled(Dialog)`
  flex: 1;
  display: flex;
  flex-direction: column;
  min-height: 0;
  outline: none;
`;
const Head = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 14px 14px 10px 22px;
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
`;
const Title = styled(Heading)`
  font-size: ${(p) => p.theme.tokens.size.title};
  font-weight: 600;
  letter-spacing: -0.01em;
`;
export const SheetBody = styled.div`
  display: grid;
  gap: 16px;
  padding: 18px 22px;
  overflow-y: auto;
`;
export const SheetFoot = styled.footer`
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 10px;
  padding: 12px 22px;
  border-top: 1px solid ${(p) => p.theme.tokens.line};
`;

interface Props {
  readonly title: string;
  readonly isOpen: boolean;
  readonly onClose: () => void;
  readonly children: ReactNode;
  readonly width?: string;
}

const Asking = styled.div`
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 10px 22px;
  background: ${(p) => p.theme.tokens.accentWash};
`;

const Inside = styled.div`
  display: contents;
`;
type Field = HTMLInputElement | HTMLTextAreaElement;
/** Is it one for words of one's own? */
const isField = (found: EventTarget): found is Field =>
  found instanceof HTMLTextAreaElement || (found instanceof HTMLInputElement && found.type === "text");

/** Where words were typed, Escape and a press beside the sheet ask before they are dropped; its own buttons do what they say. */
export function Sheet({ title, isOpen, onClose, children, width = "560px" }: Props) {
  const [isAsking, setAsking] = useState(false);
  const typed = useRef(new Map<Field, string>());
  const last = useRef<Field | null>(null);
  const close = () => {
    typed.current.clear();
    setAsking(false);
    onClose();
  };
  const goOn = () => {
    setAsking(false);
    last.current?.focus();
  };
  const leave = () => {
    // What was taken has left its field; what stands there as it was found is no loss.
    const isLost = [...typed.current].some(
      ([field, before]) => field.isConnected && field.value.trim() !== "" && field.value !== before,
    );
    if (isAsking) goOn();
    else if (isLost) setAsking(true);
    else close();
  };
  return (
    <Veil isOpen={isOpen} onOpenChange={(open) => !open && leave()} isDismissable data-veil>
      <Panel $width={width}>
        <Body>
          <Head>
            <Title slot="title">{title}</Title>
            <IconButton aria-label="Close" onPress={close}>
              <X aria-hidden />
            </IconButton>
          </Head>
          {isAsking && (
            <Asking role="alert">
              Drop what was typed here?
              <WordButton onPress={close}>Drop it</WordButton>
              <WordButton autoFocus onPress={goOn}>
                Go on
              </WordButton>
            </Asking>
          )}
          <Inside
            onClickCapture={({ target }) => {
              // What was typed has been used: nothing is lost with it any more.
              if (target instanceof Element && target.closest("footer button")) typed.current.clear();
            }}
            onFocus={({ target }) => {
              if (!isField(target)) return;
              last.current = target;
              if (!typed.current.has(target)) typed.current.set(target, target.value);
            }}
          >
            {children}
          </Inside>
        </Body>
      </Panel>
    </Veil>
  );
}
