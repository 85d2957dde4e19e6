import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { useSetDelivery } from "../api/beginning";
import { wordsFor } from "../api/client";
import { studio as studioQuery, useChangeStudio } from "../api/team";
import type { DraftsOf, SecondFactor } from "../api/types";
import { Secondary } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { Notice } from "../kit/Notice";
import { TextBox } from "../kit/TextBox";
import { EncodingPicker } from "../media/EncodingPicker";
import { SkinTolerance } from "../media/SkinTolerance";
import { RoomLimits } from "./RoomLimits";
import { StressLimits } from "./StressLimits";
import { Part, Room, RoomHead, Rooms } from "./Rooms";

const asked: Record<SecondFactor, string> = {
  nobody: "Everybody signs in with a password; who likes sets up more.",
  leaders: "Curators and admins who have none set one up before they go on. Others may.",
  everybody: "Whoever has none sets one up before they go on.",
};

const seen: Record<DraftsOf, string> = {
  owner: "Looks, LUTs and presets are their maker's until they share or propose them. What is there stays as it is.",
  studio:
    "Designers, curators and admins see each other's drafts; each can be made private. Viewers see what was proposed.",
};

/** What holds for the whole studio. */
export function SettingsPage() {
  const { data: studio, error } = useQuery(studioQuery);
  const change = useChangeStudio();
  const setDelivery = useSetDelivery();
  const [typed, setTyped] = useState<string | null>(null);
  const name = typed ?? studio?.name ?? "";
  return (
    <Rooms>
      <Room>
        <RoomHead>
          <h1>Settings</h1>
        </RoomHead>
        {(error ?? change.error ?? setDelivery.error) && (
          <Notice>{wordsFor(error ?? change.error ?? setDelivery.error)}</Notice>
        )}
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
            <Part aria-label="Drafts">
              <h2>Who sees what is new</h2>
              <Choice
                label="Who sees what is new"
                value={studio.drafts}
                options={[
                  ["owner", "Only who made it"],
                  ["studio", "All who design"],
                ]}
                onChange={(drafts) => change.mutate({ drafts })}
              />
              <p>{seen[studio.drafts]}</p>
            </Part>
            <Part aria-label="Deliveries">
              <h2>New projects deliver in</h2>
              <EncodingPicker
                label="New projects deliver in"
                hideLabel
                value={studio.delivery}
                onChange={(delivery) => setDelivery.mutate(delivery)}
              />
            </Part>
            <Part aria-label="Skin">
              <h2>How far skin may turn in new projects</h2>
              <SkinTolerance label="How far skin may turn in new projects" degrees={studio.skin} />
            </Part>
            <Part aria-label="Where looks break">
              <h2>When a look breaks</h2>
              <p>
                What each measure may be at most, on the worst picture. Looks are held against it when they are tested
                next.
              </p>
              <StressLimits />
            </Part>
            <Part aria-label="Room">
              <h2>Room</h2>
              <p>
                What the files of one person, and those of a project, may take. What takes room stands under{" "}
                <Link to="/studio/store">Store</Link>.
              </p>
              <RoomLimits person={studio.person_gb} project={studio.project_gb} />
            </Part>
            <Part aria-label="To begin with">
              <h2>To begin with</h2>
              <p>
                Test pictures, looks, presets and categories that come with Saucer:{" "}
                <Link to="/studio/begin">take them</Link>, also later.
              </p>
            </Part>
          </>
        )}
      </Room>
    </Rooms>
  );
}
