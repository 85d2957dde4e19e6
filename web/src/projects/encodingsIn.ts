import type { Project } from "../api/types";

/** What the project leaves in, and what its shots are in. */
export const encodingsIn = (project: Pick<Project, "delivery" | "shots"> | undefined): readonly string[] =>
  project ? [...new Set([project.delivery, ...project.shots.map((one) => one.encoding)])] : [];
