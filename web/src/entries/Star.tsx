import { Star as StarMark } from "lucide-react";
import type { SyntheticEvent } from "react";
import { ToggleButton } from "react-aria-components";
import styled, { css } from "styled-components";
import { useMarkFavourite } from "../api/shelf";
import type { Kind } from "../api/types";
import { Unseen } from "../kit/Unseen";

const Root = styled(ToggleButton)<{ $onPicture: boolean }>`
  display: grid;
  place-items: center;
  width: 24px;
  height: 24px;
  padding: 0;
  flex: none;
  border: 0;
  border-radius: 50%;
  background: none;
  color: inherit;
  cursor: pointer;
  svg {
    width: 15px;
    height: 15px;
  }
  &[data-selected] svg {
    fill: currentColor;
  }
  ${(p) =>
    p.$onPicture &&
    css`
      background: ${p.theme.tokens.pictureVeil};
      color: ${p.theme.tokens.onPicture};
    `}
`;

interface Starred {
  readonly kind: Kind;
  readonly id: number;
  readonly name: string;
  readonly favourite: boolean;
}

/** One's own mark on a look, LUT or preset: what has it comes first wherever something is chosen. */
export function Star({
  entry,
  onPicture = false,
  className = "",
}: {
  entry: Starred;
  onPicture?: boolean;
  className?: string;
}) {
  const mark = useMarkFavourite();
  // What was pressed is shown at once, and is taken back where it could not be kept.
  const isOn = mark.isPending ? mark.variables.favourite : entry.favourite;
  return (
    <Root
      $onPicture={onPicture}
      className={className}
      aria-label={`Star ${entry.name}`}
      isSelected={isOn}
      onChange={(favourite) => mark.mutate({ kind: entry.kind, id: entry.id, name: entry.name, favourite })}
    >
      <StarMark aria-hidden />
    </Root>
  );
}

const Glyph = styled.span`
  display: grid;
  place-items: center;
  width: 24px;
  height: 24px;
  border-radius: 50%;
  opacity: 0;
  svg {
    width: 14px;
    height: 14px;
  }
  &[data-on] {
    opacity: 1;
    svg {
      fill: currentColor;
    }
  }
  [data-hovered] > &,
  [data-focused] > & {
    opacity: 1;
  }
`;

const swallow = (event: SyntheticEvent) => event.stopPropagation();

/** A star in a list of which one is chosen: an option holds no button, so it is for the pointer; who types has a key for it, and hears the state. */
export function StarInOption({ entry }: { entry: Starred }) {
  const mark = useMarkFavourite();
  const isOn = mark.isPending ? mark.variables.favourite : entry.favourite;
  return (
    <>
      <Glyph
        aria-hidden
        data-testid="star"
        {...(isOn ? { "data-on": true } : {})}
        onPointerDown={swallow}
        onPointerUp={swallow}
        onMouseDown={swallow}
        onClick={(event) => {
          event.stopPropagation();
          mark.mutate({ kind: entry.kind, id: entry.id, name: entry.name, favourite: !entry.favourite });
        }}
      >
        <StarMark />
      </Glyph>
      {isOn && <Unseen>starred</Unseen>}
    </>
  );
}
