import { useMemo } from "react";
import styled from "styled-components";
import type { Look, Picture, Towards } from "../../api/types";
import { withoutMarks } from "../../kit/PlainList";
import type { Candidate } from "../add/candidates";
import { TriedDisc } from "../add/TriedDisc";
import { useTries } from "../add/useTries";

const List = styled.ul`
  ${withoutMarks}
  display: grid;
  gap: 4px;
  button {
    display: grid;
    grid-template-columns: 56px minmax(0, 1fr);
    gap: 12px;
    width: 100%;
    padding: 8px;
    text-align: left;
    border: 0;
    border-radius: 8px;
    background: none;
    cursor: pointer;
    color: inherit;
  }
  button:hover,
  button:focus-visible {
    background: ${(p) => p.theme.tokens.accentWash};
  }
  button:focus-visible {
    outline: 2px solid ${(p) => p.theme.tokens.ink};
  }
  b {
    font-weight: 600;
  }
  small {
    display: block;
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
    line-height: 1.4;
  }
`;
const None = styled.p`
  margin: 0;
  color: ${(p) => p.theme.tokens.soft};
`;

interface Props {
  readonly found: readonly Towards[];
  readonly picture: Picture | undefined;
  readonly reference: { readonly name: string };
  readonly onTry: (one: Towards | null) => void;
  readonly onKeep: (one: Towards) => void;
}

const idOf = (one: Towards): string => one.what;

/** Each as a disc of the picture, with what it takes from the reference; pointed at, it is tried on the picture in view. */
export function Proposals({ found, picture, reference, onTry, onKeep }: Props) {
  const candidates = useMemo(() => found.map((one) => ({ id: idOf(one), name: one.title }) as Candidate), [found]);
  const lookOf = useMemo(() => {
    const looks = new Map(found.map((one): [string, Look] => [idOf(one), one.look]));
    return (one: Candidate): Look => looks.get(one.id) ?? {};
  }, [found]);
  const tiles = useTries(candidates, lookOf, picture?.id);
  if (found.length === 0) return <None>Nothing brings it nearer to {reference.name}: it is there already.</None>;
  return (
    <List aria-label="Proposals" onPointerLeave={() => onTry(null)}>
      {found.map((one) => (
        <li key={one.what}>
          <button
            type="button"
            onPointerEnter={() => onTry(one)}
            onFocus={() => onTry(one)}
            onBlur={() => onTry(null)}
            onClick={() => onKeep(one)}
          >
            <TriedDisc tile={tiles.get(idOf(one))} size={52} />
            <span>
              <b>{one.title}</b>
              <small>
                {Math.round(one.gone * 100)} % of the way
                {Math.abs(one.skin) >= 1 && `, skin turns by ${one.skin.toFixed(0)}\u00b0`}
              </small>
              {one.words.map((line) => (
                <small key={line}>{line}</small>
              ))}
            </span>
          </button>
        </li>
      ))}
    </List>
  );
}
