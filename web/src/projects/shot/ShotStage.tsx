import type { RefObject } from "react";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import type { Project, Shot } from "../../api/types";
import { AloneButton, BackFromAlone } from "../../kit/Alone";
import { Choice } from "../../kit/Choice";
import { oneLine } from "../../kit/oneLine";
import { SurroundChoice } from "../../kit/SurroundChoice";
import { PlayBar } from "../../play/PlayBar";
import { Arrows } from "./Arrows";
import { AtFrame } from "./AtFrame";
import { BesideFigure, waysOf, type Beside } from "./Beside";
import type { useAlone } from "./useAlone";
import { ShotCanvas, type useShotPlayer } from "./View";

const Left = styled.div`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  min-width: 0;
  min-height: 0;
  &[data-alone] {
    position: fixed;
    inset: 0;
    z-index: 15;
    grid-template-rows: minmax(0, 1fr);
    background: ${(p) => p.theme.surround.field};
    > :not([data-testid="panes"]),
    figcaption {
      display: none;
    }
    figure {
      grid-template-rows: minmax(0, 1fr);
    }
    canvas,
    img {
      width: 100%;
      height: 100%;
    }
    > [data-testid="panes"] {
      padding: 0;
    }
  }
`;
export const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 14px;
  min-width: 0;
  padding: 10px 18px;
  h1 {
    font-size: ${(p) => p.theme.tokens.size.title};
    font-weight: 600;
    ${oneLine}
    min-width: 0;
  }
  a {
    color: inherit;
  }
  > span:first-child {
    display: flex;
    align-items: center;
    gap: 4px;
    white-space: nowrap;
  }
  > :last-child {
    margin-left: auto;
  }
`;
const Ways = styled(Choice<Beside>)`
  button {
    color: ${(p) => p.theme.surround.ink};
    white-space: nowrap;
  }
  button[data-selected] {
    background: ${(p) => p.theme.surround.pill};
    color: ${(p) => p.theme.surround.pillInk};
  }
`;
const Tools = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
`;
const Stage = styled.div<{ $two: boolean }>`
  display: grid;
  grid-template-columns: ${(p) => (p.$two ? "minmax(0, 1fr) minmax(0, 1fr)" : "minmax(0, 1fr)")};
  gap: 12px;
  padding: 0 18px 14px;
  min-height: 0;
  > figure {
    margin: 0;
    min-height: 0;
    min-width: 0;
    display: grid;
    grid-template-rows: minmax(0, max-content) auto;
    gap: 6px;
    justify-items: center;
    align-content: center;
  }
  img {
    max-width: 100%;
    max-height: 100%;
    min-height: 0;
    object-fit: contain;
  }
  figcaption {
    color: ${(p) => p.theme.surround.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;

interface Props {
  readonly project: Project;
  readonly shot: Shot;
  readonly player: ReturnType<typeof useShotPlayer>["player"];
  readonly canvas: RefObject<HTMLCanvasElement | null>;
  readonly alone: ReturnType<typeof useAlone>;
}

/** The shot through its look, something to hold beside it, and the way to its neighbours. */
export function ShotStage({ project, shot, player, canvas, alone }: Props) {
  const [isAlone, setAlone] = alone;
  const [search, setSearch] = useSearchParams();
  const beside = (search.get("beside") ?? "alone") as Beside;
  const at = project.shots.indexOf(shot);
  const scene = project.scenes.find((one) => one.id === shot.scene)?.name ?? "";
  return (
    <Left data-alone={isAlone ? true : undefined}>
      <Head>
        <Arrows project={project} previous={project.shots[at - 1]} next={project.shots[at + 1]} />
        <h1 title={`${scene}, ${shot.code}`}>{shot.code}</h1>
        <span>{scene}</span>
        <Ways
          label="Beside it"
          value={beside}
          options={waysOf(shot)}
          onChange={(way) => setSearch(way === "alone" ? {} : { beside: way }, { replace: true })}
        />
        <Tools>
          <AloneButton onPress={() => setAlone(true)} />
          <SurroundChoice />
        </Tools>
      </Head>
      <Stage $two={beside !== "alone"} data-testid="panes">
        <figure>
          <ShotCanvas canvas={canvas} label={`${shot.code} through its look`} />
          {beside !== "alone" && (
            <figcaption>
              <bdi>{shot.code}</bdi>
            </figcaption>
          )}
        </figure>
        {beside !== "alone" && (
          <AtFrame player={player}>
            {(frame) => <BesideFigure project={project} shot={shot} beside={beside} frame={frame} />}
          </AtFrame>
        )}
        {isAlone && <BackFromAlone onPress={() => setAlone(false)} />}
      </Stage>
      {player && shot.moving && shot.first !== null && shot.last !== null && (
        <PlayBar
          player={player}
          first={shot.first}
          last={shot.last}
          rate={shot.moving.rate}
          numbered={shot.moving.first}
          timecode={shot.moving.timecode}
        />
      )}
    </Left>
  );
}
