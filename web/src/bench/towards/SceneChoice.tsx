import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { project as projectQuery } from "../../api/projects";
import type { ProjectLine } from "../../api/types";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { subjectsOfScene, type Subject } from "./subjects";

const Root = styled.div`
  display: grid;
  gap: 8px;
  > p {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
    margin: 0;
  }
`;

interface Props {
  readonly projects: readonly ProjectLine[];
  readonly onChange: (subjects: readonly Subject[]) => void;
}

const counted = (count: number) => (count === 1 ? "1 picture" : `${String(count)} pictures`);

/** A scene of a project, whose shots the look is brought towards a picture on. */
export function SceneChoice({ projects, onChange }: Props) {
  const [id, setId] = useState(projects[0]?.id ?? 0);
  const [scene, setScene] = useState<number | null>(null);
  const { data: project, error } = useQuery(projectQuery(id));
  const chosen = project && scene !== null ? subjectsOfScene(project, scene) : null;
  return (
    <Root>
      <Picker
        label="Project"
        options={projects.map((one) => ({ id: String(one.id), name: one.name }))}
        value={String(id)}
        onChange={(next) => {
          setId(Number(next));
          setScene(null);
          onChange([]);
        }}
      />
      {project && (
        <Picker
          label="Scene"
          options={project.scenes.map((one) => ({ id: String(one.id), name: one.name }))}
          value={scene === null ? "" : String(scene)}
          onChange={(next) => {
            setScene(Number(next));
            onChange(subjectsOfScene(project, Number(next)));
          }}
        />
      )}
      {chosen && <p>{chosen.length === 0 ? "No shot lies there." : `Over ${counted(chosen.length)} of its shots.`}</p>}
      {error && <Notice>{wordsFor(error)}</Notice>}
    </Root>
  );
}
