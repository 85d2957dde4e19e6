/** The editors of all kinds of steps: every file of kinds/ is one. */
import type { Editor } from "./editor";

const modules = import.meta.glob<{ default: Editor }>("./kinds/*.tsx", { eager: true });
export const editors: Readonly<Record<string, Editor>> = Object.fromEntries(
  Object.values(modules).map(({ default: editor }) => [editor.kind, editor]),
);
