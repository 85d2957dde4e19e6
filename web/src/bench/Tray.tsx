import { Plus } from "lucide-react";
import { memo, useEffect } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Picture } from "../api/types";
import { Disc } from "../kit/Disc";

const Root = styled.nav`
  display: flex; align-items: center; gap: 4px; padding: 9px 14px 5px; min-height: 92px; overflow-x: auto; background: ${(p) => p.theme.surround.tray}; color: ${(p) => p.theme.surround.soft}; border-top: 1px solid ${(p) => p.theme.surround.line};
`;
const Item = styled(Button)`
  display: grid; justify-items: center; gap: 6px; flex: 0 1 69px; min-width: 57px; padding-top: 4px !important; border: 0; padding: 0; background: none; color: inherit; cursor: pointer; font-size: 11px;
  span:last-child { max-width: 67px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  &[aria-current] { color: ${(p) => p.theme.surround.ink}; font-weight: 600; }
  &[data-focus-visible] { outline-offset: 4px; border-radius: 8px; outline-color: ${(p) => p.theme.surround.ink}; }
`;
const Bring = styled.span`
  display: grid; place-items: center; width: 54px; height: 54px; border-radius: 50%; border: 1.5px dashed ${(p) => p.theme.surround.soft};
`;

interface Props {
  readonly pictures: readonly Picture[];
  readonly chosen: Picture | undefined;
  readonly onChoose: (picture: Picture) => void;
  readonly onBring: () => void;
  /** One picture with every disc, one below the other, in the order of `pictures`. */
  readonly discs: string | null;
}

/** The test pictures as discs, each through the look as it stands. */
export const Tray = memo(function Tray({ pictures, chosen, onChoose, onBring, discs }: Props) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.closest("input, textarea, [role='dialog'], [role='slider']") !== null;
      const picture = /^[1-9]$/.test(event.key) ? pictures[Number(event.key) - 1] : undefined;
      if (!typing && picture && !event.ctrlKey && !event.metaKey && !event.altKey) onChoose(picture);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [pictures, onChoose]);

  return (
    <Root aria-label="Test pictures">
      {pictures.map((picture, index) => {
        const on = picture.id === chosen?.id;
        const place = pictures.length > 1 ? (index / (pictures.length - 1)) * 100 : 0;
        const look = discs
          ? { backgroundImage: `url(${discs})`, backgroundSize: `100% ${pictures.length * 100}%`, backgroundPosition: `0 ${place}%` }
          : { backgroundImage: `url(/api/pictures/${picture.id}/disc.jpg?${picture.state})` };
        return (
          <Item key={picture.id} aria-current={on || undefined} onPress={() => onChoose(picture)} aria-label={picture.name}>
            <Disc $size={54} $on={on} style={look} />
            <span>{picture.name}</span>
          </Item>
        );
      })}
      <Item onPress={onBring} aria-label="Bring in a picture">
        <Bring><Plus size={20} aria-hidden /></Bring>
        <span>Bring in</span>
      </Item>
    </Root>
  );
});
