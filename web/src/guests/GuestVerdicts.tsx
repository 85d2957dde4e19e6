import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import styled from "styled-components";
import { guestVerdicts, type SaidOf } from "../api/guests";
import { WordList } from "../kit/PlainList";
import type { GuestVerdict } from "../api/types";
import { wordOf } from "../kit/Verdict";

const List = styled(WordList)`
  a {
    text-decoration: underline;
    text-underline-offset: 2px;
  }
`;
const NONE: readonly GuestVerdict[] = [];

/** What guests say of something; null: of nothing that could be known. */
export function useGuestVerdicts(of: SaidOf | null): readonly GuestVerdict[] {
  const { data = NONE } = useQuery({ ...guestVerdicts(of ?? {}), enabled: of !== null });
  return data;
}

/** What guests say of one thing, the newest first. named: of several things, which are told apart */
export function GuestVerdicts({ of, named = false }: { of: SaidOf; named?: boolean }) {
  const said = useGuestVerdicts(of);
  if (said.length === 0) return null;
  return (
    <List aria-label="Guests">
      {said.map((one, index) => (
        <li key={index}>
          <span>
            <bdi>{one.by}</bdi>: {wordOf(one.choice)}
            {named && (
              <>
                , of <Link to={one.page}>{one.of}</Link>
              </>
            )}
          </span>
          <small>
            {one.at.slice(0, 10)}, by the link to {one.link}
            {one.earlier && "; said before it was last changed"}
          </small>
        </li>
      ))}
    </List>
  );
}
