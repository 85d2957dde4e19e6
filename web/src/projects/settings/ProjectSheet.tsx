import { useState } from "react";
import { useNavigate } from "react-router";
import { wordsFor } from "../../api/client";
import { useChangeProject, useDeleteProject } from "../../api/projects";
import type { Member, Project } from "../../api/types";
import { Primary, Secondary, WordButton } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { Sheet, SheetBody, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { encodingsIn } from "../encodingsIn";
import { Members } from "./Members";
import { EncodingPicker } from "../../media/EncodingPicker";

const views = [
  { id: "soft", name: "Soft", note: "what lies above white is drawn in, so that it is seen" },
  { id: "plain", name: "Plain", note: "light of 1 is white" },
];

/** What a project is called, what it leaves in, and who sees it. */
export function ProjectSheet({ project, onClose }: { project: Project; onClose: () => void }) {
  const change = useChangeProject(project.id);
  const remove = useDeleteProject();
  const navigate = useNavigate();
  const [name, setName] = useState(project.name);
  const [code, setCode] = useState(project.code);
  const [note, setNote] = useState(project.note);
  const [delivery, setDelivery] = useState(project.delivery);
  const [view, setView] = useState(project.view);
  const [closed, setClosed] = useState(project.closed);
  const [members, setMembers] = useState<readonly Member[]>(project.members);
  return (
    <Sheet title="About the project" isOpen onClose={onClose}>
      <SheetBody>
        <TextBox label="Name" value={name} onChange={setName} maxLength={120} />
        <TextBox label="Code" value={code} onChange={setCode} maxLength={20} />
        <TextBox label="Note" value={note} onChange={setNote} maxLength={2000} />
        <EncodingPicker label="Delivered in" value={delivery} here={encodingsIn(project)} onChange={setDelivery} />
        <Picker
          label="Light of a scene on a display"
          value={view}
          options={views}
          onChange={(next) => setView(next as Project["view"])}
        />
        <Members owner={project.by} members={members} onChange={setMembers} />
        <Check isOn={closed} onChange={setClosed}>
          Closed: only members, {project.by || "its owner"} and admins see it
        </Check>
        {(change.error ?? remove.error) && <Notice>{wordsFor(change.error ?? remove.error)}</Notice>}
      </SheetBody>
      <SheetFoot>
        <WordButton
          onPress={() =>
            void remove.mutateAsync(project.id).then(
              () => void navigate("/projects", { replace: true }),
              () => undefined,
            )
          }
        >
          Delete the project
        </WordButton>
        <Secondary onPress={onClose}>Cancel</Secondary>
        <Primary
          isDisabled={name.trim() === ""}
          isPending={change.isPending}
          onPress={() =>
            change.mutate(
              {
                name,
                code,
                note,
                delivery,
                view,
                closed,
                members: members.map(({ name: who, role }) => ({ name: who, role })),
              },
              { onSuccess: onClose },
            )
          }
        >
          Keep
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
