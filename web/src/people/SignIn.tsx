import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { useSignIn } from "../api/session";
import { Primary } from "../kit/Button";
import { Mark } from "../kit/Mark";
import { Notice } from "../kit/Notice";
import { TextBox } from "../kit/TextBox";

const Page = styled.main`
  min-height: 100vh;
  display: grid;
  place-items: center;
  background: ${(p) => p.theme.tokens.paper};
`;
const Plate = styled.div`
  width: 460px;
  height: 460px;
  border-radius: 50%;
  background: ${(p) => p.theme.tokens.glaze};
  border: 1px solid ${(p) => p.theme.tokens.line};
  display: grid;
  place-items: center;
  position: relative;
  &::before {
    content: "";
    position: absolute;
    inset: 26px;
    border-radius: 50%;
    border: 1px solid ${(p) => p.theme.tokens.line};
    pointer-events: none;
  }
`;
const Fields = styled(Form)`
  width: 240px;
  display: grid;
  gap: 12px;
  position: relative;
  h1 {
    display: flex;
    align-items: center;
    gap: 9px;
    justify-content: center;
    font-size: 22px;
    font-weight: 600;
    letter-spacing: -0.02em;
    margin-bottom: 6px;
  }
  button {
    margin-top: 4px;
  }
`;

export function SignIn() {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useSignIn();
  return (
    <Page>
      <Plate>
        <Fields
          onSubmit={(event) => {
            event.preventDefault();
            signIn.mutate({ username, password });
          }}
        >
          <h1>
            <Mark size={25} />
            Saucer
          </h1>
          <TextBox label="Name" value={username} onChange={setUsername} autoComplete="username" />
          <TextBox
            label="Password"
            type="password"
            value={password}
            onChange={setPassword}
            autoComplete="current-password"
          />
          {signIn.error && <Notice>{wordsFor(signIn.error)}</Notice>}
          <Primary type="submit" isDisabled={!username || !password} isPending={signIn.isPending}>
            Sign in
          </Primary>
        </Fields>
      </Plate>
    </Page>
  );
}
