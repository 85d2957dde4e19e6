import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { wordsFor } from "../api/client";
import { studio as studioQuery, useChangeStudio } from "../api/team";
import type { SecondFactor } from "../api/types";
import { Secondary } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { Notice } from "../kit/Notice";
import { TextBox } from "../kit/TextBox";
import { Part, Room, RoomHead, Rooms } from "./Rooms";

const asked: Record<SecondFactor, string> = {
  nobody: "Everybody signs in with a password; who likes sets up more.",
  leaders: "Curators and admins who have none set one up before they go on. Others may.",
  everybody: "Whoever has none sets one up before they go on.",
};

/** What holds for the whole studio. */
export function SettingsPage() {
  const { data: studio, error } = useQuery(studioQuery);
  const change = useChangeStudio();
  const [typed, setTyped] = useState<string | null>(null);
  const name = typed ?? studio?.name ?? "";
  return (
    <Rooms>
      <Room>
        <RoomHead>
          <h1>Settings</h1>
        </RoomHead>
        {(error ?? change.error) && <Notice>{wordsFor(error ?? change.error)}</Notice>}
        {studio && (
          <>
            <Part aria-label="Name">
              <h2>Name</h2>
              <p>It stands on invitations, in mail, and in apps that show codes.</p>
              <TextBox label="The studio's name" hideLabel value={name} onChange={setTyped} maxLength={80} />
              <Secondary isDisabled={name === studio.name} onPress={() => change.mutate({ name })}>
                Keep
              </Secondary>
            </Part>
            <Part aria-label="Second factor">
              <h2>Who signs in with a second factor</h2>
              <Choice
                label="Who signs in with a second factor"
                value={studio.second_factor}
                options={[
                  ["nobody", "Nobody has to"],
                  ["leaders", "Curators and admins"],
                  ["everybody", "Everybody"],
                ]}
                onChange={(second_factor) => change.mutate({ second_factor })}
              />
              <p>{asked[studio.second_factor]}</p>
            </Part>
          </>
        )}
      </Room>
    </Rooms>
  );
}
