import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { wordsFor } from "../../api/client";
import { ownTokens, useMakeToken, useRevokeToken } from "../../api/own";
import type { Scope } from "../../api/types";
import { Notice } from "../../kit/Notice";
import { Part } from "../Rooms";
import { Tokens } from "../Tokens";

export function OwnTokens({ scopes }: { scopes: readonly Scope[] }) {
  const { data: tokens = [], error } = useQuery(ownTokens);
  const make = useMakeToken();
  const revoke = useRevokeToken();
  const trouble = error ?? revoke.error;
  return (
    <Part aria-label="Tokens">
      <h2>Tokens</h2>
      <p>
        By a token a program does in your place what you let it, and what it does is told under your name. It never
        changes your account. <Link to="/you/api">What it can call</Link>
      </p>
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
      <Tokens tokens={tokens} scopes={scopes} make={make.mutateAsync} revoke={(id) => revoke.mutate(id)} />
    </Part>
  );
}
