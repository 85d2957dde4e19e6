import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link, useNavigate } from "react-router";
import { createPortal } from "react-dom";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { useMakeLook } from "../api/looks";
import { markOf, previewOf } from "../api/shelf";
import { session, useMay } from "../api/session";
import { start as startQuery } from "../api/start";
import type { Entry, Picture, Start } from "../api/types";
import { placeOf, usePlace } from "../browser/place";
import { Star } from "../entries/Star";
import { useTopSlot } from "../frame/TopBar";
import { Primary } from "../kit/Button";
import { Fingerprint } from "../kit/Disc";
import { Notice } from "../kit/Notice";
import { oneLine } from "../kit/oneLine";
import { since } from "../kit/since";
import { ProjectRow } from "../media/ProjectRow";
import { usePictureChoice } from "../media/usePictureChoice";
import { Waits } from "./Waits";

const Page = styled.main`
  overflow-y: auto;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 316px;
  align-content: start;
  min-height: 0;
  height: 100%;
  background: ${(p) => p.theme.tokens.paper};
  h2 {
    display: flex;
    align-items: baseline;
    gap: 12px;
    font-weight: 600;
    font-size: ${(p) => p.theme.tokens.size.title};
    margin-bottom: 10px;
    a {
      font-size: ${(p) => p.theme.tokens.size.small};
      font-weight: 400;
    }
  }
`;
const Main = styled.div`
  display: grid;
  gap: 26px;
  align-content: start;
  padding: 20px 26px 40px;
  min-width: 0;
`;
const Side = styled.aside`
  display: grid;
  gap: 26px;
  align-content: start;
  margin: 20px 0 40px;
  padding: 0 26px 0 24px;
  border-left: 1px solid ${(p) => p.theme.tokens.line};
  min-width: 0;
  min-height: calc(100vh - ${(p) => p.theme.tokens.top} - 60px);
`;
const Tiles = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: minmax(0, 2fr) repeat(2, minmax(0, 1fr));
  gap: 16px 14px;
  align-items: start;
  li:first-child {
    grid-row: 1 / span 2;
  }
`;
const News = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 12px 10px;
`;
const Tile = styled.div`
  position: relative;
  > a {
    display: block;
    color: inherit;
    border-radius: 3px;
  }
  b,
  small {
    display: block;
    ${oneLine}
  }
  b {
    font-weight: 600;
    padding-right: 44px;
  }
  small {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Image = styled.span`
  position: relative;
  display: block;
  aspect-ratio: 16 / 9;
  margin-bottom: 6px;
  background: ${(p) => p.theme.tokens.hush};
  > img:first-child {
    width: 100%;
    height: 100%;
    object-fit: cover;
    display: block;
  }
`;
const Mark = styled(Fingerprint)`
  position: absolute;
  right: 8px;
  bottom: -14px;
  padding: 2px;
  background: ${(p) => p.theme.tokens.paper};
`;
const Starred = styled(Star)`
  position: absolute;
  top: 8px;
  left: 8px;
  z-index: 1;
  opacity: 0;
  &[data-selected],
  &[data-focus-visible],
  *:hover > & {
    opacity: 1;
  }
`;
const Rows = styled.div`
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  &:empty {
    display: none;
  }
`;
const Nothing = styled.div`
  display: grid;
  justify-items: start;
  gap: 10px;
  color: ${(p) => p.theme.tokens.soft};
`;

/** An entry as a picture that leads to it. */
function EntryTile({
  entry,
  picture,
  to,
  words,
  size = 38,
}: {
  entry: Entry;
  picture: Picture | undefined;
  to: string;
  words?: ReactNode;
  size?: number;
}) {
  return (
    <Tile>
      <Starred entry={entry} onPicture />
      <Link to={to}>
        <Image>
          {picture && <img src={previewOf(entry, picture)} alt="" draggable={false} />}
          {words !== undefined && <Mark $size={size} src={markOf(entry, 80)} alt="" />}
        </Image>
        <b title={entry.name}>{entry.name}</b>
        {words !== undefined && <small>{words}</small>}
      </Link>
    </Tile>
  );
}

function BoardTile({ board, pictures }: { board: Start["boards"][number]; pictures: readonly Picture[] }) {
  const picture = pictures.find((one) => one.id === board.picture);
  const said =
    board.said > 0
      ? `${String(board.said)} ${board.said === 1 ? "verdict is" : "verdicts are"} new`
      : since(board.changed);
  return (
    <Tile>
      <Link to={`/shelf/board/${String(board.id)}`}>
        <Image>
          {board.entry && picture ? (
            <img src={previewOf(board.entry, picture)} alt="" draggable={false} />
          ) : (
            picture && <img src={`/api/pictures/${picture.id}/frame.png?${picture.state}-${picture.encoding}`} alt="" />
          )}
        </Image>
        <b title={board.name}>{board.name}</b>
        <small>board · {said}</small>
      </Link>
    </Tile>
  );
}

const versionWords = (entry: Entry) => {
  const version = entry.detail.replace(/^Look, /, "");
  const state = entry.state === "draft" ? "" : ` · ${entry.state}`;
  return `${version}${state} · ${since(entry.at)}`;
};

/** One's own looks, boards and projects as pictures, what waits, and what is new from the others. */
export function StartPage() {
  const { data: here } = useQuery(session);
  const { data: found, error } = useQuery(startQuery);
  const { pictures, chosen } = usePictureChoice();
  const mayDesign = useMay("design");
  const make = useMakeLook();
  const navigate = useNavigate();
  const slot = useTopSlot();
  const place = usePlace(here?.person?.username ?? "");

  async function makeNew() {
    const made = await make.mutateAsync({ name: "Untitled look", steps: [] }).catch(() => null);
    if (made) await navigate(`/bench/${String(made.id)}`);
  }

  if (error)
    return (
      <Page>
        <Main>
          <Notice>{wordsFor(error)}</Notice>
        </Main>
      </Page>
    );
  if (!found) return <Page aria-busy />;
  const toBench = (entry: Entry) => (place?.look === entry.id ? placeOf(place) : `/bench/${String(entry.id)}`);
  const lastPicture = pictures.find(
    (one) => String(one.id) === new URLSearchParams(place?.search ?? "").get("picture"),
  );
  const nothing = found.looks.length + found.boards.length === 0;
  return (
    <Page>
      {slot && mayDesign && createPortal(<Primary onPress={() => void makeNew()}>New look</Primary>, slot)}
      <Main>
        <section aria-labelledby="go-on">
          <h2 id="go-on">{mayDesign || !nothing ? "Go on" : "Welcome"}</h2>
          {nothing && (
            <Nothing>
              {mayDesign ? (
                <>
                  <p>Looks that you make, and boards that you judge, stand here as pictures.</p>
                  <Primary onPress={() => void makeNew()}>Make the first look</Primary>
                </>
              ) : (
                <p>
                  Everything the team has made is on the <Link to="/shelf">Shelf</Link>, on the picture of your choice.
                </p>
              )}
            </Nothing>
          )}
          {make.error && <Notice>{wordsFor(make.error)}</Notice>}
          <Tiles>
            {found.looks.slice(0, 3).map((entry, at) => (
              <li key={entry.id}>
                <EntryTile
                  entry={entry}
                  picture={place?.look === entry.id ? (lastPicture ?? chosen) : chosen}
                  to={mayDesign ? toBench(entry) : `/shelf/look/${String(entry.id)}`}
                  words={versionWords(entry)}
                  size={at === 0 ? 56 : 38}
                />
              </li>
            ))}
            {found.boards.slice(0, found.looks.length > 3 ? 1 : 2).map((board) => (
              <li key={`board ${String(board.id)}`}>
                <BoardTile board={board} pictures={pictures} />
              </li>
            ))}
            {found.looks.slice(3, 4).map((entry) => (
              <li key={entry.id}>
                <EntryTile entry={entry} picture={chosen} to={toBench(entry)} words={versionWords(entry)} />
              </li>
            ))}
          </Tiles>
        </section>
        {(found.projects.length > 0 || found.all_projects > 0) && (
          <section aria-labelledby="projects">
            <h2 id="projects">
              Projects <Link to="/projects">All {found.all_projects}</Link>
            </h2>
            <Rows>
              {found.projects.map((one) => (
                <ProjectRow key={one.id} project={one} />
              ))}
            </Rows>
            {found.projects.length === 0 && <Nothing>You are in none of them yet.</Nothing>}
          </section>
        )}
      </Main>
      <Side>
        <Waits found={found} picture={chosen} />
        <section aria-labelledby="news">
          <h2 id="news">
            New from the team <Link to="/shelf?state=published">Shelf</Link>
          </h2>
          {found.news.length === 0 && <Nothing>Nothing was published by others within a month.</Nothing>}
          <News>
            {found.news.map((entry) => (
              <li key={entry.id}>
                <EntryTile entry={entry} picture={chosen} to={`/shelf/${entry.kind}/${String(entry.id)}`} />
              </li>
            ))}
          </News>
        </section>
      </Side>
    </Page>
  );
}
