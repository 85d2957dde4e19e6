import { useState, type CSSProperties } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Entry, Picture } from "../../api/types";
import { Fingerprint } from "../../kit/Disc";

const Root = styled.li`
  min-width: 0;
  a {
    color: inherit;
    display: block;
    border-radius: 3px;
  }
`;
const Image = styled.div`
  position: relative;
  aspect-ratio: 16 / 9;
  background: ${(p) => p.theme.surround.tray};
  & > img:not([data-mark]) {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    object-fit: cover;
    display: block;
  }
  i {
    position: absolute;
    top: 0;
    bottom: 0;
    width: 0;
    border-left: 1.5px solid #fcfcfc;
    box-shadow: 0 0 0 0.5px rgb(0 0 0 / 30%);
  }
`;
const Mark = styled(Fingerprint)`
  position: absolute;
  right: 8px;
  bottom: -20px;
  background: ${(p) => p.theme.surround.field};
  padding: 3px;
`;
const Words = styled.div`
  padding: 7px 64px 0 0;
  b {
    display: block;
    font-weight: 600;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  span {
    display: block;
    color: ${(p) => p.theme.surround.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

interface Props {
  readonly entry: Entry;
  readonly picture: Picture | undefined;
  /** Which of how many it is, counted from 1. */
  readonly place: number;
  readonly total: number;
  readonly style: CSSProperties;
}

/** An entry on the picture of choice. Moving across wipes to the original. */
export function Card({ entry, picture, place, total, style }: Props) {
  const [wipe, setWipe] = useState<number | null>(null);
  const preview =
    picture &&
    `/api/shelf/entries/${String(entry.id)}/preview.jpg?picture=${picture.id}&state=${entry.state}-${picture.state}`;
  return (
    <Root style={style} aria-posinset={place} aria-setsize={total}>
      <Link to={`/shelf/${entry.kind}/${entry.id}`}>
        <Image
          onPointerLeave={() => setWipe(null)}
          onPointerMove={(event) => {
            const box = event.currentTarget.getBoundingClientRect();
            setWipe(((event.clientX - box.left) / box.width) * 100);
          }}
        >
          {preview && <img src={preview} alt={`${picture.name} through ${entry.name}`} loading="lazy" />}
          {picture && wipe !== null && (
            <>
              <img
                src={`/api/pictures/${picture.id}/frame.png?${picture.state}-${picture.encoding}`}
                alt=""
                style={{ clipPath: `inset(0 ${100 - wipe}% 0 0)` }}
              />
              <i style={{ left: `${wipe}%` }} />
            </>
          )}
          <Mark
            data-mark
            $size={52}
            src={`/api/${entry.kind}s/${entry.id}/fingerprint.png?state=${entry.state}`}
            alt=""
            loading="lazy"
          />
        </Image>
        <Words>
          <b title={entry.name}>{entry.name}</b>
          <span>{entry.detail}</span>
          <span>{entry.by}</span>
        </Words>
      </Link>
    </Root>
  );
}
