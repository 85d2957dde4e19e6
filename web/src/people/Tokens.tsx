/** Tokens, by which programs come in: those there are, and the making of one. The same for oneself and, by admins, for services. */
import { useState } from "react";
import { wordsFor } from "../api/client";
import type { Scope, Token } from "../api/types";
import { Primary, Secondary, WordButton } from "../kit/Button";
import { Check } from "../kit/Check";
import { dayIn } from "../kit/days";
import { Notice } from "../kit/Notice";
import { PlainTable } from "../kit/PlainTable";
import { since } from "../kit/since";
import { TextBox } from "../kit/TextBox";
import { Chosen } from "./Chosen";
import { ButtonRow, FramedForm } from "./FramedForm";

const words: Record<Scope, string> = {
  read: "look and take: search, pictures, files",
  "bring in": "bring in pictures, LUTs and packs",
  design: "make and change looks, boards, projects",
  publish: "publish, and put in order",
};

interface Made {
  readonly name: string;
  readonly secret: string;
}
interface Props {
  readonly tokens: readonly Token[];
  /** What one may reach at most. */
  readonly scopes: readonly Scope[];
  readonly make: (given: { name: string; scopes: Scope[]; until: string }) => Promise<Made>;
  readonly revoke: (id: number) => void;
}

export function Tokens({ tokens, scopes, make, revoke }: Props) {
  const [making, setMaking] = useState(false);
  const [made, setMade] = useState<Made | null>(null);
  return (
    <>
      {tokens.length > 0 && (
        <PlainTable aria-label="Tokens">
          <thead>
            <tr>
              <th>Name</th>
              <th>Reaches</th>
              <th>Ends</th>
              <th>Last used</th>
              <th aria-label="Actions" />
            </tr>
          </thead>
          <tbody>
            {tokens.map((one) => (
              <tr key={one.id}>
                <td>{one.name}</td>
                <td>{one.scopes.join(", ")}</td>
                <td>{one.until.slice(0, 10)}</td>
                <td>{one.used ? `${since(one.used)}, ${one.used_from ?? ""}` : "never"}</td>
                <td>
                  <WordButton aria-label={`Revoke ${one.name}`} onPress={() => revoke(one.id)}>
                    Revoke
                  </WordButton>
                </td>
              </tr>
            ))}
          </tbody>
        </PlainTable>
      )}
      {made && (
        <FramedForm onSubmit={(event) => event.preventDefault()}>
          <p>
            The token <b>{made.name}</b>. It is not shown again.
          </p>
          <code aria-label="The token">{made.secret}</code>
          <ButtonRow>
            <Secondary onPress={() => void navigator.clipboard.writeText(made.secret)}>Copy</Secondary>
            <Secondary onPress={() => setMade(null)}>I have it</Secondary>
          </ButtonRow>
        </FramedForm>
      )}
      {making && (
        <NewToken
          scopes={scopes}
          make={make}
          onMade={(one) => {
            setMade(one);
            setMaking(false);
          }}
          onLeft={() => setMaking(false)}
        />
      )}
      {!making && !made && <Secondary onPress={() => setMaking(true)}>Make a token</Secondary>}
    </>
  );
}

interface NewProps {
  readonly scopes: readonly Scope[];
  readonly make: Props["make"];
  readonly onMade: (made: Made) => void;
  readonly onLeft: () => void;
}

function NewToken({ scopes, make, onMade, onLeft }: NewProps) {
  const [name, setName] = useState("");
  const [chosen, setChosen] = useState<readonly Scope[]>(["read"]);
  const [until, setUntil] = useState(dayIn(90));
  const [trouble, setTrouble] = useState<unknown>(null);
  const choose = (scope: Scope, on: boolean) =>
    setChosen(on ? [...chosen, scope] : chosen.filter((one) => one !== scope));
  return (
    <FramedForm
      onSubmit={(event) => {
        event.preventDefault();
        make({ name, scopes: [...chosen], until }).then(onMade, setTrouble);
      }}
    >
      <TextBox label="What is it for?" value={name} onChange={setName} maxLength={80} autoFocus />
      <Chosen>
        <legend>What may it do?</legend>
        {scopes.map((scope) => (
          <Check key={scope} isOn={chosen.includes(scope)} onChange={(on) => choose(scope, on)}>
            {words[scope]}
          </Check>
        ))}
      </Chosen>
      <TextBox label="It ends on (within a year)" value={until} onChange={setUntil} maxLength={10} />
      {trouble !== null && <Notice>{wordsFor(trouble)}</Notice>}
      <ButtonRow>
        <Primary type="submit" isDisabled={!name.trim() || chosen.length === 0}>
          Make it
        </Primary>
        <Secondary onPress={onLeft}>Leave it</Secondary>
      </ButtonRow>
    </FramedForm>
  );
}
