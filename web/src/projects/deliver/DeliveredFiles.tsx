import { useMemo } from "react";
import styled from "styled-components";
import { deliveredPicture, type Delivery } from "../../api/projects";
import { oneLine } from "../../kit/oneLine";
import { PlainList } from "../../kit/PlainList";
import { byShot } from "./byShot";
import { sizeOf } from "../../kit/amounts";

const Shots = styled(PlainList)`
  display: grid;
  > li {
    display: grid;
    grid-template-columns: 148px 150px minmax(0, 1fr);
    gap: 18px;
    align-items: start;
    padding: 10px 0;
    border-top: 1px solid ${(p) => p.theme.tokens.line};
  }
  img {
    display: block;
    width: 148px;
    aspect-ratio: 16 / 9;
    object-fit: contain;
    background: ${(p) => p.theme.tokens.hush};
    border-radius: 3px;
  }
  b {
    font-weight: 500;
    ${oneLine}
  }
`;
const Files = styled(PlainList)`
  display: grid;
  gap: 3px;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 92px 104px;
    gap: 14px;
    overflow-wrap: anywhere;
  }
  code,
  small {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
    white-space: nowrap;
  }
`;
/** Of one shot: a sequence has thousands. */
const MOST_FILES = 8;
const MOST_SHOTS = 300;

interface Props {
  readonly at: string;
  readonly project: number;
  readonly delivery: Delivery;
  readonly mayTake: boolean;
}

/** What is in a delivery, shot by shot with its picture as it left, then the lists. */
export function DeliveredFiles({ at, project, delivery, mayTake }: Props) {
  const shots = useMemo(() => byShot(delivery.items), [delivery.items]);
  return (
    <>
      <Shots aria-label="Files">
        {shots.slice(0, MOST_SHOTS).map(({ place, name, files }) => (
          <li key={`${String(place)} ${name}`}>
            {place === null ? (
              <span />
            ) : (
              <img src={deliveredPicture(project, delivery.number, place)} alt="" loading="lazy" />
            )}
            <b title={name}>
              <bdi>{name || "Lists"}</bdi>
            </b>
            <Files aria-label={`Files of ${name || "the whole"}`}>
              {files.slice(0, MOST_FILES).map((one) => (
                <li key={one.id}>
                  {one.sha256 && mayTake ? (
                    <a href={`${at}/files/${String(one.id)}`} download>
                      {one.file_name}
                    </a>
                  ) : (
                    <span>{one.file_name}</span>
                  )}
                  <small>{one.sha256 ? sizeOf(one.bytes) : "not made yet"}</small>
                  <code title={one.sha256 && `SHA-256 ${one.sha256}`}>{one.sha256.slice(0, 12)}</code>
                </li>
              ))}
              {files.length > MOST_FILES && <li>and {files.length - MOST_FILES} more</li>}
            </Files>
          </li>
        ))}
      </Shots>
      {shots.length > MOST_SHOTS && <p>and {shots.length - MOST_SHOTS} more shots; the report names them all.</p>}
    </>
  );
}
