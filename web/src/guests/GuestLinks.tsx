import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { guestLinks, useRevokeGuestLink, type LinksOf } from "../api/guests";
import type { GuestLink } from "../api/types";
import { WordButton } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { PlainTable } from "../kit/PlainTable";

const Ended = styled.tr`
  color: ${(p) => p.theme.tokens.soft};
`;
const kinds: Record<GuestLink["shows"], string> = { board: "Board", gallery: "Chosen entries", wall: "Project" };
const terms = (link: GuestLink) =>
  [link.has_password && "with a password", link.stamp && "names in the pictures"].filter(Boolean).join(", ");

/** Links that were given: until when, who came, and an end to each. named: of several things, which are told apart */
export function GuestLinks({ of, named = false }: { of: LinksOf; named?: boolean }) {
  const { data: links, error } = useQuery(guestLinks(of));
  const revoke = useRevokeGuestLink();
  const trouble = error ?? revoke.error;
  if (trouble) return <Notice>{wordsFor(trouble)}</Notice>;
  if (!links || links.length === 0) return null;
  return (
    <PlainTable aria-label="Links that were given">
      <thead>
        <tr>
          {named && <th>Shows</th>}
          <th>Given</th>
          <th>Open until</th>
          <th>Came</th>
          <th aria-label="Actions" />
        </tr>
      </thead>
      <tbody>
        {links.map((link) => {
          const Row = link.is_open ? "tr" : Ended;
          return (
            <Row key={link.id}>
              {named && (
                <td>
                  {link.title}
                  <br />
                  <small>{kinds[link.shows]}</small>
                </td>
              )}
              <td>
                {link.made.slice(0, 10)}, <bdi>{link.by}</bdi>
                {terms(link) && (
                  <>
                    <br />
                    <small>{terms(link)}</small>
                  </>
                )}
              </td>
              <td>{link.is_open ? link.until : "closed"}</td>
              <td>{link.came === 0 ? "nobody yet" : link.came}</td>
              <td>
                {link.may_revoke && (
                  <WordButton
                    aria-label={`Revoke the link of ${link.made.slice(0, 10)} to ${link.title}`}
                    onPress={() => revoke.mutate(link.id)}
                  >
                    Revoke
                  </WordButton>
                )}
              </td>
            </Row>
          );
        })}
      </tbody>
    </PlainTable>
  );
}
