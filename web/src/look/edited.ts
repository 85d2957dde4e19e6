/** Which preset a look was opened to edit; for as long as the tab is open. */
import { recall, remember } from "../browser/kept";

const nameOf = (look: number) => `edited-preset.${String(look)}`;

export const markEdited = (look: number, preset: number) => remember(nameOf(look), preset, sessionStorage);
export const editedPreset = (look: number): number | null => Number(recall(nameOf(look), sessionStorage)) || null;
