import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { hooks as hooksQuery, useChangeHook, useRemoveHook, useTryHook } from "../../api/hooks";
import type { Hook } from "../../api/types";
import { Primary, Secondary, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Toggle } from "../../kit/Toggle";
import { useInPlace } from "../../kit/useInPlace";
import { ButtonRow, FramedForm } from "../FramedForm";
import { Part, Room, RoomHead, Rooms } from "../Rooms";
import { Calls } from "./Calls";
import { NewHook } from "./NewHook";
import { eventNames } from "./words";

const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 12px;
  width: 100%;
  h2 {
    min-width: 0;
    overflow-wrap: anywhere;
  }
  > :last-child {
    margin-left: auto;
  }
`;
const Address = styled.p`
  overflow-wrap: anywhere;
  code {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;

/** Addresses that are called when something happens, for admins. */
export function HooksPage() {
  const { data: hooks, error } = useQuery(hooksQuery);
  const [adding, setAdding] = useState(false);
  const [made, setMade] = useState<{ name: string; secret: string } | null>(null);
  const none = hooks?.length === 0 && !adding && !made;
  return (
    <Rooms>
      <Room>
        <RoomHead>
          <h1>Hooks</h1>
          {hooks && hooks.length > 0 && !adding && <Secondary onPress={() => setAdding(true)}>Add a hook</Secondary>}
        </RoomHead>
        {error && <Notice>{wordsFor(error)}</Notice>}
        {none && (
          <Part>
            <p>
              A program of yours can be told when a look is proposed, published or retired, and when a delivery is
              ready: a message board, a render farm, another program’s LUT folder. Saucer calls its address with what
              happened as JSON, signed, and again where nobody was there.
            </p>
            <Primary onPress={() => setAdding(true)}>Add a hook</Primary>
          </Part>
        )}
        {made && (
          <FramedForm style={{ marginBottom: 14 }} onSubmit={(event) => event.preventDefault()}>
            <p>
              By this secret the calls of <b>{made.name}</b> are signed. It is not shown again.
            </p>
            <code aria-label="The secret">{made.secret}</code>
            <ButtonRow>
              <Secondary onPress={() => void navigator.clipboard.writeText(made.secret)}>Copy</Secondary>
              <Secondary onPress={() => setMade(null)}>I have it</Secondary>
            </ButtonRow>
          </FramedForm>
        )}
        {adding && (
          <NewHook
            onMade={(one) => {
              setMade(one);
              setAdding(false);
            }}
            onLeft={() => setAdding(false)}
          />
        )}
        {hooks?.map((hook) => (
          <One key={hook.id} hook={hook} />
        ))}
      </Room>
    </Rooms>
  );
}

function One({ hook }: { hook: Hook }) {
  const change = useChangeHook();
  const remove = useRemoveHook();
  const tryOut = useTryHook();
  const going = useInPlace();
  const trouble = change.error ?? remove.error ?? tryOut.error;
  return (
    <Part aria-label={hook.name}>
      <Head>
        <h2>{hook.name}</h2>
        <Toggle
          label={`${hook.name} is called`}
          isOn={hook.is_on}
          onChange={(is_on) => change.mutate({ pk: hook.id, is_on })}
        />
      </Head>
      <Address>
        <code>{hook.url}</code>
      </Address>
      <p>
        {hook.is_on ? "Told of what is" : "Off; it would be told of what is"}{" "}
        {hook.events.map((one) => eventNames[one].toLowerCase()).join(", ")}.{hook.by && ` Added by ${hook.by}.`}
      </p>
      <ButtonRow onKeyDown={going.onKeyDown}>
        <Secondary isDisabled={!hook.is_on} isPending={tryOut.isPending} onPress={() => tryOut.mutate(hook.id)}>
          Try it
        </Secondary>
        {going.isOpen ? (
          <>
            <Secondary isPending={remove.isPending} onPress={() => remove.mutate(hook.id)}>
              Remove it, and what waits
            </Secondary>
            <WordButton autoFocus onPress={going.close}>
              Keep it
            </WordButton>
          </>
        ) : (
          <WordButton autoFocus={going.autoFocus} onPress={going.open}>
            Remove…
          </WordButton>
        )}
      </ButtonRow>
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
      <Calls hook={hook.id} />
    </Part>
  );
}
