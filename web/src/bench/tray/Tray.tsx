import { ArrowDownWideNarrow, Columns2, Pin, Plus } from "lucide-react";
import { memo, useEffect, useRef, useState } from "react";
import { Button, ToggleButton } from "react-aria-components";
import styled, { css } from "styled-components";
import { discOf } from "../../api/pictures";
import type { Picture } from "../../api/types";
import type { Reference } from "../../look/view/view";
import { byFailings } from "./failings";
import { Disc } from "../../kit/Disc";
import { Hint } from "../../kit/Hint";
import { useBench, useViewPart } from "../../look/useBench";
import { useReading, type Frames } from "../../look/frames/useFrames";
import { SetMenu } from "./SetMenu";
import { oneLine } from "../../kit/oneLine";

const Root = styled.nav`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  align-items: center;
  padding-right: 10px;
  min-height: 92px;
  background: ${(p) => p.theme.surround.tray};
  color: ${(p) => p.theme.surround.soft};
  border-top: 1px solid ${(p) => p.theme.surround.line};
`;
const Choices = styled.div`
  display: grid;
  align-content: center;
  justify-items: start;
  gap: 4px;
  padding: 6px 4px 6px 12px;
  max-width: 128px;
`;
const Pill = styled(ToggleButton)`
  display: inline-flex;
  align-items: center;
  gap: 6px;
  border: 0;
  background: none;
  padding: 3px 9px;
  min-height: 26px;
  border-radius: 13px;
  cursor: pointer;
  font-weight: 500;
  color: inherit;
  svg {
    width: 15px;
    height: 15px;
  }
  &[data-hovered] {
    background: color-mix(in srgb, currentColor 12%, transparent);
  }
  &[data-selected] {
    background: ${(p) => p.theme.surround.pill};
    color: ${(p) => p.theme.surround.pillInk};
  }
  &[data-focus-visible] {
    outline-color: ${(p) => p.theme.surround.ink};
  }
`;
const Discs = styled.div`
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 9px 14px 5px 6px;
  overflow-x: auto;
`;
const Item = styled(Button)<{ $watched: boolean }>`
  display: grid;
  justify-items: center;
  gap: 6px;
  flex: 0 1 69px;
  min-width: 57px;
  padding: 4px 0 0;
  border: 0;
  background: none;
  color: inherit;
  cursor: pointer;
  font-size: 11px;
  > span:last-child {
    max-width: 56px;
    ${oneLine}
  }
  &[aria-current] {
    color: ${(p) => p.theme.surround.ink};
    font-weight: 600;
  }
  ${(p) =>
    p.$watched &&
    css`
      > span:first-child {
        border-radius: 50%;
        box-shadow:
          0 0 0 2px ${p.theme.surround.tray},
          0 0 0 3.5px ${p.theme.surround.soft};
      }
    `}
  &[data-focus-visible] {
    outline-offset: 1px;
    border-radius: 8px;
    outline-color: ${(p) => p.theme.surround.ink};
  }
`;
const Bring = styled.span`
  display: grid;
  place-items: center;
  width: 54px;
  height: 54px;
  border-radius: 50%;
  border: 1.5px dashed ${(p) => p.theme.surround.soft};
`;

const Seat = styled.span`
  position: relative;
  border-radius: 50%;
`;
/** How many times what is allowed: drawn, as the button's name says it in words. */
const Fails = styled.span`
  &[data-times]::after {
    content: attr(data-times);
  }
  position: absolute;
  right: -7px;
  top: -3px;
  padding: 0 4px;
  border-radius: 7px;
  font-size: 10px;
  line-height: 14px;
  font-variant-numeric: tabular-nums;
  background: ${(p) => p.theme.tokens.ink};
  color: ${(p) => p.theme.tokens.glaze};
`;
const PinMark = styled(Fails)`
  display: grid;
  place-items: center;
  padding: 2px;
  svg {
    width: 11px;
    height: 11px;
  }
`;

/** The picture that is pinned: beside the one in view, or no more. */
function Pinned({ reference }: { reference: Reference }) {
  const { view } = useBench();
  const isBeside = useViewPart((one) => one.against === "reference" && one.mode === "beside");
  return (
    <Item
      $watched={isBeside}
      aria-label={`Pinned: ${reference.name}`}
      aria-pressed={isBeside}
      onPress={() => view.set(isBeside ? { mode: "single" } : { mode: "beside", against: "reference" })}
    >
      <Seat title={`${reference.name}. Shift R takes it off.`}>
        <Disc $size={54} style={{ backgroundImage: `url(${discOf(reference.picture, "")})` }} />
        <PinMark aria-hidden>
          <Pin />
        </PinMark>
      </Seat>
      <span>{reference.name}</span>
    </Item>
  );
}

interface Props {
  /** Those of the chosen set, in the order of the discs. */
  readonly pictures: readonly Picture[];
  readonly chosen: Picture | undefined;
  readonly frames: Frames;
  /** null where the person may not. */
  readonly onBring: (() => void) | null;
}

/** The test pictures as discs, each through the look as it stands. */
export const Tray = memo(function Tray({ pictures, chosen, frames, onBring }: Props) {
  const { view } = useBench();
  const watched = useViewPart((one) => one.watched);
  const discs = useReading(frames.reader, (readings) => readings.discs);
  const failings = useReading(frames.reader, (readings) => readings.failings);
  const worstFirst = useViewPart((one) => one.worstFirst);
  const reference = useViewPart((one) => one.reference);
  const failed = pictures.filter((one) => (failings.get(one.id)?.length ?? 0) > 0).length;
  const places = new Map(pictures.map((one, index) => [one.id, index]));
  const shown = worstFirst ? byFailings(pictures, failings) : pictures;
  const [several, setSeveral] = useState(watched.length > 0);
  // One that was brought in, or chosen by its number, may lie beyond the edge.
  const row = useRef<HTMLDivElement>(null);
  const inView = chosen?.id;
  useEffect(() => {
    if (inView === undefined) return;
    row.current?.querySelector("[aria-current]")?.scrollIntoView({ inline: "nearest", block: "nearest" });
  }, [inView, pictures.length]);
  const press = (picture: Picture, adding: boolean) => (adding ? view.watch(picture.id) : view.choose(picture.id));
  return (
    <Root aria-label="Test pictures">
      <Choices>
        <SetMenu pictures={pictures} />
        <Hint text="Up to four pictures side by side: press their discs, or Shift and a number">
          <Pill
            isSelected={several || watched.length > 0}
            onChange={(on) => {
              setSeveral(on);
              if (!on) view.set({ watched: [] });
            }}
          >
            <Columns2 aria-hidden />
            Several
          </Pill>
        </Hint>
        <Hint text="Where it clips, crushes, merges tones, or turns skin beyond what Marks allows">
          <Pill isSelected={worstFirst} onChange={(on) => view.set({ worstFirst: on })}>
            <ArrowDownWideNarrow aria-hidden />
            {failed > 0 ? `Fails on ${failed}` : "Worst first"}
          </Pill>
        </Hint>
      </Choices>
      <Discs ref={row}>
        {reference && <Pinned reference={reference} />}
        {shown.map((picture) => {
          const index = places.get(picture.id) ?? 0;
          const fails = failings.get(picture.id) ?? [];
          const on = picture.id === chosen?.id;
          const beside = watched.includes(picture.id);
          const place = pictures.length > 1 ? (index / (pictures.length - 1)) * 100 : 0;
          const look = discs
            ? {
                backgroundImage: `url(${discs})`,
                backgroundSize: `100% ${pictures.length * 100}%`,
                backgroundPosition: `0 ${place}%`,
              }
            : { backgroundImage: `url(${discOf(picture.id, picture.state)})` };
          return (
            <Item
              key={picture.id}
              $watched={beside}
              aria-current={on || undefined}
              aria-label={[picture.name, beside ? "beside" : "", fails[0] ? `fails: ${fails[0].words}` : ""]
                .filter(Boolean)
                .join(", ")}
              onPress={(event) => press(picture, several || event.shiftKey)}
            >
              <Seat
                title={
                  fails.map((one) => `${one.words}${one.title ? `, by ${one.title}` : ""}`).join("\n") || undefined
                }
              >
                <Disc $size={54} $on={on} style={look} />
                {fails.length > 0 && (
                  <Fails aria-hidden data-times={`${Math.min(99, Math.round(fails[0]?.times ?? 1))}×`} />
                )}
              </Seat>
              <span>{picture.name}</span>
            </Item>
          );
        })}
      </Discs>
      {onBring && (
        <Item $watched={false} onPress={onBring} aria-label="Bring in a picture">
          <Bring>
            <Plus size={20} aria-hidden />
          </Bring>
          <span>Bring in</span>
        </Item>
      )}
    </Root>
  );
});
