/** Steps as text on the clipboard. A look file's text can be pasted too. */
import { readSketch } from "../../api/seen";
import type { Look, Step } from "../../api/types";
import { fresh } from "../../look/arrange";

const FORMAT = "saucer-steps";

export function asText(steps: readonly Step[]): string {
  return JSON.stringify({ format: FORMAT, version: 1, steps }, null, 2);
}

/** The steps in a text, or null where it holds none of ours. The server says what is wrong with them before they come in. */
export async function stepsIn(text: string, look: Look): Promise<Step[] | null> {
  if (!text.includes(FORMAT) && !text.includes("saucer-look")) return null;
  let content: { format?: unknown; steps?: unknown };
  try {
    content = JSON.parse(text) as typeof content;
  } catch {
    throw new Error("The text on the clipboard is not whole: it ends or breaks in the middle of the steps.");
  }
  if ((content.format !== FORMAT && content.format !== "saucer-look") || !Array.isArray(content.steps)) return null;
  const steps = (content.steps as Step[]).map(fresh);
  await readSketch({ ...look, steps });
  return steps;
}
