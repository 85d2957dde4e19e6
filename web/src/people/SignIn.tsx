import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { wordsFor } from "../api/client";
import { canUseKeys } from "../api/keys";
import {
  session,
  useElsewhere,
  useForgotten,
  useSignIn,
  useSignInByCode,
  useSignInByKey,
  useSignOut,
} from "../api/session";
import type { Factor } from "../api/types";
import { Primary, Secondary, WordButton } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { TextBox } from "../kit/TextBox";
import { OnPlate, Otherwise } from "../kit/Plate";

/** The way in: name and password, or a passkey; then the second factor of who has one. */
export function SignIn() {
  const { data } = useQuery(session);
  const factors = data?.waits_for ?? [];
  return factors.length > 0 ? (
    <SecondStep factors={factors} />
  ) : (
    <FirstStep mails={data?.mail ?? false} elsewhere={data?.elsewhere ?? ""} />
  );
}

/** Why somebody who came from their account elsewhere was not let in. */
const refusals: Readonly<Record<string, string>> = {
  no_group: "Your account is in none of the groups that Saucer lets in. Ask whoever runs the studio.",
  no_name: "Your account did not say what you are called, so Saucer does not know who you are.",
  not_here: "The name of your account cannot be one here. Ask whoever runs the studio.",
  taken:
    "There is an account of your name here already. Ask an admin to enter the mail address of your other account with it; then it is yours.",
  off: "Your account here is off. Ask an admin of the studio.",
  cancelled: "You came back without signing in.",
};
function refusedFor(search: string): string | null {
  const code = new URLSearchParams(search).get("error");
  return code === null ? null : (refusals[code] ?? "That did not work. Try it again, or sign in with a password.");
}

function FirstStep({ mails, elsewhere }: { mails: boolean; elsewhere: string }) {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [forgotten, setForgotten] = useState(false);
  const signIn = useSignIn();
  const byKey = useSignInByKey("alone");
  const away = useElsewhere();
  const [refused] = useState(() => refusedFor(window.location.search));
  if (forgotten) return <Forgotten mails={mails} onBack={() => setForgotten(false)} />;
  const trouble = signIn.error ?? byKey.error ?? away.error;
  const tried = signIn.isIdle && byKey.isIdle && away.isIdle;
  return (
    <OnPlate onSubmit={() => signIn.mutate({ username, password })}>
      {refused && tried && <Notice>{refused}</Notice>}
      {elsewhere && (
        <Secondary
          isPending={away.isPending}
          onPress={() => away.mutate(undefined, { onSuccess: ({ url }) => window.location.assign(url) })}
        >
          Sign in with {elsewhere}
        </Secondary>
      )}
      <TextBox label="Name" value={username} onChange={setUsername} autoComplete="username" />
      <TextBox
        label="Password"
        type="password"
        value={password}
        onChange={setPassword}
        autoComplete="current-password"
      />
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
      <Primary type="submit" isDisabled={!username || !password} isPending={signIn.isPending}>
        Sign in
      </Primary>
      <Otherwise>
        {canUseKeys() && <WordButton onPress={() => byKey.mutate()}>With a passkey</WordButton>}
        <WordButton onPress={() => setForgotten(true)}>I cannot get in</WordButton>
      </Otherwise>
    </OnPlate>
  );
}

function Forgotten({ mails, onBack }: { mails: boolean; onBack: () => void }) {
  const [name, setName] = useState("");
  const ask = useForgotten();
  return (
    <OnPlate onSubmit={() => mails && ask.mutate(name)}>
      {!mails && (
        <p>
          Ask an admin of your studio: they give you a link by which you choose a new password, let you in after too
          many tries, and take away a second factor that you have lost.
        </p>
      )}
      {mails && !ask.isSuccess && (
        <>
          <p>A link for a new password is sent to the address of the account.</p>
          <TextBox label="Name or mail address" value={name} onChange={setName} autoComplete="username" autoFocus />
          {ask.error && <Notice>{wordsFor(ask.error)}</Notice>}
          <Primary type="submit" isDisabled={!name} isPending={ask.isPending}>
            Send the link
          </Primary>
        </>
      )}
      {ask.isSuccess && (
        <Notice tone="word">
          If there is such an account with an address, a link is on its way. It works for a day; an admin can give you
          one as well.
        </Notice>
      )}
      <Otherwise>
        <WordButton onPress={onBack}>Back</WordButton>
      </Otherwise>
    </OnPlate>
  );
}

function SecondStep({ factors }: { factors: readonly Factor[] }) {
  const [code, setCode] = useState("");
  const byCode = useSignInByCode();
  const byKey = useSignInByKey("second");
  const leave = useSignOut();
  const hasKey = factors.includes("webauthn") && canUseKeys();
  const hasApp = factors.includes("totp");
  const trouble = byCode.error ?? byKey.error;
  return (
    <OnPlate onSubmit={() => byCode.mutate(code.replaceAll(" ", ""))}>
      {hasKey && (
        <Secondary onPress={() => byKey.mutate()} isPending={byKey.isPending}>
          Use a passkey
        </Secondary>
      )}
      <TextBox
        label={hasApp ? "Code from your app, or a recovery code" : "Or a recovery code"}
        value={code}
        onChange={setCode}
        autoComplete="one-time-code"
        autoFocus={!hasKey}
      />
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
      <Primary type="submit" isDisabled={!code.trim()} isPending={byCode.isPending}>
        Go on
      </Primary>
      <Otherwise>
        <WordButton onPress={() => leave.mutate()}>From the beginning</WordButton>
      </Otherwise>
    </OnPlate>
  );
}
