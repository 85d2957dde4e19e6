import { useState } from "react";
import { characterOf, markOf, previewOf } from "../../api/shelf";
import styled from "styled-components";
import type { Entry, Picture } from "../../api/types";
import { Fingerprint } from "../../kit/Disc";
import { firstOf } from "../words";
import { oneLine } from "../../kit/oneLine";

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
    border-left: 1.5px solid ${(p) => p.theme.tokens.onPicture};
    box-shadow: 0 0 0 0.5px ${(p) => p.theme.tokens.pictureEdge};
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
  b,
  span {
    display: block;
    ${oneLine}
  }
  b {
    font-weight: 600;
  }
  span {
    color: ${(p) => p.theme.surround.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;

/** What an entry makes of a picture. Moving across wipes to the original. */
export function Preview({ entry, picture }: { entry: Entry; picture: Picture }) {
  const [wipe, setWipe] = useState<number | null>(null);
  return (
    <Image
      onPointerLeave={() => setWipe(null)}
      onPointerMove={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        setWipe(((event.clientX - box.left) / box.width) * 100);
      }}
    >
      <img src={previewOf(entry, picture)} alt={`${picture.name} through ${entry.name}`} draggable={false} />
      {wipe !== null && (
        <>
          <img
            src={`/api/pictures/${picture.id}/frame.png?${picture.state}-${picture.encoding}`}
            alt=""
            draggable={false}
            style={{ clipPath: `inset(0 ${100 - wipe}% 0 0)` }}
          />
          <i style={{ left: `${wipe}%` }} />
        </>
      )}
    </Image>
  );
}

/** An entry on the picture of choice. */
export function Card({ entry, picture }: { entry: Entry; picture: Picture | undefined }) {
  const first = firstOf(entry);
  return (
    <>
      <div style={{ position: "relative" }}>
        {picture ? <Preview entry={entry} picture={picture} /> : <Image />}
        <Mark data-mark $size={52} src={markOf(entry)} alt="" />
      </div>
      <Words>
        <b title={entry.name}>{entry.name}</b>
        <span>
          {first && `${first} · `}
          {entry.detail}
        </span>
        <span title={characterOf(entry)}>{characterOf(entry) || entry.by}</span>
      </Words>
    </>
  );
}
