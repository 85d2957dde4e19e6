import { Link } from "react-router";
import styled from "styled-components";
import { stripShotOf } from "../api/projects";
import type { ProjectLine } from "../api/types";
import { oneLine } from "../kit/oneLine";

const Root = styled(Link)`
  display: grid;
  grid-template-columns: 178px minmax(0, 1fr) 210px;
  gap: 18px;
  align-items: center;
  padding: 11px 0;
  color: inherit;
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  &:hover {
    background: ${(p) => p.theme.tokens.hush};
  }
  b {
    display: block;
    font-weight: 600;
    font-size: ${(p) => p.theme.tokens.size.head};
    overflow-wrap: anywhere;
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Strip = styled.span`
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  gap: 3px;
  img,
  i {
    width: 100%;
    aspect-ratio: 16 / 9;
    object-fit: cover;
    display: block;
    background: ${(p) => p.theme.tokens.hush};
  }
`;
const Empty = styled.span`
  grid-column: 1 / -1;
  color: ${(p) => p.theme.tokens.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
`;
const State = styled.span`
  small {
    ${oneLine}
  }
`;
const Bar = styled.i`
  display: block;
  height: 4px;
  margin-bottom: 6px;
  border-radius: 2px;
  background: ${(p) => p.theme.tokens.line};
  overflow: hidden;
  i {
    display: block;
    height: 100%;
    background: ${(p) => p.theme.tokens.ink};
  }
`;

const counted = (count: number, noun: string) => `${String(count)} ${noun}${count === 1 ? "" : "s"}`;
const ROLES: Record<string, string> = { leads: "you lead", grades: "you grade", follows: "you follow" };

/** What is to be known of a project, in a few words a line. */
export function stateOf(project: ProjectLine): readonly string[] {
  const { shots, approved, misfits, newer, last } = project;
  const how =
    shots === 0
      ? ""
      : approved === shots
        ? "all approved"
        : `${String(approved)} of ${counted(shots, "shot")} approved`;
  return [
    how,
    [misfits ? counted(misfits, "misfit") : "", newer ? `a newer version of ${counted(newer, "look")}` : ""]
      .filter(Boolean)
      .join(", "),
    last ? `delivery ${String(last.number)}, ${last.made.slice(0, 10)}: ${counted(last.files, "file")}` : "",
  ].filter(Boolean);
}

/** A project in a list: a strip of its shots through their looks, how far it is, and who works there. */
export function ProjectRow({ project }: { project: ProjectLine }) {
  const { shots, scenes, people, mine } = project;
  const where = [
    project.code,
    shots ? `${counted(shots, "shot")}, ${counted(scenes, "scene")}` : "no shots yet",
    ROLES[mine] ?? "",
    project.closed ? "closed" : "",
  ];
  const others = people.slice(0, 3).join(", ") + (people.length > 3 ? ` and ${String(people.length - 3)} more` : "");
  return (
    <Root to={`/projects/${String(project.id)}`}>
      <span>
        <b>{project.name}</b>
        <small>{where.filter(Boolean).join(" · ")}</small>
        <small>{others}</small>
      </span>
      <Strip>
        {project.strip.length === 0 && <Empty>Bring pictures or clips in, and they stand here.</Empty>}
        {project.strip.map((shot) => (
          <img key={shot.shot} src={stripShotOf(project.id, shot)} alt={shot.code} loading="lazy" draggable={false} />
        ))}
      </Strip>
      <State>
        {shots > 0 && (
          <Bar aria-hidden>
            <i style={{ width: `${(100 * project.approved) / shots}%` }} />
          </Bar>
        )}
        {stateOf(project).map((line) => (
          <small key={line} title={line}>
            {line}
          </small>
        ))}
      </State>
    </Root>
  );
}
