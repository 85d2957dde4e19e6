import { CircleAlert, X } from "lucide-react";
import {
  Button,
  UNSTABLE_Toast as Toast,
  UNSTABLE_ToastContent as Content,
  UNSTABLE_ToastRegion as Region,
} from "react-aria-components";
import styled from "styled-components";
import { passing } from "../kit/passing";

const Root = styled(Region<string>)`
  position: fixed;
  bottom: 20px;
  left: 50%;
  z-index: 50;
  transform: translateX(-50%);
  display: grid;
  gap: 8px;
  width: min(460px, calc(100vw - 40px));
  outline: none;
`;
const Words = styled(Toast)`
  display: flex;
  align-items: flex-start;
  gap: 8px;
  padding: 10px 12px;
  border-radius: ${(p) => p.theme.tokens.radius.field};
  background: ${(p) => p.theme.tokens.ink};
  color: ${(p) => p.theme.tokens.glaze};
  overflow-wrap: anywhere;
  svg {
    width: 16px;
    height: 16px;
    flex: none;
    margin-top: 1px;
  }
  > div {
    flex: 1;
  }
`;
const Close = styled(Button)`
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  cursor: pointer;
`;

/** What could not be done, on whatever page; each goes by itself, or when it is closed. */
export function Passing() {
  return (
    <Root queue={passing} aria-label="What could not be done">
      {({ toast }) => (
        <Words toast={toast}>
          <CircleAlert aria-hidden />
          <Content>{toast.content}</Content>
          <Close slot="close" aria-label="Close these words">
            <X aria-hidden />
          </Close>
        </Words>
      )}
    </Root>
  );
}
