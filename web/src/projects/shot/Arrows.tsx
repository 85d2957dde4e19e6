import { ChevronLeft, ChevronRight } from "lucide-react";
import { useEffect } from "react";
import { Link, useNavigate } from "react-router";
import type { Project, Shot } from "../../api/types";
import { useActions } from "../../browser/actions";

interface Props {
  readonly project: Project;
  readonly previous: Shot | undefined;
  readonly next: Shot | undefined;
}

/** Back to the wall, and to the shots beside this one; Page up and Page down do the same. */
export function Arrows({ project, previous, next }: Props) {
  const navigate = useNavigate();
  const to = (shot: Shot) => `/projects/${String(project.id)}/shots/${String(shot.id)}`;
  const walk = (name: string, keys: string, shot: Shot | undefined) =>
    shot ? [{ name: `${name}: ${shot.code}`, keys, run: () => void navigate(to(shot)) }] : [];
  useActions([
    ...walk("Shot before", "Page up", previous),
    ...walk("Shot after", "Page down", next),
    { name: `Back to the wall of ${project.name}`, run: () => void navigate(`/projects/${String(project.id)}`) },
  ]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLInputElement || event.defaultPrevented) return;
      const way = event.key === "PageUp" ? previous : event.key === "PageDown" ? next : undefined;
      if (way) void navigate(to(way));
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
  return (
    <span>
      <Link to={`/projects/${String(project.id)}`}>{project.name}</Link>
      {previous && (
        <Link to={to(previous)} aria-label={`Shot before: ${previous.code}`} title="Page up">
          <ChevronLeft size={16} />
        </Link>
      )}
      {next && (
        <Link to={to(next)} aria-label={`Shot after: ${next.code}`} title="Page down">
          <ChevronRight size={16} />
        </Link>
      )}
    </span>
  );
}
