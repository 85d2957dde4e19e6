import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { characterOf, firstEntries } from "../../api/shelf";
import type { Shot } from "../../api/types";
import { Star } from "../../entries/Star";
import { WithinPicker } from "../../entries/WithinPicker";
import { EVERYWHERE, narrowed } from "../../entries/within";
import { oneLine } from "../../kit/oneLine";
import { TextBox } from "../../kit/TextBox";
import { ThroughEntry } from "../cards/ThroughEntry";
import { named } from "../../look/named";
import { canBePut } from "../chain/parts";
import type { Putting } from "./useGrading";

const Row = styled.div`
  display: flex;
  align-items: flex-start;
  gap: 14px;
  min-width: 0;
  flex: 1 0 100%;
  order: -1;
`;
const Find = styled.div`
  width: 190px;
  flex: none;
  display: grid;
  gap: 5px;
  small {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Looks = styled.div`
  display: flex;
  gap: 10px;
  flex: 1;
  min-width: 0;
  overflow-x: auto;
  padding: 3px 3px 6px;
`;
const Tile = styled.div`
  position: relative;
  flex: none;
  width: 104px;
  > button:first-child {
    display: block;
    width: 100%;
    border: 0;
    padding: 0;
    background: none;
    color: inherit;
    text-align: left;
    cursor: pointer;
    outline-offset: 2px;
  }
  b {
    display: block;
    padding-top: 3px;
    font-weight: 400;
    font-size: ${(p) => p.theme.tokens.size.small};
    ${oneLine}
  }
  &[data-tried] b {
    font-weight: 600;
  }
  &[data-tried] > button:first-child > span {
    outline: 2px solid ${(p) => p.theme.tokens.accent};
  }
`;
const Starred = styled(Star)`
  position: absolute;
  top: 4px;
  right: 4px;
  opacity: 0;
  &[data-selected],
  &[data-focus-visible],
  ${Tile}:hover & {
    opacity: 1;
  }
`;
const LISTED = 36;

interface Props {
  /** The first that is chosen: what each look is shown on. */
  readonly shot: Shot | undefined;
  /** On how many it will be put, in words. */
  readonly reach: string;
  readonly tried: Putting | null;
  readonly stack: boolean;
  readonly onTry: (one: Putting | null) => void;
  readonly onPut: (one: Putting) => void;
}

/** Looks to be tried on what is chosen, each on its first shot: pointing tries, a press leaves it there, leaving leaves no trace. */
export function LookTray({ shot, reach, tried, stack, onTry, onPut }: Props) {
  const [search, setSearch] = useState("");
  const [within, setWithin] = useState(EVERYWHERE);
  const wanted = { search, kinds: ["look", "lut", "preset"], order: "mine", ...narrowed(within) } as const;
  const { data } = useQuery(firstEntries(wanted, LISTED));
  const entries = (data?.entries ?? []).filter(canBePut);
  const each = entries.flatMap((entry) => ["", ...entry.family].map((member) => ({ entry, member })));
  return (
    <Row>
      <Find>
        <TextBox
          label="Find a look"
          hideLabel
          type="search"
          value={search}
          onChange={setSearch}
          placeholder="A name, or what it does"
        />
        <WithinPicker value={within} onChange={setWithin} />
        <small>A press puts it on {reach}</small>
      </Find>
      <Looks role="group" aria-label="Looks to try" onPointerLeave={() => onTry(null)}>
        {data && entries.length === 0 && <small>Nothing of that name there, and nothing that does it.</small>}
        {each.map(({ entry, member }) => {
          const name = named(entry.name, member);
          const one = { id: entry.id, name: entry.name, member };
          const isTried = tried?.id === entry.id && tried.member === member;
          return (
            <Tile key={`${String(entry.id)} ${member}`} {...(isTried ? { "data-tried": true } : {})}>
              <button
                type="button"
                aria-label={name}
                title={[name, member ? "" : characterOf(entry)].filter(Boolean).join(": ")}
                onPointerEnter={() => onTry(one)}
                onFocus={() => onTry(one)}
                onBlur={() => onTry(null)}
                onKeyDown={(event) => {
                  if (event.key === "Escape") onTry(null);
                }}
                onClick={() => onPut(one)}
              >
                {shot && <ThroughEntry shot={shot} entry={entry.id} member={member} stack={stack} />}
                <b>{name}</b>
              </button>
              {!member && <Starred entry={entry} onPicture />}
            </Tile>
          );
        })}
      </Looks>
    </Row>
  );
}
