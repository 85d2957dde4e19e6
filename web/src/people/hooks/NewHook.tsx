import { useState } from "react";
import { wordsFor } from "../../api/client";
import { useAddHook } from "../../api/hooks";
import type { HookEvent } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { Chosen } from "../Chosen";
import { ButtonRow, FramedForm } from "../FramedForm";
import { EVENTS, eventNames } from "./words";

interface Props {
  readonly onMade: (made: { name: string; secret: string }) => void;
  readonly onLeft: () => void;
}

export function NewHook({ onMade, onLeft }: Props) {
  const [name, setName] = useState("");
  const [url, setUrl] = useState("");
  const [events, setEvents] = useState<readonly HookEvent[]>(["published"]);
  const add = useAddHook();
  const choose = (event: HookEvent, on: boolean) =>
    setEvents(on ? [...events, event] : events.filter((one) => one !== event));
  return (
    <FramedForm
      onSubmit={(event) => {
        event.preventDefault();
        add.mutate({ name, url, events: [...events] }, { onSuccess: onMade });
      }}
    >
      <TextBox label="What is it for?" value={name} onChange={setName} maxLength={80} autoFocus />
      <TextBox label="Address that is called, https://…" value={url} onChange={setUrl} maxLength={500} />
      <Chosen>
        <legend>What is it told of?</legend>
        {EVENTS.map((event) => (
          <Check key={event} isOn={events.includes(event)} onChange={(on) => choose(event, on)}>
            {eventNames[event]}
          </Check>
        ))}
      </Chosen>
      {add.error && <Notice>{wordsFor(add.error)}</Notice>}
      <ButtonRow>
        <Primary
          type="submit"
          isDisabled={!name.trim() || !url.trim() || events.length === 0}
          isPending={add.isPending}
        >
          Add it
        </Primary>
        <Secondary onPress={onLeft}>Leave it</Secondary>
      </ButtonRow>
    </FramedForm>
  );
}
