import { createContext, useContext, useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import { fetchPreviews, type CardSeen } from "../../api/projects";
import type { Shot } from "../../api/types";
import { Cards } from "./cards";

const Frame = styled.span`
  position: relative;
  display: grid;
  place-items: center;
  width: 100%;
  aspect-ratio: 16 / 9;
  background: ${(p) => p.theme.surround.tray};
  color: ${(p) => p.theme.surround.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
  overflow: hidden;
  /* Out of the grid: a row of it would grow to the height of a portrait, and cut it. */
  img {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    object-fit: contain;
  }
`;
const Context = createContext<Cards<CardSeen> | null>(null);
/** Pixels: cards so far outside of what is seen are asked for already. */
const AHEAD = 500;

/** The pictures of all cards in it are asked for together. */
export function CardsOf({ project, children }: { project: number; children: React.ReactNode }) {
  const [cards] = useState(
    () => new Cards<CardSeen>((shots, seen, signal) => fetchPreviews(project, shots, seen, signal)),
  );
  useEffect(() => {
    cards.open();
    return () => cards.close();
  }, [cards]);
  return <Context.Provider value={cards}>{children}</Context.Provider>;
}

/** A shot as it is seen. What was seen before stays until the new picture is there. */
export function CardPicture({ shot, seen }: { shot: Shot; seen: CardSeen }) {
  const cards = useContext(Context);
  const frame = useRef<HTMLSpanElement>(null);
  const [isNear, setNear] = useState(false);
  const [shown, setShown] = useState<string | null | undefined>(undefined);
  const key = useMemo(() => `${String(shot.id)}/${shot.shows}/${JSON.stringify(seen)}`, [shot.id, shot.shows, seen]);
  useEffect(() => {
    const observer = new IntersectionObserver(([entry]) => setNear(entry?.isIntersecting ?? false), {
      rootMargin: `${String(AHEAD)}px`,
    });
    if (frame.current) observer.observe(frame.current);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    if (cards && isNear) return cards.ask(shot.id, seen, key, setShown);
    return undefined;
  }, [cards, isNear, shot.id, seen, key]);
  return (
    <Frame ref={frame}>
      {shown === null ? "Cannot be shown" : shown && <img src={shown} alt="" draggable={false} />}
    </Frame>
  );
}
