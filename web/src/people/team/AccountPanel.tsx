import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import {
  account as accountQuery,
  useChangeAccount,
  useEndSessionOf,
  useForgetFactor,
  useHandOver,
  useMakeTokenFor,
  usePasswordLink,
  useRevokeTokenOf,
  useUnlock,
} from "../../api/team";
import type { Account, Role, Scope } from "../../api/types";
import { IconButton, Secondary, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { since } from "../../kit/since";
import { Tokens } from "../Tokens";
import { HandOver } from "./HandOver";
import { LinkShown } from "./LinkShown";
import { factorsOf, ROLES } from "./words";

const Root = styled.aside`
  width: 336px;
  overflow-y: auto;
  padding: 18px;
  background: ${(p) => p.theme.tokens.glaze};
  border-left: 1px solid ${(p) => p.theme.tokens.line};
  display: grid;
  gap: 16px;
  align-content: start;
  h3 {
    font-size: ${(p) => p.theme.tokens.size.small};
    font-weight: 500;
    color: ${(p) => p.theme.tokens.soft};
    margin-bottom: 4px;
  }
`;
const Head = styled.header`
  display: flex;
  align-items: flex-start;
  justify-content: space-between;
  gap: 8px;
  h2 {
    font-size: 15px;
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  p {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
    overflow-wrap: anywhere;
  }
`;
const Lines = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  li {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    padding: 5px 0;
    border-top: 1px solid ${(p) => p.theme.tokens.line};
    font-size: 12px;
    overflow-wrap: anywhere;
  }
  time {
    flex: none;
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
`;
const Actions = styled.div`
  display: grid;
  gap: 8px;
  justify-items: start;
`;
const Wide = styled.div`
  display: grid;
`;

/** What a token of each role may reach. */
const REACHES: Record<Role, readonly Scope[]> = {
  viewer: ["read"],
  designer: ["read", "bring in", "design"],
  curator: ["read", "bring in", "design", "publish"],
  admin: ["read", "bring in", "design", "publish"],
};

interface Props {
  readonly account: Account;
  readonly team: readonly Account[];
  readonly onClose: () => void;
}

/** One account and everything that an admin can do to it. */
export function AccountPanel({ account, team, onClose }: Props) {
  const name = account.username;
  const { data: more, error } = useQuery(accountQuery(name));
  const change = useChangeAccount(name);
  const unlock = useUnlock(name);
  const giveLink = usePasswordLink(name);
  const forget = useForgetFactor(name);
  const end = useEndSessionOf(name);
  const handOver = useHandOver(name);
  const make = useMakeTokenFor(name);
  const revoke = useRevokeTokenOf(name);
  const [handing, setHanding] = useState(false);
  const trouble = [
    error,
    change.error,
    unlock.error,
    giveLink.error,
    forget.error,
    end.error,
    handOver.error,
    revoke.error,
  ].find(Boolean);
  const roles = account.is_service ? ROLES.filter(([id]) => id !== "admin") : ROLES;
  const isPerson = !account.is_service;
  return (
    <Root aria-label={account.name}>
      <Head>
        <div>
          <h2>{account.name}</h2>
          <p>
            <bdi>{account.email || account.username}</bdi>, here since {account.since.slice(0, 10)}
          </p>
        </div>
        <IconButton aria-label="Close" onPress={onClose}>
          <X aria-hidden />
        </IconButton>
      </Head>
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
      <Wide>
        <Picker
          label="May"
          value={account.role}
          isDisabled={!account.is_active}
          options={roles.map(([id, note]) => ({ id, name: id, note }))}
          onChange={(role) => change.mutate({ role: role as Role })}
        />
      </Wide>
      {account.is_held && (
        <Row>
          <span>Held: too many tries to sign in.</span>
          <WordButton onPress={() => unlock.mutate()}>Let in again</WordButton>
        </Row>
      )}
      {isPerson && (
        <div>
          <h3>Second factor</h3>
          <Row>
            <span>{factorsOf(account) || "none"}</span>
            {account.factors.length > 0 && (
              <WordButton onPress={() => forget.mutate()}>It is lost: take it away</WordButton>
            )}
          </Row>
        </div>
      )}
      {isPerson && more && more.sessions.length > 0 && (
        <div>
          <h3>Signed in</h3>
          <Lines aria-label="Sessions">
            {more.sessions.map((one) => (
              <li key={one.id}>
                <span>
                  {one.browser}, {one.address}, {one.is_this ? "this one" : since(one.seen)}
                </span>
                {!one.is_this && (
                  <WordButton aria-label={`End ${one.browser}, ${one.address}`} onPress={() => end.mutate(one.id)}>
                    End
                  </WordButton>
                )}
              </li>
            ))}
          </Lines>
        </div>
      )}
      {more && (account.is_service || more.tokens.length > 0) && (
        <Actions>
          <h3>Tokens</h3>
          {account.is_service ? (
            <Tokens
              tokens={more.tokens}
              scopes={REACHES[account.role]}
              make={make.mutateAsync}
              revoke={(id) => revoke.mutate(id)}
            />
          ) : (
            <Lines aria-label="Tokens">
              {more.tokens.map((one) => (
                <li key={one.id}>
                  <span>
                    {one.name}: {one.scopes.join(", ")}
                  </span>
                  <WordButton aria-label={`Revoke ${one.name}`} onPress={() => revoke.mutate(one.id)}>
                    Revoke
                  </WordButton>
                </li>
              ))}
            </Lines>
          )}
        </Actions>
      )}
      {more && more.lately.length > 0 && (
        <div>
          <h3>Lately</h3>
          <Lines aria-label="Lately">
            {more.lately.map((one, index) => (
              <li key={index}>
                <span>
                  {one.action}
                  {one.about && `: ${one.about}`}
                </span>
                <time dateTime={one.at}>{since(one.at)}</time>
              </li>
            ))}
          </Lines>
        </div>
      )}
      {giveLink.data && <LinkShown link={giveLink.data} />}
      {handOver.data && (
        <Notice tone="word">
          {handOver.data.count} thing{handOver.data.count === 1 ? "" : "s"} handed over.
        </Notice>
      )}
      {handing ? (
        <HandOver
          from={account}
          team={team}
          onChosen={(to) => handOver.mutate(to, { onSuccess: () => setHanding(false) })}
          onLeft={() => setHanding(false)}
        />
      ) : (
        <Actions>
          {isPerson && account.is_active && (
            <Secondary onPress={() => giveLink.mutate()}>A link for a new password</Secondary>
          )}
          {Object.keys(account.owns).length > 0 && (
            <Secondary onPress={() => setHanding(true)}>Hand over what they own...</Secondary>
          )}
          {account.is_active ? (
            <WordButton onPress={() => change.mutate({ is_active: false })}>Switch off</WordButton>
          ) : (
            <WordButton onPress={() => change.mutate({ is_active: true })}>Switch on again</WordButton>
          )}
        </Actions>
      )}
    </Root>
  );
}
