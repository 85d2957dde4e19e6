import { useQuery } from "@tanstack/react-query";
import { ChevronDown, Trash2 } from "lucide-react";
import { useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { pictures as picturesQuery, pictureSets, useDeletePictureSet, useSavePictureSet } from "../../api/pictures";
import { useMay } from "../../api/session";
import type { Picture } from "../../api/types";
import { IconButton, Primary } from "../../kit/Button";
import { Flyout } from "../../kit/Flyout";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { Toggle } from "../../kit/Toggle";
import { TextBox } from "../../kit/TextBox";
import { useBench, useViewPart } from "../../look/useBench";
import { oneLine } from "../../kit/oneLine";

const Opens = styled(Button)`
  display: inline-flex;
  align-items: center;
  gap: 5px;
  max-width: 116px;
  border: 0;
  background: none;
  padding: 3px 9px;
  min-height: 26px;
  border-radius: 13px;
  cursor: pointer;
  font-weight: 500;
  color: inherit;
  span {
    ${oneLine}
  }
  svg {
    width: 13px;
    height: 13px;
    flex: none;
  }
  &[data-hovered] {
    background: color-mix(in srgb, currentColor 12%, transparent);
  }
  &[data-focus-visible] {
    outline-color: ${(p) => p.theme.surround.ink};
  }
`;
const Row = styled.div`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
`;
const Ticks = styled.div`
  display: grid;
  gap: 3px;
  max-height: 220px;
  overflow-y: auto;
  padding: 2px;
`;

/** Which test pictures are in the tray: all of them, or a set saved by name. */
export function SetMenu({ pictures }: { pictures: readonly Picture[] }) {
  const { view } = useBench();
  const mayDesign = useMay("design");
  const chosen = useViewPart((one) => one.set);
  const { data: sets = [] } = useQuery(pictureSets);
  const { data: all = [] } = useQuery(picturesQuery);
  const save = useSavePictureSet();
  const remove = useDeletePictureSet();
  const [name, setName] = useState("");
  const [ticked, setTicked] = useState<readonly number[] | null>(null);
  const set = sets.find((one) => one.id === chosen);
  const shown = set?.name ?? "All pictures";
  const ids = ticked ?? pictures.map((one) => one.id);
  const title = name.trim() || (set?.may_change ? set.name : "");

  async function keep() {
    const made = await save.mutateAsync({ name: title, pictures: [...ids] });
    view.set({ set: made.id });
    setName("");
    setTicked(null);
  }

  return (
    <Flyout
      label="Set of test pictures"
      placement="top start"
      button={
        <Opens aria-label={`Set of test pictures: ${shown}`}>
          <span>{shown}</span>
          <ChevronDown aria-hidden />
        </Opens>
      }
    >
      <Row>
        <Picker
          label="In the tray"
          value={String(chosen ?? "all")}
          onChange={(id) => {
            view.set({ set: id === "all" ? null : Number(id) });
            setTicked(null);
          }}
          options={[
            { id: "all", name: "All pictures" },
            ...sets.map((one) => ({ id: String(one.id), name: one.name, note: `${one.pictures.length} pictures` })),
          ]}
        />
        {set?.may_change && (
          <IconButton
            aria-label={`Delete the set ${set.name}`}
            onPress={() => remove.mutate(set.id, { onSuccess: () => view.set({ set: null }) })}
          >
            <Trash2 aria-hidden />
          </IconButton>
        )}
      </Row>
      {mayDesign && (
        <>
          <Ticks role="group" aria-label="Pictures of the set">
            {all.map((one) => (
              <Toggle
                key={one.id}
                label={one.name}
                showLabel
                isOn={ids.includes(one.id)}
                onChange={(on) => setTicked(on ? [...ids, one.id] : ids.filter((id) => id !== one.id))}
              />
            ))}
          </Ticks>
          <Row>
            <TextBox
              label={set?.may_change ? "Name; empty changes this set" : "Save as a set"}
              value={name}
              onChange={setName}
              maxLength={60}
              placeholder={set?.may_change ? set.name : "People, night, sky…"}
            />
            <Primary isDisabled={!title || ids.length === 0} isPending={save.isPending} onPress={() => void keep()}>
              Save
            </Primary>
          </Row>
        </>
      )}
      {(save.error ?? remove.error) && <Notice>{wordsFor(save.error ?? remove.error)}</Notice>}
    </Flyout>
  );
}
