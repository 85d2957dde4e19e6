/** The look being edited: actions in, next state out. Works without React. Undo is a list of named states. */
import type { Look, Step } from "../api/types";
import { flat, listed, mapped, withIds } from "./arrange";

export interface Change {
  readonly name: string;
  readonly look: Look;
}

export interface BenchState {
  readonly look: Look;
  readonly selected: string | null;
  /** Steps chosen together; holds `selected` and, mostly, nothing else. */
  readonly marked: readonly string[];
  /** A look that is only being tried: shown instead of the draft, never saved. */
  readonly trial: Look | null;
  /** What each change was called and how the look stood before it, oldest first. */
  readonly past: readonly Change[];
  readonly future: readonly Change[];
  /** A drag or a run of key presses that counts as one change while it lasts. */
  readonly gesture: string | null;
}

const MOST_CHANGES = 100;

/** step: that is in hand, where it is there */
export function opened(
  look: Look,
  past: readonly Change[] = [],
  future: readonly Change[] = [],
  step: string | null = null,
): BenchState {
  const whole = withIds(look);
  const found = listed(whole.steps ?? []).find((one) => one.id === step)?.id ?? null;
  return {
    look: whole,
    selected: found,
    marked: found === null ? [] : [found],
    trial: null,
    past,
    future,
    gesture: null,
  };
}

type Edit = {
  readonly type: "edit";
  readonly name: string;
  readonly look: Look;
  readonly gesture?: string | undefined;
};
export type Action =
  | Edit
  | { readonly type: "select"; readonly id: string | null }
  /** Chosen as well, or no more. */
  | { readonly type: "mark"; readonly id: string }
  /** Everything from the selected one to this one, as listed. */
  | { readonly type: "markTo"; readonly id: string }
  | { readonly type: "markAll"; readonly ids: readonly string[] }
  | { readonly type: "try"; readonly look: Look | null }
  | { readonly type: "endGesture" }
  | { readonly type: "undo" }
  /** Back by so many changes, or, with a negative number, forward. */
  | { readonly type: "rewind"; readonly by: number }
  | { readonly type: "redo" }
  | { readonly type: "open"; readonly state: BenchState };

function edited(state: BenchState, action: Edit): BenchState {
  if (action.look === state.look) return state;
  const goesOn = action.gesture !== undefined && action.gesture === state.gesture;
  const past = goesOn ? state.past : [...state.past, { name: action.name, look: state.look }].slice(-MOST_CHANGES);
  return { ...state, look: action.look, past, future: [], gesture: action.gesture ?? null, trial: null };
}

/** What is selected is still there. */
function kept(state: BenchState): BenchState {
  const ids = new Set(listed(state.look.steps ?? []).map((step) => step.id));
  const marked = state.marked.filter((id) => ids.has(id));
  const selected =
    state.selected === null || ids.has(state.selected)
      ? state.selected
      : (marked[0] ?? flat(state.look.steps ?? [])[0]?.id ?? null);
  if (selected === state.selected && marked.length === state.marked.length) return state;
  return { ...state, selected, marked: marked.length > 0 ? marked : selected === null ? [] : [selected] };
}

function marked(state: BenchState, ids: readonly string[], selected: string | null): BenchState {
  return { ...state, selected, marked: ids, gesture: null };
}

/** The picture's look: what is tried, or the draft. */
export function shownLook(state: BenchState): Look {
  return state.trial ?? state.look;
}

export function reduce(state: BenchState, action: Action): BenchState {
  switch (action.type) {
    case "edit":
      return kept(edited(state, action));
    case "select":
      return marked(state, action.id === null ? [] : [action.id], action.id);
    case "mark": {
      const on = state.marked.includes(action.id);
      const ids = on ? state.marked.filter((id) => id !== action.id) : [...state.marked, action.id];
      return marked(state, ids, on ? (ids.at(-1) ?? null) : action.id);
    }
    case "markTo": {
      const ids = listed(state.look.steps ?? []).map((step) => step.id ?? "");
      const ends = [ids.indexOf(state.selected ?? ""), ids.indexOf(action.id)].sort((a, b) => a - b);
      return marked(state, ids.slice(Math.max(0, ends[0] ?? 0), (ends[1] ?? 0) + 1), state.selected ?? action.id);
    }
    case "markAll":
      return marked(state, action.ids, action.ids[0] ?? null);
    case "try":
      return state.trial === action.look ? state : { ...state, trial: action.look };
    case "endGesture":
      return state.gesture === null ? state : { ...state, gesture: null };
    case "undo": {
      const last = state.past.at(-1);
      if (!last) return state;
      return kept({
        ...state,
        look: last.look,
        past: state.past.slice(0, -1),
        future: [...state.future, { name: last.name, look: state.look }],
        gesture: null,
        trial: null,
      });
    }
    case "redo": {
      const next = state.future.at(-1);
      if (!next) return state;
      return kept({
        ...state,
        look: next.look,
        past: [...state.past, { name: next.name, look: state.look }],
        future: state.future.slice(0, -1),
        gesture: null,
        trial: null,
      });
    }
    case "rewind": {
      const step = { type: action.by > 0 ? "undo" : "redo" } as const;
      return Array.from({ length: Math.abs(action.by) }).reduce<BenchState>((now) => reduce(now, step), state);
    }
    case "open":
      return action.state;
  }
}

export class BenchStore {
  private listeners = new Set<() => void>();

  constructor(private state: BenchState) {}

  readonly get = (): BenchState => this.state;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly dispatch = (action: Action): void => {
    const next = reduce(this.state, action);
    if (next === this.state) return;
    this.state = next;
    for (const tell of this.listeners) tell();
  };

  /** Change the look. Edits with the same `gesture` that follow each other are one change to undo. */
  edit(name: string, change: (look: Look) => Look, gesture?: string): void {
    this.dispatch({ type: "edit", name, look: change(this.state.look), gesture });
  }

  /** Change one step, wherever it stands. */
  editStep(name: string, id: string, change: (step: Step) => Step, gesture?: string): void {
    this.edit(
      name,
      (look) => ({ ...look, steps: mapped(look.steps ?? [], id, change) }),
      gesture && `${id} ${gesture}`,
    );
  }
}
