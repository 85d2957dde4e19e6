import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { pictures as picturesQuery } from "../api/pictures";
import { useAddShots } from "../api/projects";
import type { Project } from "../api/types";
import { Primary, Secondary } from "../kit/Button";
import { Check } from "../kit/Check";
import { Notice } from "../kit/Notice";
import { Sheet, SheetBody, SheetFoot } from "../kit/Sheet";
import { TextBox } from "../kit/TextBox";

const Boxes = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 8px 14px;
  max-height: 320px;
  overflow-y: auto;
`;

/** Pictures of the studio as shots of a scene. */
export function AddShots({ project, onClose }: { project: Project; onClose: () => void }) {
  const { data: pictures = [] } = useQuery(picturesQuery);
  const add = useAddShots(project.id);
  const list = useId();
  const [scene, setScene] = useState(project.scenes.at(-1)?.name ?? "");
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  return (
    <Sheet title="Bring shots in" isOpen onClose={onClose}>
      <SheetBody>
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
        <Boxes role="group" aria-label="Pictures">
          {pictures
            .filter((one) => !one.passing)
            .map((one) => (
              <Check
                key={one.id}
                isOn={chosen.has(one.id)}
                onChange={(on) =>
                  setChosen((last) => new Set(on ? [...last, one.id] : [...last].filter((id) => id !== one.id)))
                }
              >
                {one.name}
              </Check>
            ))}
        </Boxes>
        {add.error && <Notice>{wordsFor(add.error)}</Notice>}
      </SheetBody>
      <SheetFoot>
        <Secondary onPress={onClose}>Cancel</Secondary>
        <Primary
          isDisabled={chosen.size === 0 || scene.trim() === ""}
          isPending={add.isPending}
          onPress={() => add.mutate({ scene, pictures: [...chosen] }, { onSuccess: onClose })}
        >
          Bring in {chosen.size}
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
