import { Check, MessageSquare, Play, TriangleAlert } from "lucide-react";
import { useMemo } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Shot } from "../../api/types";
import { CardPicture } from "../cards/CardPicture";
import { howOf, type How } from "./choosing";
import { oneLine } from "../../kit/oneLine";
import { named } from "../../look/named";
import type { Putting } from "./useGrading";

const Root = styled.button`
  display: block;
  width: 100%;
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  text-align: left;
  cursor: pointer;
  outline-offset: 3px;
  &[aria-pressed="true"] {
    outline: 2px solid ${(p) => p.theme.tokens.accent};
  }
  &:focus-visible {
    outline: 2px solid ${(p) => p.theme.surround.ink};
  }
  > span:not(:first-child) {
    display: flex;
    align-items: center;
    gap: 4px;
    padding-top: 4px;
  }
  b,
  small {
    ${oneLine}
  }
  b {
    font-weight: 600;
    flex: 1;
  }
  small {
    display: block;
    color: ${(p) => p.theme.surround.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
  svg {
    width: 14px;
    height: 14px;
    flex: none;
  }
`;

const Card = styled.div`
  position: relative;
  min-width: 0;
`;
const Open = styled(Link)`
  position: absolute;
  top: 6px;
  right: 6px;
  padding: 2px 10px;
  border-radius: 11px;
  font-size: ${(p) => p.theme.tokens.size.small};
  background: ${(p) => p.theme.surround.pill};
  color: ${(p) => p.theme.surround.pillInk};
  text-decoration: none;
  opacity: 0;
  ${Card}:hover &,
  &:focus-visible {
    opacity: 1;
  }
`;

/** What lies on a shot, in words. */
export function wordsOn(shot: Shot): string {
  return shot.layers
    .filter((one) => one.enabled)
    .map(({ name, member, version, strength, newer, lost }) => {
      if (version === null) return "trimmed";
      const part = strength === 1 ? "" : ` at ${String(Math.round(strength * 100))} %`;
      const offered = newer === null ? "" : `; version ${String(newer)} is there`;
      const without = lost === null ? "" : `; version ${String(lost)} has no ${member}`;
      return `${named(name, member)}, version ${String(version)}${part}${offered}${without}`;
    })
    .join(" + ");
}

/** The same with the versions that are looked at in place of those that are pinned. */
function wordsOnNewest(shot: Shot): string {
  return shot.layers
    .filter((one) => one.enabled && one.version !== null)
    .map(
      ({ name, member, version, newer }) =>
        `${named(name, member)}, version ${String(newer ?? version)}${newer === null ? "" : ", seen"}`,
    )
    .join(" + ");
}

interface Props {
  readonly project: number;
  readonly shot: Shot;
  /** Tried on it, in place of the look that lies there unless it is to be stacked. */
  readonly tried: Putting | null;
  readonly stack: boolean;
  /** Through the newest versions of what lies on it, in place of those that are pinned. */
  readonly newest: boolean;
  readonly isChosen: boolean;
  /** How many guests say what; empty where none does. */
  readonly guests: string;
  readonly onChoose: (how: How) => void;
}

/** A shot as it looks now, or would. */
export function ShotCard({ project, shot, tried, stack, newest, isChosen, guests, onChoose }: Props) {
  const isNewer = newest && shot.layers.some((one) => one.newer !== null);
  const trying = tried?.id ?? null;
  const member = tried?.member ?? "";
  const seen = useMemo(
    () => ({ newest: isNewer, trying, member, stack: trying !== null && stack }),
    [isNewer, trying, member, stack],
  );
  const words = tried ? `${named(tried.name, member)}, tried` : isNewer ? wordsOnNewest(shot) : wordsOn(shot);
  return (
    <Card data-shot={shot.id}>
      <Root
        type="button"
        aria-pressed={isChosen}
        title={shot.note || undefined}
        onClick={(event) => onChoose(howOf(event))}
      >
        <CardPicture shot={shot} seen={seen} />
        <span>
          <b>{shot.code}</b>
          {shot.moving && <Play role="img" aria-label={`${String((shot.last ?? 0) - (shot.first ?? 0) + 1)} frames`} />}
          {shot.notes > 0 && <MessageSquare role="img" aria-label={`${String(shot.notes)} notes`} />}
          {shot.approved && <Check role="img" aria-label="approved" />}
        </span>{" "}
        <small>{words || "No look"}</small>
        {guests && <small>Guests: {guests}</small>}
        {shot.misfits.length > 0 && (
          <small>
            <TriangleAlert aria-hidden /> {shot.misfits.join("; ")}
          </small>
        )}
      </Root>
      <Open to={`/projects/${String(project)}/shots/${String(shot.id)}`} aria-label={`Open ${shot.code}`}>
        Open
      </Open>
    </Card>
  );
}
