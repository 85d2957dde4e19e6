import { useState } from "react";
import styled from "styled-components";
import type { SharedLayerGiven } from "../../api/projects";
import { Secondary, WordButton } from "../../kit/Button";
import { Flyout } from "../../kit/Flyout";
import { Picker } from "../../kit/Picker";
import type { Choosing } from "./PartChooser";
import { sharedGiven, type SharedPlace } from "./parts";
import { badgeOf } from "./SharedParts";
import type { SharedDraft } from "./useSharedDraft";

const Opens = styled(WordButton)`
  justify-self: start;
`;

interface Props {
  readonly places: Readonly<Record<"under" | "roll" | "scene" | "over", SharedPlace | null>>;
  readonly draft: SharedDraft;
  readonly onChoose: (choosing: Choosing) => void;
}

const shotsIn = (place: SharedPlace) => `${String(place.reached)} ${place.reached === 1 ? "shot" : "shots"}`;

/** Something put on more than one shot at once: whom it is for, then what. */
export function PutOnMany({ places, draft, onChoose }: Props) {
  return (
    <Flyout
      label="Put something on more shots"
      placement="top start"
      button={<Opens>Put something on more shots</Opens>}
    >
      {(close) => <Choices places={places} draft={draft} onChoose={onChoose} onDone={close} />}
    </Flyout>
  );
}

function Choices({ places, draft, onChoose, onDone }: Props & { readonly onDone: () => void }) {
  const offered = [
    { id: "scene", place: places.scene, name: `Scene ${places.scene?.name ?? ""}`, note: "before their looks" },
    { id: "roll", place: places.roll, name: `All of ${places.roll?.name ?? ""}`, note: "before their own trims" },
    {
      id: "under",
      place: places.under,
      name: "The whole project, first of all",
      note: "under everything, as a camera LUT",
    },
    { id: "over", place: places.over, name: "The whole project, last of all", note: "over everything, as a finish" },
  ].flatMap(({ place, ...one }) => (place ? [{ ...one, place }] : []));
  const [whom, setWhom] = useState(offered[0]?.id ?? "under");
  const place = offered.find((one) => one.id === whom)?.place;
  if (!place) return null;
  const withMore = (what: { entry: number } | { steps: [] }): SharedLayerGiven[] => [
    ...sharedGiven(place.layers),
    { role: place.spot.role ?? "before", strength: 1, enabled: true, off_on: [], ...what },
  ];
  const choose = () => {
    onDone();
    onChoose({
      label: `For ${badgeOf(place)}`,
      kinds: ["look", "lut", "preset"],
      stack: true,
      onTry: (one) => draft.tryOn(place, one && withMore({ entry: one.id })),
      onTake: (one) => draft.take(place, withMore({ entry: one.id })),
    });
  };
  return (
    <>
      <Picker
        label="For"
        value={whom}
        options={offered.map(({ place: one, id, name, note }) => ({ id, name: `${name}, ${shotsIn(one)}`, note }))}
        onChange={setWhom}
      />
      <Secondary onPress={choose}>A look, LUT or preset…</Secondary>
      <Secondary
        onPress={() => {
          draft.take(place, withMore({ steps: [] }));
          onDone();
        }}
      >
        A correction of its own
      </Secondary>
    </>
  );
}
