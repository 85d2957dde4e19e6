/** The looks that the sides of a comparison stand for. */
import { fetchLook, fetchVersion } from "../../api/looks";
import type { Look } from "../../api/types";
import { mapped } from "../arrange";
import { otherVariant } from "../variants";
import type { Source } from "../view/view";

export interface Side {
  readonly look: Look;
  readonly sampled: boolean;
}

/** The side as it can be had at once; null for one that has to be fetched first, and for the original, which is no look. */
export function sideOf(source: Source, draft: Look, selected: string | null): Side | null {
  if (source === "draft") return { look: draft, sampled: false };
  if (source === "sampled") return { look: draft, sampled: true };
  if (source === "without" && selected !== null) {
    return {
      look: { ...draft, steps: mapped(draft.steps ?? [], selected, (step) => ({ ...step, enabled: false })) },
      sampled: false,
    };
  }
  if (source === "variant") return { look: otherVariant(draft, selected) ?? draft, sampled: false };
  return source === "without" ? { look: draft, sampled: false } : null;
}

/** Looks and versions fetched for comparing, kept as long as the Bench is open. Another look's draft is asked for anew each time it is chosen. */
export class FetchedLooks {
  private readonly known = new Map<string, Look>();

  constructor(
    private readonly id: number,
    private readonly onFetched: () => void,
    private readonly onError: (error: unknown) => void,
  ) {}

  get(source: Source): Look | undefined {
    const found = this.known.get(source);
    if (!found) void this.fetch(source);
    return found;
  }

  forget(source: Source): void {
    if (source.startsWith("look-")) this.known.delete(source);
  }

  private async fetch(source: Source): Promise<void> {
    const [kind, number] = source.split("-");
    try {
      const look =
        kind === "version" ? await fetchVersion(this.id, Number(number)) : (await fetchLook(Number(number))).draft;
      this.known.set(source, look);
      this.onFetched();
    } catch (error) {
      this.onError(error);
    }
  }
}
