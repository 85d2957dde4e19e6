/** What stands under one's own name: oneself, and for those who run the studio what there is to run. */
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { NavLink } from "react-router";
import styled from "styled-components";
import { session, useMay } from "../api/session";
import { Well } from "./running/Well";

const Root = styled.div`
  display: grid;
  grid-template-columns: 214px minmax(0, 1fr);
  min-height: 0;
`;
const Side = styled.nav`
  overflow-y: auto;
  padding: 20px 18px;
  background: ${(p) => p.theme.tokens.glaze};
  border-right: 1px solid ${(p) => p.theme.tokens.line};
  display: grid;
  gap: 2px;
  align-content: start;
  h2 {
    font-size: ${(p) => p.theme.tokens.size.small};
    font-weight: 500;
    color: ${(p) => p.theme.tokens.soft};
    margin: 14px 0 4px;
    &:first-child {
      margin-top: 0;
    }
  }
  a {
    padding: 4px 8px;
    margin-left: -8px;
    border-radius: ${(p) => p.theme.tokens.radius.field};
    color: inherit;
    overflow-wrap: anywhere;
  }
  a:hover {
    background: ${(p) => p.theme.tokens.hush};
  }
  a.active {
    font-weight: 600;
    background: ${(p) => p.theme.tokens.accentWash};
  }
`;
/** The middle of a room: words and fields, or a table. */
export const Room = styled.main`
  overflow-y: auto;
  padding: 18px 24px 48px;
  min-width: 0;
  background: ${(p) => p.theme.tokens.paper};
  h1 {
    font-size: 17px;
    font-weight: 600;
  }
`;
/** The title of a room, what it is for, and what can be begun in it. */
export const RoomHead = styled.header`
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 32px;
  margin-bottom: 10px;
  > p {
    margin-left: auto;
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
/** A part of a room, under a line. */
export const Part = styled.section`
  max-width: 660px;
  padding: 16px 0 18px;
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  display: grid;
  gap: 12px;
  justify-items: start;
  &:first-of-type {
    border-top: 0;
    padding-top: 4px;
  }
  h2 {
    font-size: 14px;
    font-weight: 600;
  }
  > p {
    color: ${(p) => p.theme.tokens.soft};
    max-width: 60ch;
  }
  > p a {
    text-decoration: underline;
    text-underline-offset: 2px;
  }
  > table td:last-child:has(button) {
    text-align: right;
    padding-right: 0;
  }
  > table,
  > [role="alert"],
  > [role="status"] {
    width: 100%;
  }
`;

export function Rooms({ children }: { children: ReactNode }) {
  const { data } = useQuery(session);
  const designs = useMay("design");
  const curates = useMay("curate");
  const administers = useMay("administer");
  return (
    <Root>
      <Side aria-label="You and the studio">
        <h2>You</h2>
        <NavLink to="/you" end>
          {data?.person?.name}
        </NavLink>
        {designs && <NavLink to="/you/guests">Guests</NavLink>}
        <NavLink to="/you/api">For programs</NavLink>
        {curates && (
          <>
            <h2>The studio</h2>
            {administers && <NavLink to="/studio/people">People</NavLink>}
            <NavLink to="/studio/activity">Activity</NavLink>
            {administers && <NavLink to="/studio/jobs">Jobs of all</NavLink>}
            {administers && <NavLink to="/studio/store">Store</NavLink>}
            {administers && <NavLink to="/studio/hooks">Hooks</NavLink>}
            {administers && <NavLink to="/studio/settings">Settings</NavLink>}
          </>
        )}
        {administers && <Well />}
      </Side>
      {children}
    </Root>
  );
}
