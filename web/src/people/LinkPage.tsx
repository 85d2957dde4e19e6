import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { link as linkQuery, useLink } from "../api/links";
import { session } from "../api/session";
import { Primary } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { TextBox } from "../kit/TextBox";
import { OnPlate } from "../kit/Plate";

const Rules = styled.ul`
  margin: 0;
  padding-left: 18px;
  color: ${(p) => p.theme.tokens.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
`;

/** Where a link leads that lets somebody in once: the first admin, who was invited, who chooses a new password. */
export function LinkPage({ code }: { code: string }) {
  const client = useQueryClient();
  const { data: link, error } = useQuery(linkQuery(code));
  const use = useLink(code);
  const [username, setUsername] = useState("");
  const [fullName, setFullName] = useState<string | null>(null);
  const [studio, setStudio] = useState("");
  const [password, setPassword] = useState("");
  if (error)
    return (
      <OnPlate onSubmit={() => window.location.assign("/")}>
        <Notice>{wordsFor(error)}</Notice>
        <Primary type="submit">To the door</Primary>
      </OnPlate>
    );
  if (!link) return null;
  const isNew = link.purpose !== "password";
  const send = () =>
    use.mutate(
      { password, username, full_name: fullName ?? link.full_name, studio },
      {
        onSuccess: (signedIn) => {
          window.history.replaceState(null, "", "/");
          client.setQueryData(session.queryKey, signedIn);
        },
      },
    );
  return (
    <OnPlate wide onSubmit={send} title={link.studio || "Saucer"}>
      <p>
        {link.purpose === "first" && "You are the first here. This account is an admin's: it invites all others."}
        {link.purpose === "invite" && `You are invited as ${link.role === "admin" ? "an" : "a"} ${link.role}.`}
        {link.purpose === "password" && (
          <>
            A new password for <bdi>{link.username}</bdi>.
          </>
        )}
      </p>
      {link.purpose === "first" && (
        <TextBox label="What is the studio called?" value={studio} onChange={setStudio} maxLength={80} autoFocus />
      )}
      {isNew && (
        <>
          <TextBox
            label="Your name, as others see it"
            value={fullName ?? link.full_name}
            onChange={setFullName}
            autoComplete="name"
            maxLength={120}
          />
          <TextBox
            label="Name to sign in with"
            value={username}
            onChange={setUsername}
            autoComplete="username"
            maxLength={150}
          />
        </>
      )}
      <TextBox
        label="Password"
        type="password"
        value={password}
        onChange={setPassword}
        autoComplete="new-password"
        autoFocus={!isNew}
      />
      <Rules>
        {link.password_rules.map((rule) => (
          <li key={rule}>{rule}</li>
        ))}
      </Rules>
      {use.error && <Notice>{wordsFor(use.error)}</Notice>}
      <Primary type="submit" isDisabled={!password || (isNew && !username)} isPending={use.isPending}>
        {isNew ? "Come in" : "Keep it"}
      </Primary>
    </OnPlate>
  );
}
