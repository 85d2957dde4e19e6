import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { SayAgain, wordsFor } from "../../api/client";
import { canUseKeys } from "../../api/keys";
import {
  factors as factorsQuery,
  useAddKey,
  useNewRecoveryCodes,
  useNewSecret,
  useRemoveCodeApp,
  useRemoveKey,
  useSayAgain,
  useTakeCodeApp,
  type SetUp,
} from "../../api/own";
import { Primary, Secondary, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { PlainTable } from "../../kit/PlainTable";
import { since } from "../../kit/since";
import { TextBox } from "../../kit/TextBox";
import { Part } from "../Rooms";
import { ButtonRow, FramedForm } from "../FramedForm";

/** White by night too: what reads it wants dark on light. */
const Drawn = styled.img`
  width: 168px;
  height: 168px;
  padding: 6px;
  background: #ffffff;
`;
const Codes = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(2, max-content);
  gap: 2px 28px;
  font-family: ${(p) => p.theme.tokens.numbers};
`;

const at = (seconds: number) => since(new Date(seconds * 1000).toISOString());
const titles: Record<SetUp["type"], string> = {
  totp: "Codes from an app",
  webauthn: "Passkey",
  recovery_codes: "Recovery codes",
};

/** Second factors: what there is, one more, one less. Whoever changes them says their password once more. */
export function Factors() {
  const { data: there = [], error } = useQuery(factorsQuery);
  const newSecret = useNewSecret();
  const takeApp = useTakeCodeApp();
  const removeApp = useRemoveCodeApp();
  const addKey = useAddKey();
  const removeKey = useRemoveKey();
  const newCodes = useNewRecoveryCodes();
  const [secret, setSecret] = useState<string | null>(null);
  const [naming, setNaming] = useState(false);
  const [codes, setCodes] = useState<readonly string[] | null>(null);
  const [waiting, setWaiting] = useState<(() => void) | null>(null);

  /** Does it at once, or once the password was said again. */
  const doIt = (run: () => Promise<unknown>) => {
    const go = () =>
      void run().catch((why: unknown) => {
        if (why instanceof SayAgain) setWaiting(() => go);
      });
    go();
  };
  const showCodes = () => doIt(async () => setCodes(await newCodes.mutateAsync()));
  const has = (type: SetUp["type"]) => there.some((one) => one.type === type);
  const trouble = [
    error,
    newSecret.error,
    takeApp.error,
    removeApp.error,
    addKey.error,
    removeKey.error,
    newCodes.error,
  ].find((one) => one && !(one instanceof SayAgain));
  const remove = (one: SetUp) =>
    doIt(() => (one.type === "totp" ? removeApp.mutateAsync() : removeKey.mutateAsync(one.id ?? 0)));
  return (
    <Part aria-label="Second factor">
      <h2>Second factor</h2>
      <p>Beside your password, something that only you have: an app that shows codes, or a passkey.</p>
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
      {there.length > 0 && (
        <PlainTable aria-label="Second factors">
          <tbody>
            {there.map((one) => (
              <tr key={`${one.type} ${String(one.id ?? "")}`}>
                <td>
                  {titles[one.type]}
                  {one.name && `: ${one.name}`}
                </td>
                <td>
                  {one.type === "recovery_codes"
                    ? `${String(one.unused_code_count ?? 0)} left`
                    : one.last_used_at
                      ? `used ${at(one.last_used_at)}`
                      : `set up ${at(one.created_at)}`}
                </td>
                <td>
                  {one.type === "recovery_codes" ? (
                    <WordButton onPress={showCodes}>Make new ones</WordButton>
                  ) : (
                    <WordButton
                      aria-label={`Remove ${titles[one.type]} ${one.name ?? ""}`.trim()}
                      onPress={() => remove(one)}
                    >
                      Remove
                    </WordButton>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </PlainTable>
      )}
      {waiting && (
        <Again
          onSaid={() => {
            setWaiting(null);
            waiting();
          }}
          onLeft={() => setWaiting(null)}
        />
      )}
      {codes && (
        <FramedForm onSubmit={(event) => event.preventDefault()}>
          <p>
            Keep these where nobody else finds them. Each lets you in once when your app or key is lost; they are not
            shown again.
          </p>
          <Codes aria-label="Recovery codes">
            {codes.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </Codes>
          <ButtonRow>
            <Secondary onPress={() => void navigator.clipboard.writeText(codes.join("\n"))}>Copy</Secondary>
            <Secondary onPress={() => setCodes(null)}>I have kept them</Secondary>
          </ButtonRow>
        </FramedForm>
      )}
      {secret !== null && (
        <CodeApp
          secret={secret}
          isPending={takeApp.isPending}
          onLeft={() => setSecret(null)}
          onCode={(code) =>
            doIt(async () => {
              await takeApp.mutateAsync(code);
              setSecret(null);
              if (!has("recovery_codes")) showCodes();
            })
          }
        />
      )}
      {naming && (
        <NameKey
          isPending={addKey.isPending}
          onLeft={() => setNaming(false)}
          onNamed={(name) =>
            doIt(async () => {
              await addKey.mutateAsync(name);
              setNaming(false);
              if (!has("recovery_codes")) showCodes();
            })
          }
        />
      )}
      {secret === null && !naming && !waiting && !codes && (
        <ButtonRow>
          {!has("totp") && (
            <Secondary onPress={() => doIt(async () => setSecret(await newSecret.mutateAsync()))}>
              Set up an app
            </Secondary>
          )}
          {canUseKeys() && <Secondary onPress={() => setNaming(true)}>Add a passkey</Secondary>}
        </ButtonRow>
      )}
    </Part>
  );
}

function Again({ onSaid, onLeft }: { onSaid: () => void; onLeft: () => void }) {
  const [password, setPassword] = useState("");
  const say = useSayAgain();
  return (
    <FramedForm
      onSubmit={(event) => {
        event.preventDefault();
        say.mutate(password, { onSuccess: onSaid });
      }}
    >
      <TextBox
        label="Your password, once more"
        type="password"
        value={password}
        onChange={setPassword}
        autoComplete="current-password"
        autoFocus
      />
      {say.error && <Notice>{wordsFor(say.error)}</Notice>}
      <ButtonRow>
        <Primary type="submit" isDisabled={!password} isPending={say.isPending}>
          Go on
        </Primary>
        <Secondary onPress={onLeft}>Leave it</Secondary>
      </ButtonRow>
    </FramedForm>
  );
}

interface CodeProps {
  readonly secret: string;
  readonly isPending: boolean;
  readonly onCode: (code: string) => void;
  readonly onLeft: () => void;
}

function CodeApp({ secret, isPending, onCode, onLeft }: CodeProps) {
  // So that none of before is shown; the secret itself stands in no address.
  const [begun] = useState(() => Date.now());
  const [code, setCode] = useState("");
  return (
    <FramedForm
      onSubmit={(event) => {
        event.preventDefault();
        onCode(code.replaceAll(" ", ""));
      }}
    >
      <p>Let your app read this, or type the letters into it. Then say the code that it shows.</p>
      <Drawn src={`/api/own/code.svg?${String(begun)}`} alt="The secret, as a code that an app reads" />
      <code>{secret.match(/.{1,4}/g)?.join(" ")}</code>
      <TextBox label="Code" value={code} onChange={setCode} autoComplete="one-time-code" maxLength={8} autoFocus />
      <ButtonRow>
        <Primary type="submit" isDisabled={!code.trim()} isPending={isPending}>
          Set it up
        </Primary>
        <Secondary onPress={onLeft}>Leave it</Secondary>
      </ButtonRow>
    </FramedForm>
  );
}

interface NameProps {
  readonly isPending: boolean;
  readonly onNamed: (name: string) => void;
  readonly onLeft: () => void;
}

function NameKey({ isPending, onNamed, onLeft }: NameProps) {
  const [name, setName] = useState("");
  return (
    <FramedForm
      onSubmit={(event) => {
        event.preventDefault();
        onNamed(name);
      }}
    >
      <TextBox
        label="A name for it: laptop, key on the ring"
        value={name}
        onChange={setName}
        maxLength={100}
        autoFocus
      />
      <ButtonRow>
        <Primary type="submit" isDisabled={!name.trim()} isPending={isPending}>
          Add it
        </Primary>
        <Secondary onPress={onLeft}>Leave it</Secondary>
      </ButtonRow>
    </FramedForm>
  );
}
