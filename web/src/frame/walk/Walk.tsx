import { useEffect, useMemo, useRef, useState } from "react";
import { Dialog, Heading, Popover } from "react-aria-components";
import styled from "styled-components";
import { Primary, Secondary, WordButton } from "../../kit/Button";
import type { Station } from "./stations";

const Root = styled(Popover)`
  width: 330px;
  padding: 14px 16px;
  border-radius: 8px;
  background: ${(p) => p.theme.tokens.glaze};
  border: 1px solid ${(p) => p.theme.tokens.line};
  box-shadow: 0 6px 24px rgb(0 0 0 / 16%);
  h2 {
    font-weight: 600;
  }
  section {
    display: grid;
    gap: 8px;
    outline: none;
  }
`;
const Foot = styled.footer`
  display: flex;
  align-items: center;
  gap: 8px;
  small {
    color: ${(p) => p.theme.tokens.soft};
  }
  > :nth-child(2) {
    margin-left: auto;
  }
`;

interface Props {
  readonly stations: readonly Station[];
  readonly onEnd: () => void;
}

/** From one station to the next; Escape ends it. */
export function Walk({ stations, onEnd }: Props) {
  const [at, setAt] = useState(0);
  const station = stations[at];
  // Where somebody has just signed in, this may be drawn before the bar is in the page.
  const [isThere, setThere] = useState(false);
  useEffect(() => {
    const frame = requestAnimationFrame(() => setThere(true));
    return () => cancelAnimationFrame(frame);
  }, []);
  const place = useMemo(
    () => ({
      current: isThere ? document.querySelector<HTMLElement>(`[data-station="${station?.at ?? ""}"]`) : null,
    }),
    [station, isThere],
  );
  const next = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    const shown = place.current;
    shown?.setAttribute("data-shown", "");
    // Once what opens has taken the focus for itself: Enter goes on from one to the next.
    const frame = requestAnimationFrame(() => next.current?.focus());
    return () => {
      cancelAnimationFrame(frame);
      shown?.removeAttribute("data-shown");
    };
  }, [place]);
  // Only this ends it: what floats over a page closes by itself when the page is scrolled, or while it is still being laid out.
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === "Escape") onEnd();
    };
    window.addEventListener("keydown", onKey, true);
    return () => window.removeEventListener("keydown", onKey, true);
  }, [onEnd]);
  if (!station) return null;
  const isLast = at === stations.length - 1;
  return (
    <Root key={station.at} isNonModal isOpen={place.current !== null} triggerRef={place} placement="bottom" offset={12}>
      <Dialog>
        <Heading slot="title" level={2}>
          {station.title}
        </Heading>
        <p>{station.words}</p>
        <Foot>
          <small>
            {at + 1} of {stations.length}
          </small>
          {isLast ? <span /> : <WordButton onPress={onEnd}>End the walk</WordButton>}
          {at > 0 && <Secondary onPress={() => setAt(at - 1)}>Back</Secondary>}
          <Primary ref={next} onPress={() => (isLast ? onEnd() : setAt(at + 1))}>
            {isLast ? "Done" : "Next"}
          </Primary>
        </Foot>
      </Dialog>
    </Root>
  );
}
