import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { own as ownQuery, useDescribeOwn } from "../../api/own";
import { session, useMay, useSignOut } from "../../api/session";
import type { NoticeAbout, Own } from "../../api/types";
import { Secondary, WordButton } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Choice } from "../../kit/Choice";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { unitNames, useUnits } from "../../kit/units";
import { useSurround } from "../../theme/surround";
import { Part, Room, RoomHead, Rooms } from "../Rooms";
import { Factors } from "./Factors";
import { OwnTokens } from "./OwnTokens";
import { Password } from "./Password";
import { Sessions } from "./Sessions";
import { PageChoice } from "../../kit/PageChoice";
import { sizeOf } from "../../kit/amounts";

/** One's own page. */
export function OwnPage() {
  const { data: own, error } = useQuery(ownQuery);
  const { data: signedIn } = useQuery(session);
  const signOut = useSignOut();
  return (
    <Rooms>
      <Room>
        <RoomHead>
          <h1>You</h1>
          {own && (
            <p>
              signed in as <bdi>{own.username}</bdi>, {own.role}
            </p>
          )}
        </RoomHead>
        {error && <Notice>{wordsFor(error)}</Notice>}
        {signedIn?.lacks_second && (
          <Notice>
            This studio asks you for a second factor. Set one up below; everything else is open to you after that.
          </Notice>
        )}
        {own && signedIn?.lacks_second && (
          <>
            <Factors />
            <WordButton onPress={() => signOut.mutate()}>Sign out</WordButton>
          </>
        )}
        {own && !signedIn?.lacks_second && (
          <>
            <Name key={own.username} own={own} />
            <Shown />
            <Told own={own} />
            <Password rules={own.password_rules} />
            <Factors />
            <Sessions />
            {own.most !== null && (
              <Part aria-label="Room">
                <h2>Room</h2>
                <p>
                  Your files take {sizeOf(own.room)} of the {sizeOf(own.most)} there are. What is deleted makes room
                  after 30 days.
                </p>
              </Part>
            )}
            <OwnTokens scopes={own.scopes} />
          </>
        )}
      </Room>
    </Rooms>
  );
}

const Fields = styled.div`
  display: grid;
  gap: 12px;
  width: 270px;
`;

function Name({ own }: { own: Own }) {
  const [name, setName] = useState(own.full_name);
  const [email, setEmail] = useState(own.email);
  const describe = useDescribeOwn();
  const isNew = name !== own.full_name || email !== own.email;
  return (
    <Part aria-label="Name">
      <Fields>
        <TextBox
          label="Your name, as others see it"
          value={name}
          onChange={setName}
          maxLength={120}
          autoComplete="name"
        />
        <TextBox
          label="Mail address, for links to a new password"
          value={email}
          onChange={setEmail}
          autoComplete="email"
        />
      </Fields>
      {describe.error && <Notice>{wordsFor(describe.error)}</Notice>}
      {describe.isSuccess && !isNew && <Notice tone="word">Kept.</Notice>}
      <Secondary
        isDisabled={!isNew}
        isPending={describe.isPending}
        onPress={() => describe.mutate({ full_name: name, email })}
      >
        Keep
      </Secondary>
    </Part>
  );
}

const told: readonly (readonly [NoticeAbout, string])[] = [
  ["proposal", "What is proposed to you"],
  ["decision", "What was decided on your versions"],
  ["remark", "Remarks on your versions"],
];

/** What one is told of, kept with the account. */
function Told({ own }: { own: Own }) {
  const describe = useDescribeOwn();
  const designs = useMay("design");
  const curates = useMay("curate");
  // Nothing is proposed to who does not curate, and who makes no versions is told nothing of them.
  if (!designs) return null;
  const choose = (about: NoticeAbout, on: boolean) =>
    describe.mutate({ told_of: on ? [...own.told_of, about] : own.told_of.filter((one) => one !== about) });
  return (
    <Part aria-label="What you are told of">
      <h2>What you are told of</h2>
      {told.slice(curates ? 0 : 1).map(([about, words]) => (
        <Check key={about} isOn={own.told_of.includes(about)} onChange={(on) => choose(about, on)}>
          {words}
        </Check>
      ))}
      {own.mail && (
        <Check
          isOn={own.is_mailed}
          isDisabled={own.email === ""}
          onChange={(is_mailed) => describe.mutate({ is_mailed })}
        >
          By mail too, once a day, what you have not looked at
        </Check>
      )}
      {describe.error && <Notice>{wordsFor(describe.error)}</Notice>}
    </Part>
  );
}

function Shown() {
  const { name, choose } = useSurround();
  const { units, choose: chooseUnits } = useUnits();
  return (
    <Part aria-label="How it is shown">
      <h2>How it is shown</h2>
      <p>Remembered by this browser.</p>
      <PageChoice />
      <Choice
        titled
        label="Around pictures"
        value={name}
        options={[
          ["light", "Light"],
          ["mid", "Mid grey"],
          ["dark", "Dark"],
        ]}
        onChange={choose}
      />
      <Choice
        titled
        label="Code values in"
        value={units}
        options={unitNames.map((one) => [one, one] as const)}
        onChange={chooseUnits}
      />
    </Part>
  );
}
