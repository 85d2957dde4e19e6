import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { people as peopleQuery } from "../../api/projects";
import type { Member } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { Picker } from "../../kit/Picker";
import { oneLine } from "../../kit/oneLine";
import { withoutMarks } from "../../kit/PlainList";

const Rows = styled.ul`
  ${withoutMarks}
  display: grid;
  gap: 6px;
  max-height: 210px;
  overflow-y: auto;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 190px auto;
    align-items: center;
    gap: 10px;
  }
  span {
    ${oneLine}
  }
`;
const Group = styled.fieldset`
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 8px;
  legend {
    padding: 0 0 4px;
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
type Role = Member["role"];
const ROLES: readonly { id: Role; name: string; note: string }[] = [
  { id: "leads", name: "Leads", note: "changes the project and its shots" },
  { id: "grades", name: "Grades", note: "changes shots and delivers them" },
  { id: "follows", name: "Follows", note: "sees everything and writes notes" },
];

interface Props {
  readonly owner: string;
  readonly members: readonly Member[];
  readonly onChange: (members: readonly Member[]) => void;
}

/** Who works on the project, and what each may do in it. */
export function Members({ owner, members, onChange }: Props) {
  const { data: people = [] } = useQuery(peopleQuery);
  const others = people.filter((one) => one.name !== owner && !members.some((member) => member.name === one.username));
  const viewers = new Set(people.filter((one) => one.role === "viewer").map((one) => one.username));
  return (
    <Group>
      <legend>Members</legend>
      {members.length === 0 && <p>Nobody yet but {owner || "its owner"}.</p>}
      <Rows>
        {members.map((member) => (
          <li key={member.name}>
            <span title={member.shown}>{member.shown}</span>
            {viewers.has(member.name) ? (
              <span>Follows, as a viewer</span>
            ) : (
              <Picker
                label={`What ${member.shown} does`}
                hideLabel
                value={member.role}
                options={ROLES}
                onChange={(role) =>
                  onChange(members.map((one) => (one === member ? { ...one, role: role as Role } : one)))
                }
              />
            )}
            <WordButton
              aria-label={`Take ${member.shown} out`}
              onPress={() => onChange(members.filter((one) => one !== member))}
            >
              Take out
            </WordButton>
          </li>
        ))}
      </Rows>
      {others.length > 0 && (
        <Picker
          label="Add somebody"
          value=""
          options={[
            { id: "", name: "Choose…" },
            ...others.map((one) => ({ id: one.username, name: one.name, note: one.role })),
          ]}
          onChange={(name) => {
            const found = others.find((one) => one.username === name);
            if (found)
              onChange([...members, { name, shown: found.name, role: found.role === "viewer" ? "follows" : "grades" }]);
          }}
        />
      )}
    </Group>
  );
}
