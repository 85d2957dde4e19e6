import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useChangePassword } from "../../api/own";
import { Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { Part } from "../Rooms";

const Fields = styled(Form)`
  display: grid;
  gap: 12px;
  width: 270px;
  button {
    justify-self: start;
  }
`;

export function Password({ rules }: { rules: readonly string[] }) {
  const [current, setCurrent] = useState("");
  const [next, setNext] = useState("");
  const change = useChangePassword();
  return (
    <Part aria-label="Password">
      <h2>Password</h2>
      <p>{rules.join(" ")} All your other sessions end with it.</p>
      <Fields
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(
            { current, new: next },
            {
              onSuccess: () => {
                setCurrent("");
                setNext("");
              },
            },
          );
        }}
      >
        <TextBox
          label="Current password"
          type="password"
          value={current}
          onChange={setCurrent}
          autoComplete="current-password"
        />
        <TextBox label="New password" type="password" value={next} onChange={setNext} autoComplete="new-password" />
        {change.error && <Notice>{wordsFor(change.error)}</Notice>}
        {change.isSuccess && !current && !next && <Notice tone="word">The new password holds from now on.</Notice>}
        <Secondary type="submit" isDisabled={!current || !next} isPending={change.isPending}>
          Change it
        </Secondary>
      </Fields>
    </Part>
  );
}
