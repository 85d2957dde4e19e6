/** The look being edited: actions in, next state out. Works without React. Undo is a list of named states. */
import type { Look, Step } from "../api/types";
import { flat, listed, mapped, withIds } from "./arrange";
import { asMember, memberOf, writtenBack } from "./family";

/** What a change was called, and the whole look before it. */
export interface Change {
  readonly name: string;
  readonly look: Look;
}

export interface BenchState {
  /** What is seen and worked at: the recipe, or the one of the family that is in hand. */
  readonly look: Look;
  /** The look with all of its family, as it is saved; the same where it has none. */
  readonly whole: Look;
  /** Which of the family is in hand; empty for the recipe. */
  readonly member: string;
  /** Does what is set hold in every one of the family? */
  readonly together: boolean;
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
    look: asMember(whole, ""),
    whole,
    member: "",
    together: false,
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
  /** Another whole look, with its family, in the place of this one; member: which of it is in hand then. */
  | { readonly type: "replace"; readonly name: string; readonly whole: Look; readonly member?: string | undefined }
  | { readonly type: "member"; readonly member: string }
  | { readonly type: "together"; readonly together: boolean }
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
  return changed(state, action.name, writtenBack(state.whole, state.look, action.look, state), goesOn, action.gesture);
}

function changed(state: BenchState, name: string, whole: Look, goesOn = false, gesture?: string): BenchState {
  const past = goesOn ? state.past : [...state.past, { name, look: state.whole }].slice(-MOST_CHANGES);
  return { ...standing(state, whole), past, future: [], gesture: gesture ?? null, trial: null };
}

/** With this whole look, seen as the one in hand, where it is still there. */
function standing(state: BenchState, whole: Look, wanted = state.member): BenchState {
  const member = memberOf(whole, wanted) ? wanted : "";
  return { ...state, whole, member, look: asMember(whole, member), together: state.together && member !== "" };
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
    case "replace":
      return kept(standing(changed(state, action.name, action.whole), action.whole, action.member));
    case "member":
      return { ...standing(state, state.whole, action.member), gesture: null, trial: null };
    case "together":
      return { ...state, together: action.together && state.member !== "", gesture: null };
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
        ...standing(state, last.look),
        past: state.past.slice(0, -1),
        future: [...state.future, { name: last.name, look: state.whole }],
        gesture: null,
        trial: null,
      });
    }
    case "redo": {
      const next = state.future.at(-1);
      if (!next) return state;
      return kept({
        ...standing(state, next.look),
        past: [...state.past, { name: next.name, look: state.whole }],
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

  /** Change the family, or put another whole look in the place of this one. member: which of it is in hand then */
  replace(name: string, whole: Look, member?: string): void {
    this.dispatch({ type: "replace", name, whole, member });
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
