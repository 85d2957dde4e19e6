/** The draft saves itself. What could not be sent is kept in this browser until it can. */
import { Problem, Unreachable, wordsFor } from "../../api/client";
import { saveDraft } from "../../api/looks";
import type { DraftState, Look } from "../../api/types";
import { forget, recall, remember } from "../../browser/kept";
import type { Change } from "../store";

export type SaveState =
  | { readonly kind: "saved" }
  | { readonly kind: "waiting" }
  | { readonly kind: "saving" }
  | { readonly kind: "offline" }
  | { readonly kind: "conflict"; readonly by: string; readonly revision: number }
  | { readonly kind: "refused"; readonly words: string };

const PAUSE = 500;
const RETRY = 2000;

interface Kept {
  readonly look: Look;
  readonly revision: number;
}

const draftName = (id: number) => `unsaved.${id}`;
const historyName = (id: number) => `history.${id}`;

export function keptDraft(id: number): Kept | null {
  const found = recall(draftName(id)) as Partial<Kept> | null;
  return found?.look && typeof found.revision === "number" ? (found as Kept) : null;
}

export function keptHistory(id: number): { past: Change[]; future: Change[] } {
  const found = recall(historyName(id)) as Partial<{ past: Change[]; future: Change[] }> | null;
  return found?.past && found.future ? { past: found.past, future: found.future } : { past: [], future: [] };
}

export function keepHistory(id: number, past: readonly Change[], future: readonly Change[]): void {
  remember(historyName(id), { past: past.slice(-40), future: future.slice(-40) });
}

export class Autosave {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private pending: Look | null = null;
  private sending = false;
  private closed = false;
  private followed: Look | null = null;
  state: SaveState = { kind: "saved" };

  constructor(
    private readonly id: number,
    private revision: number,
    private readonly onState: (state: SaveState, saved?: DraftState) => void,
  ) {}

  /** The look as it stands now; sent after a short pause. */
  changed(look: Look): void {
    if (this.closed || look === this.followed) return;
    this.pending = look;
    remember(draftName(this.id), { look, revision: this.revision });
    if (this.state.kind === "conflict") return;
    if (!this.sending) this.tell({ kind: "waiting" });
    this.later(PAUSE);
  }

  /** Send now and wait for it. Rejects when it could not be saved. */
  async flush(): Promise<void> {
    clearTimeout(this.timer);
    while (this.sending) await new Promise((resolve) => setTimeout(resolve, 20));
    if (this.pending) await this.send();
    if (this.pending)
      throw new Error(
        this.state.kind === "conflict" ? "Settle the conflict first." : "The draft could not be saved yet.",
      );
  }

  /** Go on from what the server holds now; the next change is saved over it. */
  rebase(revision: number): void {
    this.revision = revision;
    this.pending = null;
    this.tell({ kind: "waiting" });
  }

  /** What the server holds is shown here now: there is nothing to save. */
  follow(look: Look, revision: number): void {
    this.followed = look;
    this.revision = revision;
    this.pending = null;
    forget(draftName(this.id));
    this.tell({ kind: "saved" });
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.timer);
    if (this.pending && this.state.kind !== "conflict") void this.send();
  }

  private later(wait: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.send(), wait);
  }

  private tell(state: SaveState, saved?: DraftState): void {
    this.state = state;
    if (!this.closed) this.onState(state, saved);
  }

  private async send(): Promise<void> {
    const look = this.pending;
    if (!look || this.sending) return;
    this.sending = true;
    this.tell({ kind: "saving" });
    try {
      const saved = await saveDraft(this.id, look, this.revision);
      this.revision = saved.revision;
      this.sending = false;
      if (this.pending === look) {
        this.pending = null;
        forget(draftName(this.id));
        this.tell({ kind: "saved" }, saved);
      } else {
        remember(draftName(this.id), { look: this.pending, revision: this.revision });
        this.tell({ kind: "waiting" }, saved);
        this.later(PAUSE);
      }
    } catch (error) {
      this.sending = false;
      this.failed(error);
    }
  }

  private failed(error: unknown): void {
    if (error instanceof Problem && error.status === 409) {
      this.tell({
        kind: "conflict",
        by: typeof error.detail.by === "string" ? error.detail.by : "Somebody",
        revision: Number(error.detail.revision),
      });
    } else if (error instanceof Unreachable || (error instanceof Problem && error.status >= 500)) {
      this.tell({ kind: "offline" });
      this.later(RETRY);
    } else {
      this.tell({ kind: "refused", words: wordsFor(error) });
    }
  }
}
