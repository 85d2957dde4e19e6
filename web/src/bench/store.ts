/** The look being edited: actions in, next state out. Works without React. Undo is a list of named states. */
import type { Look, Step } from "../api/types";

export interface Change {
  readonly name: string;
  readonly look: Look;
}

export interface BenchState {
  readonly look: Look;
  readonly selected: string | null;
  /** What each change was called and how the look stood before it, oldest first. */
  readonly past: readonly Change[];
  readonly future: readonly Change[];
  /** A drag or a run of key presses that counts as one change while it lasts. */
  readonly gesture: string | null;
}

const MOST_CHANGES = 100;
let made = 0;

/** An id that stays with a step through edits. */
export function newStepId(): string {
  made += 1;
  return `${Date.now().toString(36)}-${made.toString(36)}-${Math.floor(Math.random() * 1e6).toString(36)}`;
}

/** The same look, every step with an id. */
export function withIds(look: Look): Look {
  return { ...look, steps: (look.steps ?? []).map(identified) };
}

function identified(step: Step): Step {
  const own = step.id ? step : { ...step, id: newStepId() };
  return own.kind === "group" ? { ...own, steps: (own.steps ?? []).map(identified) } : own;
}

export function opened(look: Look, past: readonly Change[] = [], future: readonly Change[] = []): BenchState {
  const whole = withIds(look);
  return { look: whole, selected: flat(whole.steps ?? [])[0]?.id ?? null, past, future, gesture: null };
}

/** Every step that is no group, in the order the light goes through. */
export function flat(steps: readonly Step[]): Step[] {
  return steps.flatMap((step) => (step.kind === "group" ? flat(step.steps ?? []) : [step]));
}

export function findStep(look: Look, id: string | null): Step | undefined {
  const search = (steps: readonly Step[]): Step | undefined => {
    for (const step of steps) {
      if (step.id === id) return step;
      const inner = step.kind === "group" ? search(step.steps ?? []) : undefined;
      if (inner) return inner;
    }
    return undefined;
  };
  return id === null ? undefined : search(look.steps ?? []);
}

/** The top-level index of the step, or of the group that holds it. */
export function stageOf(look: Look, id: string | null): number {
  return Math.max(0, (look.steps ?? []).findIndex((step) => step.id === id || (step.kind === "group" && findStep({ ...look, steps: step.steps ?? [] }, id))));
}

type Edit = { readonly type: "edit"; readonly name: string; readonly look: Look; readonly gesture?: string | undefined };
export type Action =
  | Edit
  | { readonly type: "select"; readonly id: string | null }
  | { readonly type: "endGesture" }
  | { readonly type: "undo" }
  | { readonly type: "redo" }
  | { readonly type: "open"; readonly state: BenchState };

function edited(state: BenchState, action: Edit): BenchState {
  if (action.look === state.look) return state;
  const goesOn = action.gesture !== undefined && action.gesture === state.gesture;
  const past = goesOn ? state.past : [...state.past, { name: action.name, look: state.look }].slice(-MOST_CHANGES);
  return { ...state, look: action.look, past, future: [], gesture: action.gesture ?? null };
}

function kept(state: BenchState): BenchState {
  return findStep(state.look, state.selected) ? state : { ...state, selected: flat(state.look.steps ?? [])[0]?.id ?? null };
}

export function reduce(state: BenchState, action: Action): BenchState {
  switch (action.type) {
    case "edit":
      return kept(edited(state, action));
    case "select":
      return { ...state, selected: action.id, gesture: null };
    case "endGesture":
      return state.gesture === null ? state : { ...state, gesture: null };
    case "undo": {
      const last = state.past.at(-1);
      if (!last) return state;
      return kept({ ...state, look: last.look, past: state.past.slice(0, -1), future: [...state.future, { name: last.name, look: state.look }], gesture: null });
    }
    case "redo": {
      const next = state.future.at(-1);
      if (!next) return state;
      return kept({ ...state, look: next.look, past: [...state.past, { name: next.name, look: state.look }], future: state.future.slice(0, -1), gesture: null });
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
    this.edit(name, (look) => ({ ...look, steps: mapped(look.steps ?? [], id, change) }), gesture && `${id} ${gesture}`);
  }
}

function mapped(steps: readonly Step[], id: string, change: (step: Step) => Step): Step[] {
  return steps.map((step) => {
    if (step.id === id) return change(step);
    return step.kind === "group" ? { ...step, steps: mapped(step.steps ?? [], id, change) } : step;
  });
}

export function withoutStep(steps: readonly Step[], id: string): Step[] {
  return steps.filter((step) => step.id !== id).map((step) => (step.kind === "group" ? { ...step, steps: withoutStep(step.steps ?? [], id) } : step));
}

/** The step one place earlier (-1) or later (+1) among its neighbours. */
export function movedStep(steps: readonly Step[], id: string, by: -1 | 1): Step[] {
  const at = steps.findIndex((step) => step.id === id);
  if (at < 0) return steps.map((step) => (step.kind === "group" ? { ...step, steps: movedStep(step.steps ?? [], id, by) } : step));
  const next = [...steps];
  const other = next[at + by];
  const own = next[at];
  if (!other || !own) return next;
  next[at + by] = own;
  next[at] = other;
  return next;
}
