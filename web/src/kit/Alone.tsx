import { Maximize } from "lucide-react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { Hint } from "./Hint";

const Root = styled(Button)`
  position: absolute;
  top: 14px;
  right: 16px;
  border: 0;
  padding: 5px 13px;
  border-radius: 14px;
  cursor: pointer;
  background: ${(p) => p.theme.tokens.pictureVeil};
  color: ${(p) => p.theme.tokens.onPicture};
  font-size: 12px;
  opacity: 0;
  animation: shown-at-first 4s;
  &[data-hovered],
  &[data-focus-visible] {
    opacity: 1;
  }
  @keyframes shown-at-first {
    0%,
    80% {
      opacity: 1;
    }
  }
`;
const Opens = styled(Button)`
  display: inline-flex;
  padding: 4px 8px;
  border: 0;
  border-radius: 12px;
  background: none;
  color: inherit;
  cursor: pointer;
  svg {
    width: 16px;
    height: 16px;
  }
`;

/** Shows the picture alone. */
export function AloneButton({ onPress }: { onPress: () => void }) {
  return (
    <Hint text="The picture alone · V">
      <Opens aria-label="The picture alone" onPress={onPress}>
        <Maximize aria-hidden />
      </Opens>
    </Hint>
  );
}

/** Where a picture is seen alone: shown at first, then only to who looks for it. */
export function BackFromAlone({ onPress }: { onPress: () => void }) {
  return (
    <Root aria-label="Back from the picture alone" onPress={onPress}>
      V or Escape: back
    </Root>
  );
}
