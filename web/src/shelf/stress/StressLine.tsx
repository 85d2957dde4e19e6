import { Link } from "react-router";
import styled from "styled-components";
import type { Picture, StressBreak } from "../../api/types";
import { measures } from "../../look/measures";

const Item = styled.li`
  display: grid;
  grid-template-columns: 168px minmax(0, 1fr);
  gap: 4px 16px;
  padding: 14px 0;
  border-bottom: 1px solid ${(p) => p.theme.tokens.hush};
  h3 {
    font-size: ${(p) => p.theme.tokens.size.text};
    font-weight: 600;
    span {
      font-weight: 400;
      color: ${(p) => p.theme.tokens.soft};
    }
  }
  p {
    margin: 3px 0 0;
    overflow-wrap: anywhere;
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
const Seen = styled.div`
  position: relative;
  align-self: start;
  img {
    display: block;
    width: 100%;
    aspect-ratio: 16 / 9;
    object-fit: fill;
  }
  i {
    position: absolute;
    border: 1.5px solid ${(p) => p.theme.tokens.onPicture};
    box-shadow:
      0 0 0 1px ${(p) => p.theme.tokens.pictureEdge},
      inset 0 0 0 1px ${(p) => p.theme.tokens.pictureEdge};
  }
`;
const None = styled.div`
  display: grid;
  place-content: center;
  aspect-ratio: 16 / 9;
  text-align: center;
  padding: 8px;
  color: ${(p) => p.theme.tokens.soft};
  background: ${(p) => p.theme.tokens.hush};
  font-size: ${(p) => p.theme.tokens.size.small};
`;

interface Props {
  readonly look: number;
  readonly version: number;
  readonly one: StressBreak;
  readonly picture: Picture | undefined;
  readonly mayTry: boolean;
}

/** One thing that breaks: the worst picture with the place framed, which step does it, and what would help. */
export function StressLine({ look, version, one, picture, mayTry }: Props) {
  const share = (value: number) => `${String(value * 100)}%`;
  return (
    <Item>
      {picture ? (
        <Seen>
          <img
            src={`/api/shelf/entries/${String(look)}/preview.jpg?picture=${String(picture.id)}&version=${String(version)}&state=${picture.state}`}
            alt={`${picture.name} through the look`}
            loading="lazy"
          />
          {one.place && (
            <i
              style={{
                left: share(one.place[0]),
                top: share(one.place[1]),
                width: share(one.place[2]),
                height: share(one.place[3]),
              }}
            />
          )}
        </Seen>
      ) : (
        <None>{one.on}</None>
      )}
      <div>
        <h3>
          {measures[one.what]?.name ?? one.what} <span>{one.times.toFixed(1)} times what it may be</span>
        </h3>
        <p>
          {one.words}, on <bdi>{one.on}</bdi>
          {one.failing > 1 && <> and {one.failing - 1} more</>}.
        </p>
        {one.title && (
          <p>
            <small>
              Least without <b>{one.title}</b>
            </small>
          </p>
        )}
        {one.remedy && mayTry && (
          <p>
            <Link
              to={`/bench/${String(look)}${picture ? `?picture=${String(picture.id)}` : ""}`}
              state={{ remedy: { ...one.remedy, id: one.id } }}
            >
              {one.remedy.words}: try it on the Bench
            </Link>
          </p>
        )}
        {one.remedy && !mayTry && <p>{one.remedy.words} would help.</p>}
        {!one.remedy && (
          <p>
            <small>Nothing that was tried by itself helps without harm elsewhere.</small>
          </p>
        )}
      </div>
    </Item>
  );
}
