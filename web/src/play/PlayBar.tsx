import { Pause, Play, Repeat, StepBack, StepForward } from "lucide-react";
import { useSyncExternalStore } from "react";
import { Slider, ToggleButton } from "react-aria-components";
import styled from "styled-components";
import { IconButton } from "../kit/Button";
import type { Player } from "./player";
import { nameOf } from "./timecode";
import { FieldThumb, FieldTrack } from "../kit/slider";

const Root = styled.div`
  display: grid;
  grid-template-columns: auto minmax(120px, 1fr) auto auto;
  align-items: center;
  gap: 12px;
  padding: 0 18px;
  min-height: 40px;
  background: ${(p) => p.theme.surround.tray};
  color: ${(p) => p.theme.surround.ink};
`;
const Buttons = styled.div`
  display: flex;
  gap: 2px;
`;
const HEIGHT = 26;
const Loop = styled.span`
  position: absolute;
  top: 10px;
  height: 6px;
  border-radius: 3px;
  background: color-mix(in srgb, currentColor 45%, transparent);
`;
const Numbers = styled.output`
  font-family: ${(p) => p.theme.tokens.numbers};
  font-size: ${(p) => p.theme.tokens.size.small};
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
  min-width: 96px;
  text-align: right;
  small {
    display: block;
    font-size: 11px;
    color: ${(p) => p.theme.surround.soft};
  }
`;
const LoopButton = styled(ToggleButton)`
  display: inline-flex;
  align-items: center;
  gap: 6px;
  border: 0;
  background: none;
  color: inherit;
  padding: 3px 8px;
  border-radius: 13px;
  cursor: pointer;
  svg {
    width: 15px;
    height: 15px;
  }
  &[data-selected] {
    background: ${(p) => p.theme.surround.pill};
    color: ${(p) => p.theme.surround.pillInk};
  }
`;

interface Props {
  readonly player: Player;
  readonly first: number;
  readonly last: number;
  readonly rate: number;
  /** Number that the very first frame of the source is told by, and its timecode. */
  readonly numbered: number;
  readonly timecode: string;
}

/** Play, scrub, step and loop; where it stands in frames and timecode. */
export function PlayBar({ player, first, last, rate, numbered, timecode }: Props) {
  const state = useSyncExternalStore(player.state.subscribe, player.state.get);
  const { frame, isPlaying, loop } = state;
  const isLooped = loop[0] !== first || loop[1] !== last;
  const share = (at: number) => (last === first ? 0 : ((at - first) / (last - first)) * 100);
  const code = nameOf(frame, timecode, rate);
  return (
    <Root
      role="group"
      aria-label="Playing"
      data-testid="player"
      data-frame={frame}
      data-drawn={state.drawn}
      data-late={state.late}
      data-version={state.version}
    >
      <Buttons>
        <IconButton aria-label="One frame back" onPress={() => player.step(-1)}>
          <StepBack />
        </IconButton>
        <IconButton aria-label={isPlaying ? "Pause" : "Play"} onPress={() => player.toggle()}>
          {isPlaying ? <Pause /> : <Play />}
        </IconButton>
        <IconButton aria-label="One frame on" onPress={() => player.step(1)}>
          <StepForward />
        </IconButton>
      </Buttons>
      <Slider
        aria-label="Frame"
        value={frame}
        minValue={first}
        maxValue={Math.max(last, first + 1)}
        onChange={(value) => {
          player.pause();
          player.seek(value);
        }}
      >
        <FieldTrack $height={HEIGHT}>
          {isLooped && (
            <Loop
              style={{ left: `${String(share(loop[0]))}%`, width: `${String(share(loop[1]) - share(loop[0]))}%` }}
            />
          )}
          <FieldThumb $height={HEIGHT} $size={13} />
        </FieldTrack>
      </Slider>
      <LoopButton
        isSelected={isLooped}
        aria-label={isLooped ? "Loop over all of it" : "Loop over a second from here"}
        onChange={(on) => {
          if (on) player.loopOver(frame, Math.min(last, frame + Math.round(rate)));
          else player.loopOver(first, last);
        }}
      >
        <Repeat aria-hidden />{" "}
        {isLooped ? `${String(numbered + loop[0])} to ${String(numbered + loop[1])}` : "A second"}
      </LoopButton>
      <Numbers aria-label="Frame number">
        {numbered + frame}
        {code && <small>{code}</small>}
      </Numbers>
    </Root>
  );
}
