import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useId, useMemo, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { mediaFolders } from "../../api/footage";
import { pictures as picturesQuery } from "../../api/pictures";
import { namedByPattern, useAddShots } from "../../api/projects";
import type { Project } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Notice } from "../../kit/Notice";
import { PlainTable } from "../../kit/PlainTable";
import { Sheet, SheetBody, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { FromFiles } from "./FromFiles";
import { FromFolder } from "./FromFolder";
import { proposedPattern, sceneOfFolder } from "../../media/grouped";
import { PictureGrid } from "../../media/PictureGrid";

const Scroll = styled.div`
  max-height: 190px;
  overflow-y: auto;
`;

type From = "studio" | "files" | "folder";
type Naming = "hand" | "pattern" | "folder";

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
  const list = useId();
  const [from, setFrom] = useState<From>("studio");
  const [said, setSaid] = useState<Naming | null>(null);
  const [scene, setScene] = useState(project.scenes.at(-1)?.name ?? "");
  const [typed, setTyped] = useState<string | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const picked = pictures.filter((one) => chosen.has(one.id));
  const proposal = proposedPattern(picked.map((one) => one.name));
  const pattern = typed ?? proposal ?? "{scene}_{shot}";
  // Scenes out of names are proposed where names have them; whoever has said how goes before.
  const naming = said ?? (proposal ? "pattern" : "hand");
  const hasFolders = picked.some((one) => one.folder !== "");
  const isNamed = naming === "pattern" && picked.length > 0;
  const name = useQuery({
    ...namedByPattern(
      project.id,
      picked.map((one) => one.id),
      pattern,
    ),
    enabled: isNamed,
    placeholderData: keepPreviousData,
  });
  const named = isNamed && !name.isPlaceholderData ? (name.data ?? []) : [];
  const fitting = named.filter((one) => one.fits);
  const there = useMemo(() => new Set(project.shots.map((one) => one.picture)), [project.shots]);
  const shown = pictures.filter((one) => !one.passing && (from === "studio" || chosen.has(one.id)));

  const choose = (ids: readonly number[]) => setChosen((last) => new Set([...last, ...ids]));
  function send() {
    const shots =
      naming !== "pattern"
        ? picked.map((one) => ({
            picture: one.id,
            scene: naming === "folder" ? sceneOfFolder(one.folder) || scene : scene,
            code: "",
          }))
        : fitting.map((one) => ({ picture: one.picture, scene: one.scene, code: one.code }));
    const before = new Set(project.shots.map((one) => one.id));
    add.mutate(shots, {
      onSuccess: (now) => {
        onTaken(now.shots.map((one) => one.id).filter((id) => !before.has(id)));
        onClose();
      },
    });
  }
  const count = naming === "pattern" ? fitting.length : picked.length;
  const needsScene = naming === "hand" || (naming === "folder" && picked.some((one) => one.folder === ""));
  return (
    <Sheet title="Bring shots in" isOpen onClose={onClose} width="780px">
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
        {from === "files" && <FromFiles onTaken={choose} />}
        {from === "folder" && <FromFolder folders={folders} onTaken={choose} />}
        {(from === "studio" || shown.length > 0) && (
          <PictureGrid pictures={shown} chosen={chosen} there={there} onChange={setChosen} />
        )}
        <Choice
          label="How scenes are named"
          value={naming}
          options={[
            ["hand", "One scene for all"],
            ["pattern", "Out of their names"],
            ...(hasFolders ? ([["folder", "Out of their folders"]] as const) : []),
          ]}
          onChange={setSaid}
        />
        {naming === "folder" && (
          <p>{[...new Set(picked.map((one) => sceneOfFolder(one.folder)).filter(Boolean))].join(", ")}</p>
        )}
        {naming !== "pattern" ? (
          needsScene && (
            <>
              <TextBox
                label={naming === "folder" ? "Scene of those in no folder" : "Scene"}
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
          )
        ) : (
          <>
            <TextBox
              label="Pattern of the names; * stands for anything"
              value={pattern}
              onChange={setTyped}
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
          isDisabled={count === 0 || (needsScene && scene.trim() === "")}
          isPending={add.isPending}
          onPress={send}
        >
          Bring in {count}
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
