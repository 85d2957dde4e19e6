/** Which preset a look was opened to edit; for as long as the tab is open. */
const keyOf = (look: number) => `saucer.edited-preset.${String(look)}`;

export const markEdited = (look: number, preset: number) => sessionStorage.setItem(keyOf(look), String(preset));
export const editedPreset = (look: number): number | null => Number(sessionStorage.getItem(keyOf(look))) || null;
