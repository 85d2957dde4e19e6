import type { ReactNode } from "react";
import { Dialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import { X } from "lucide-react";
import styled from "styled-components";
import { IconButton } from "./Button";

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
export const SheetFoot = styled.div`
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

export function Sheet({ title, isOpen, onClose, children, width = "560px" }: Props) {
  return (
    <Veil isOpen={isOpen} onOpenChange={(open) => !open && onClose()} isDismissable data-veil>
      <Panel $width={width}>
        <Body>
          <Head>
            <Title slot="title">{title}</Title>
            <IconButton aria-label="Close" onPress={onClose}>
              <X aria-hidden />
            </IconButton>
          </Head>
          {children}
        </Body>
      </Panel>
    </Veil>
  );
}
