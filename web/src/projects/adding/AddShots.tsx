import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { mediaFolders } from "../../api/footage";
import { pictures as picturesQuery } from "../../api/pictures";
import { useAddShots, useNameByPattern } from "../../api/projects";
import type { Project } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Choice } from "../../kit/Choice";
import { Notice } from "../../kit/Notice";
import { PlainTable } from "../../kit/PlainTable";
import { Sheet, SheetBody, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { FromFiles } from "./FromFiles";
import { FromFolder } from "./FromFolder";

const Boxes = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 8px 14px;
  max-height: 260px;
  overflow-y: auto;
`;
const Scroll = styled.div`
  max-height: 190px;
  overflow-y: auto;
`;

type From = "studio" | "files" | "folder";
type Naming = "hand" | "pattern";

/** Pictures, clips and sequences as shots: of the studio, from files, or from a media folder; scenes by hand or out of their names. */
export function AddShots({
  project,
  onClose,
  onTaken,
}: {
  project: Project;
  onClose: () => void;
  onTaken: (shots: number[]) => void;
}) {
  const { data: pictures = [] } = useQuery(picturesQuery);
  const { data: folders = [] } = useQuery(mediaFolders);
  const add = useAddShots(project.id);
  const name = useNameByPattern(project.id);
  const list = useId();
  const [from, setFrom] = useState<From>("studio");
  const [naming, setNaming] = useState<Naming>("hand");
  const [scene, setScene] = useState(project.scenes.at(-1)?.name ?? "");
  const [pattern, setPattern] = useState("{scene}_{shot}");
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const named = naming === "pattern" ? (name.data ?? []).filter((one) => chosen.has(one.picture)) : [];
  const fitting = named.filter((one) => one.fits);

  function choose(ids: readonly number[], on = true) {
    const next = new Set(on ? [...chosen, ...ids] : [...chosen].filter((id) => !ids.includes(id)));
    setChosen(next);
    if (naming === "pattern" && next.size > 0) name.mutate({ pictures: [...next], pattern });
  }
  function send() {
    const shots =
      naming === "hand"
        ? pictures.filter((one) => chosen.has(one.id)).map((one) => ({ picture: one.id, scene, code: "" }))
        : fitting.map((one) => ({ picture: one.picture, scene: one.scene, code: one.code }));
    const before = new Set(project.shots.map((one) => one.id));
    add.mutate(shots, {
      onSuccess: (now) => {
        onTaken(now.shots.map((one) => one.id).filter((id) => !before.has(id)));
        onClose();
      },
    });
  }
  const count = naming === "hand" ? chosen.size : fitting.length;
  return (
    <Sheet title="Bring shots in" isOpen onClose={onClose} width="720px">
      <SheetBody>
        <Choice
          label="Where they are"
          value={from}
          options={[
            ["studio", "In the studio"],
            ["files", "In files"],
            ...(folders.length > 0 ? ([["folder", "In a media folder"]] as const) : []),
          ]}
          onChange={setFrom}
        />
        {from === "files" && <FromFiles onTaken={(ids) => choose(ids)} />}
        {from === "folder" && <FromFolder folders={folders} onTaken={(ids) => choose(ids)} />}
        <Boxes role="group" aria-label="Pictures">
          {pictures
            .filter((one) => !one.passing && (from === "studio" || chosen.has(one.id)))
            .map((one) => (
              <Check key={one.id} isOn={chosen.has(one.id)} onChange={(on) => choose([one.id], on)}>
                {one.name}
                {one.moving ? ` (${String(one.moving.count)} frames)` : ""}
              </Check>
            ))}
        </Boxes>
        <Choice
          label="How scenes are named"
          value={naming}
          options={[
            ["hand", "One scene for all"],
            ["pattern", "Out of their names"],
          ]}
          onChange={(way) => {
            setNaming(way);
            if (way === "pattern" && chosen.size > 0) name.mutate({ pictures: [...chosen], pattern });
          }}
        />
        {naming === "hand" ? (
          <>
            <TextBox
              label="Scene"
              value={scene}
              onChange={setScene}
              maxLength={80}
              list={list}
              placeholder="Quay, evening"
            />
            <datalist id={list}>
              {project.scenes.map((one) => (
                <option key={one.id} value={one.name} />
              ))}
            </datalist>
          </>
        ) : (
          <>
            <TextBox
              label="Pattern of the names; * stands for anything"
              value={pattern}
              onChange={(text) => {
                setPattern(text);
                if (chosen.size > 0) name.mutate({ pictures: [...chosen], pattern: text });
              }}
              maxLength={120}
            />
            {name.error && <Notice>{wordsFor(name.error)}</Notice>}
            {named.length > 0 && !name.error && (
              <Scroll>
                <PlainTable aria-label="What the pattern makes of the names">
                  <thead>
                    <tr>
                      <th>Name</th>
                      <th>Scene</th>
                      <th>Shot</th>
                    </tr>
                  </thead>
                  <tbody>
                    {named.map((one) => (
                      <tr key={one.picture}>
                        <td>{one.name}</td>
                        <td>{one.fits ? one.scene : "does not fit; left out"}</td>
                        <td>{one.fits ? one.code : ""}</td>
                      </tr>
                    ))}
                  </tbody>
                </PlainTable>
              </Scroll>
            )}
          </>
        )}
        {add.error && <Notice>{wordsFor(add.error)}</Notice>}
      </SheetBody>
      <SheetFoot>
        <Secondary onPress={onClose}>Cancel</Secondary>
        <Primary
          isDisabled={count === 0 || (naming === "hand" && scene.trim() === "")}
          isPending={add.isPending}
          onPress={send}
        >
          Bring in {count}
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
