import { useState } from "react";
import styled from "styled-components";
import { useChangeStudio } from "../api/team";
import { wordsFor } from "../api/client";
import { Secondary } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { TextBox } from "../kit/TextBox";

const Fields = styled.div`
  display: grid;
  grid-template-columns: repeat(2, 150px);
  gap: 16px;
`;
const MOST = 1_000_000;

/** GB as they are typed: whole, nothing for as many as there are; none for what is no number. */
export function gigabytesOf(typed: string): number | null {
  const text = typed.trim();
  if (text === "") return 0;
  return /^\d+$/.test(text) && Number(text) <= MOST ? Number(text) : null;
}

interface Props {
  readonly person: number;
  readonly project: number;
}

/** What the files of one person, and those of a project, may take. */
export function RoomLimits({ person, project }: Props) {
  const change = useChangeStudio();
  const shown = (gigabytes: number) => (gigabytes === 0 ? "" : String(gigabytes));
  const [typed, setTyped] = useState({ person: shown(person), project: shown(project) });
  const person_gb = gigabytesOf(typed.person);
  const project_gb = gigabytesOf(typed.project);
  const isNumber = person_gb !== null && project_gb !== null;
  return (
    <>
      <Fields>
        <TextBox
          label="GB for each person"
          value={typed.person}
          onChange={(one) => setTyped({ ...typed, person: one })}
          placeholder="As many as there are"
          maxLength={7}
        />
        <TextBox
          label="GB for each project"
          value={typed.project}
          onChange={(one) => setTyped({ ...typed, project: one })}
          placeholder="As many as there are"
          maxLength={7}
        />
      </Fields>
      {!isNumber && <Notice>Whole numbers of GB, or nothing for as many as there are.</Notice>}
      {change.error && <Notice>{wordsFor(change.error)}</Notice>}
      <Secondary
        isDisabled={!isNumber || (person_gb === person && project_gb === project)}
        isPending={change.isPending}
        onPress={() => isNumber && change.mutate({ person_gb, project_gb })}
      >
        Keep
      </Secondary>
    </>
  );
}
