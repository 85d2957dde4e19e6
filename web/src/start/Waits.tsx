import { Link } from "react-router";
import styled from "styled-components";
import { stripShotOf } from "../api/projects";
import { previewOf } from "../api/shelf";
import type { Picture, Start } from "../api/types";
import { since } from "../kit/since";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 12px;
  a {
    display: grid;
    grid-template-columns: 64px minmax(0, 1fr);
    gap: 10px;
    align-items: start;
    color: inherit;
  }
  a:hover b {
    text-decoration: underline;
  }
  img,
  i {
    width: 64px;
    height: 40px;
    object-fit: cover;
    display: block;
    background: ${(p) => p.theme.tokens.hush};
  }
  b {
    display: block;
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
    overflow-wrap: anywhere;
  }
`;
const Nothing = styled.p`
  color: ${(p) => p.theme.tokens.soft};
`;

interface Line {
  readonly key: string;
  readonly to: string;
  readonly image: string | null;
  readonly name: string;
  readonly words: string;
}

const counted = (count: number, noun: string) => `${String(count)} ${noun}${count === 1 ? "" : "s"}`;

function versionLines(waits: Start["waits"], picture: Picture | undefined): readonly Line[] {
  return waits.map((one) => {
    const remarks = one.remarks > 0 ? `, ${counted(one.remarks, "open remark")}` : "";
    const moved = one.state === "sent back" ? `sent back by ${one.by}` : `${one.state} by ${one.by}`;
    const said = one.words ? `: ${one.words}` : "";
    return {
      key: `${one.kind} ${String(one.entry)}`,
      to: `/shelf/${one.kind}/${String(one.entry)}`,
      image: one.card && picture ? previewOf(one.card, picture) : null,
      name: `${one.name}, version ${String(one.number)}`,
      words:
        one.state === "draft" || one.state === "published"
          ? `${counted(one.remarks, "open remark")}, ${since(one.at)}`
          : `${moved} ${since(one.at)}${remarks}${said}`,
    };
  });
}

function projectLines(projects: Start["projects"]): readonly Line[] {
  return projects
    .filter((one) => one.mine === "leads" || one.mine === "grades")
    .filter((one) => one.misfits > 0 || one.newer > 0)
    .map((one) => {
      const [first] = one.strip;
      const words = [
        one.misfits > 0 ? counted(one.misfits, "misfit") : "",
        one.newer > 0 ? `a newer version of ${counted(one.newer, "look")} is offered` : "",
      ];
      return {
        key: `project ${String(one.id)}`,
        to: `/projects/${String(one.id)}`,
        image: first ? stripShotOf(one.id, first) : null,
        name: one.name,
        words: words.filter(Boolean).join(", "),
      };
    });
}

/** What others wait for, what came back, and what is to be seen to in one's own projects. */
export function Waits({ found, picture }: { found: Start; picture: Picture | undefined }) {
  const lines = [...versionLines(found.waits, picture), ...projectLines(found.projects)];
  return (
    <section aria-labelledby="waits">
      <h2 id="waits">Waits for you</h2>
      {lines.length === 0 && <Nothing>Nothing waits for you.</Nothing>}
      <List>
        {lines.map((line) => (
          <li key={line.key}>
            <Link to={line.to}>
              {line.image ? <img src={line.image} alt="" draggable={false} /> : <i />}
              <span>
                <b>{line.name}</b>
                <small>{line.words}</small>
              </span>
            </Link>
          </li>
        ))}
      </List>
    </section>
  );
}
