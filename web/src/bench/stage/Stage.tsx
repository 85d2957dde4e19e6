import { useCallback, useMemo, useState } from "react";
import styled from "styled-components";
import type { Picture } from "../../api/types";
import { BackFromAlone } from "../../kit/Alone";
import type { Place } from "../../look/view/picking";
import { shownLook } from "../../look/store";
import { useBench, useBenchPart, useViewPart } from "../../look/useBench";
import { usePainted, type Frames } from "../../look/frames/useFrames";
import { useTellSecond } from "../second/useTellSecond";
import { ClipBar } from "./ClipBar";
import { Pane } from "./Pane";
import { Readout, type Pointed } from "./Readout";
import { useSides } from "./sides";
import { StageSlider } from "./StageSlider";
import { StageTools } from "./StageTools";

const Root = styled.section`
  display: grid;
  grid-template-rows: 44px minmax(0, 1fr) auto 28px 34px;
  grid-template-areas: "tools" "panes" "clip" "slider" "readout";
  > :nth-last-child(1) {
    grid-area: readout;
  }
  > :nth-last-child(2) {
    grid-area: slider;
  }
  min-height: 0;
  min-width: 0;
  &[data-alone] {
    position: fixed;
    inset: 0;
    z-index: 15;
    grid-template: "panes" minmax(0, 1fr) / minmax(0, 1fr);
    > :not([data-testid="panes"]) {
      display: none;
    }
  }
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
`;
const Panes = styled.div<{ $count: number }>`
  position: relative;
  display: grid;
  min-width: 0;
  min-height: 0;
  grid-template-columns: ${(p) => (p.$count > 1 ? "1fr 1fr" : "1fr")};
  grid-template-rows: ${(p) => (p.$count > 2 ? "1fr 1fr" : "1fr")};
`;
const Said = styled.div`
  position: absolute;
  left: 50%;
  bottom: 14px;
  transform: translateX(-50%);
  width: max-content;
  max-width: 80%;
  padding: 6px 14px;
  border-radius: 14px;
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.caution};
  font-size: 12px;
`;
/** Seen for a moment, then when somebody points there or comes there by the keyboard. */
const Empty = styled.p`
  place-self: center;
  color: ${(p) => p.theme.surround.ink};
`;

/** Says on the page whether the picture is that of the look as it stands, at rest; for whoever waits for it. */
function Settled({ frames }: { frames: Frames }) {
  const look = useBenchPart(shownLook);
  const settled = usePainted(frames.painter, (painted) => painted.settled);
  return <span hidden data-testid="settled" data-settled={settled === look} />;
}

/** The pictures as they leave the look, compared with how they came or with anything else. */
export function Stage({ pictures, frames }: { pictures: readonly Picture[]; frames: Frames }) {
  const [pointed, setPointed] = useState<Pointed | null>(null);
  const shown = useViewPart((view) => view.shown);
  const against = useViewPart((view) => view.against);
  const problem = usePainted(frames.painter, (painted) => painted.problem);
  const { choices, nameOf } = useSides();
  const alone = useViewPart((one) => one.alone);
  const { view } = useBench();
  const [chosen] = pictures;
  const [shownName, againstName] = [nameOf(shown), nameOf(against)];
  const names = useMemo(() => ({ shown: shownName, against: againstName }), [shownName, againstName]);
  useTellSecond(frames.painter, pictures, names);
  const onPoint = useCallback((picture: number, at: Place | null) => {
    setPointed(at && at.x >= 0 && at.x <= 1 && at.y >= 0 && at.y <= 1 ? { picture, at } : null);
  }, []);
  return (
    <Root aria-label="Picture" data-alone={alone ? true : undefined}>
      <StageTools choices={choices} names={names} />
      <Panes $count={pictures.length} data-testid="panes">
        {pictures.length === 0 && <Empty>Bring in a picture to see what the look does.</Empty>}
        {pictures.map((picture, index) => (
          <Pane
            key={picture.id}
            picture={picture}
            frames={frames}
            isChosen={index === 0}
            named={pictures.length > 1}
            names={names}
            onPoint={onPoint}
            onWidth={index === 0 ? frames.painter.onWidth : undefined}
          />
        ))}
        {alone && <BackFromAlone onPress={() => view.set({ alone: false })} />}
        {problem && <Said role="alert">{problem}</Said>}
      </Panes>
      <Settled frames={frames} />
      {chosen?.moving?.plays && (
        <ClipBar key={chosen.id} picture={chosen.id} moving={chosen.moving} painter={frames.painter} />
      )}
      <StageSlider picture={chosen} />
      <Readout pointed={pointed} frames={frames} />
    </Root>
  );
}
