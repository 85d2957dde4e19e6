/** All kinds of steps: every file of kinds/ is one, and beside it its editor, which is fetched when somebody chooses such a step. */
import { lazy, useEffect, type ComponentType } from "react";
import type { Editor, EditorProps, Kind, OnPictureProps } from "./editor";

interface Editing {
  readonly default: ComponentType<EditorProps>;
  readonly OnPicture?: ComponentType<OnPictureProps>;
}

const kinds = import.meta.glob<{ default: Kind }>(["./kinds/*.tsx", "!./kinds/*.editor.tsx"], { eager: true });
const editing = import.meta.glob<Editing>("./kinds/*.editor.tsx");

function editorOf(file: string, kind: Kind): Editor {
  const fetch = editing[file.replace(/tsx$/, "editor.tsx")];
  if (!fetch) throw new Error(`${file} has no editor beside it.`);
  const OnPicture = async () => ({ default: (await fetch()).OnPicture ?? (() => null) });
  return { ...kind, Editor: lazy(fetch), ...(kind.drawsOnPicture ? { OnPicture: lazy(OnPicture) } : {}) };
}

export const editors: Readonly<Record<string, Editor>> = Object.fromEntries(
  Object.entries(kinds).map(([file, { default: kind }]) => [kind.kind, editorOf(file, kind)]),
);

/** All of them, so that nobody who chooses a step waits for its editor, or is without it where the connection is lost by then. */
export const fetchEditors = () => Promise.all(Object.values(editing).map((fetch) => fetch()));

/** Once there is nothing else to do. */
export function useAllEditors(): void {
  useEffect(() => {
    const wait = requestIdleCallback(() => void fetchEditors().catch(() => undefined), { timeout: 5000 });
    return () => cancelIdleCallback(wait);
  }, []);
}
