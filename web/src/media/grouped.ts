/** Pictures that can be brought in, as they are looked for: by their words, their folders, or the days they came on. */
import type { Picture } from "../api/types";

export type Order = "all" | "folder" | "date";
type Known = Pick<Picture, "id" | "name" | "file_name" | "folder" | "at">;

export interface PictureGroup<One extends Known = Picture> {
  readonly id: string;
  readonly name: string;
  readonly pictures: readonly One[];
}

/** Those of which each word stands in the name, the file's name or the folder; the newest group first, folders by name. */
export function grouped<One extends Known>(
  pictures: readonly One[],
  search: string,
  order: Order,
): readonly PictureGroup<One>[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = pictures.filter((one) => {
    const said = `${one.name} ${one.file_name} ${one.folder}`.toLowerCase();
    return words.every((word) => said.includes(word));
  });
  if (order === "all") return found.length > 0 ? [{ id: "all", name: "", pictures: found }] : [];
  const groups = new Map<string, One[]>();
  for (const one of found) {
    const name = order === "date" ? one.at.slice(0, 10) : one.folder;
    groups.set(name, [...(groups.get(name) ?? []), one]);
  }
  return [...groups]
    .sort(([a], [b]) =>
      order === "date" ? b.localeCompare(a) : (a === "" ? 1 : 0) - (b === "" ? 1 : 0) || a.localeCompare(b),
    )
    .map(([name, some]) => ({ id: name || "none", name: name || "In no media folder", pictures: some }));
}

/** A pattern that most of these names follow and that puts some of them into one scene; null where there is none. */
export function proposedPattern(names: readonly string[]): string | null {
  for (const sign of ["_", "-", "."]) {
    const scenes = names.flatMap((name) => {
      const at = name.lastIndexOf(sign);
      return at > 0 && /\d/.test(name.slice(at + 1)) ? [name.slice(0, at)] : [];
    });
    if (scenes.length >= 2 && scenes.length >= names.length * 0.8 && new Set(scenes).size < scenes.length)
      return `{scene}${sign}{shot}`;
  }
  return null;
}

/** The scene that a folder is named after: its own name, without what it lies in. */
export const sceneOfFolder = (folder: string) => folder.split("/").filter(Boolean).at(-1) ?? "";
