import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { firstEntries, markOf } from "../../api/shelf";
import { Secondary, WordButton } from "../../kit/Button";
import { Fingerprint } from "../../kit/Disc";
import { Flyout } from "../../kit/Flyout";
import { oneLine } from "../../kit/oneLine";
import { Picker } from "../../kit/Picker";
import { PlainList } from "../../kit/PlainList";
import { TextBox } from "../../kit/TextBox";
import { sharedGiven, type SharedPlace } from "./parts";
import type { SharedDraft } from "./useSharedDraft";

const FEW = 5;
const Found = styled(PlainList)`
  display: grid;
  gap: 2px;
  button {
    display: flex;
    align-items: center;
    gap: 8px;
    width: 100%;
    min-width: 0;
    border: 0;
    padding: 3px 4px;
    background: none;
    color: inherit;
    font: inherit;
    text-align: left;
    cursor: pointer;
    border-radius: ${(p) => p.theme.tokens.radius.field};
    &:hover {
      background: ${(p) => p.theme.tokens.hush};
    }
    span {
      ${oneLine}
    }
  }
`;

const Opens = styled(WordButton)`
  justify-self: start;
`;

interface Props {
  readonly places: Readonly<Record<"under" | "roll" | "scene" | "over", SharedPlace | null>>;
  readonly draft: SharedDraft;
}

const shotsIn = (place: SharedPlace) => `${String(place.reached)} ${place.reached === 1 ? "shot" : "shots"}`;

/** Something put on more than one shot at once: whom it is for, then what. */
export function PutOnMany({ places, draft }: Props) {
  return (
    <Flyout
      label="Put something on more shots"
      placement="top start"
      button={<Opens>Put something on more shots</Opens>}
    >
      {(close) => <Choices places={places} draft={draft} onDone={close} />}
    </Flyout>
  );
}

function Choices({ places, draft, onDone }: Props & { readonly onDone: () => void }) {
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
  const [search, setSearch] = useState("");
  const { data } = useQuery(firstEntries({ search, kinds: ["look", "lut", "preset"] }, 24));
  const place = offered.find((one) => one.id === whom)?.place;
  if (!place) return null;
  const entries = (data?.entries ?? []).filter((one) => one.kind !== "look" || one.detail !== "Look, draft");
  const put = (what: { entry: number } | { steps: [] }) => {
    draft.take(place, [
      ...sharedGiven(place.layers),
      { role: place.spot.role ?? "before", strength: 1, enabled: true, off_on: [], ...what },
    ]);
    onDone();
  };
  return (
    <>
      <Picker
        label="For"
        value={whom}
        options={offered.map(({ place: one, id, name, note }) => ({ id, name: `${name}, ${shotsIn(one)}`, note }))}
        onChange={setWhom}
      />
      <Secondary onPress={() => put({ steps: [] })}>A correction of its own</Secondary>
      <TextBox
        label="Or a look, LUT or preset"
        type="search"
        value={search}
        onChange={setSearch}
        placeholder="A name, or what it does"
      />
      <Found aria-label="Looks, LUTs and presets">
        {entries.slice(0, FEW).map((entry) => (
          <li key={entry.id}>
            <button type="button" onClick={() => put({ entry: entry.id })}>
              <Fingerprint $size={24} src={markOf(entry, 48)} alt="" />
              <span>{entry.name}</span>
            </button>
          </li>
        ))}
      </Found>
    </>
  );
}
