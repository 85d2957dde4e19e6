/** Every key of the Bench: what it does, and the words for it. One list for the keyboard and for the page that shows the keys. */
import { useEffect, useMemo } from "react";
import type { Picture } from "../../api/types";
import { useActions, type Action } from "../../browser/actions";
import { openSecond } from "../second/channel";
import type { Arrange } from "../recipe/useArrange";
import { zoomedBy } from "../stage/zoom";
import { useBench, type Bench } from "../../look/useBench";
import { ghostsOf, keptGhost, withGhost } from "../../look/variants";

export interface KeyActions {
  readonly arrange: Arrange;
  readonly tray: readonly Picture[];
  readonly add: () => void;
  readonly keep: () => void;
  readonly history: () => void;
  readonly keys: () => void;
  /** The picture in view, or all of the tray, graded, as files. */
  readonly take: () => void;
  /** Towards a picture whose colours are wanted. */
  readonly towards: () => void;
  /** What is in view, as it is seen, becomes what others are held against. */
  readonly pin: () => void;
}

interface Key {
  readonly shown: string;
  readonly words: string;
  /** Changes the look, and is there for those who may. */
  readonly edits?: true;
  /** Does this event mean it? */
  readonly is: (event: KeyboardEvent) => boolean;
  readonly act: (bench: Bench, actions: KeyActions, event: KeyboardEvent) => void;
  readonly release?: (bench: Bench) => void;
  /** What it does depends on which of its keys was pressed, or where: it is nothing to be chosen from a list. */
  readonly isBare?: true;
}

const plain = (event: KeyboardEvent) => !event.ctrlKey && !event.metaKey && !event.altKey;
const letter =
  (name: string, shift = false) =>
  (event: KeyboardEvent) =>
    plain(event) && event.shiftKey === shift && event.key.toLowerCase() === name;
const sign = (name: string) => (event: KeyboardEvent) => plain(event) && event.key === name;
const withControl =
  (name: string, shift = false) =>
  (event: KeyboardEvent) =>
    (event.ctrlKey || event.metaKey) && event.shiftKey === shift && event.key.toLowerCase() === name;
const alt = (name: string) => (event: KeyboardEvent) => event.altKey && event.key === name;
const digit = (event: KeyboardEvent) => /^Digit([1-9])$/.exec(event.code)?.[1];

function stage({ store, view }: Bench, by: 1 | -1): void {
  const count = store.get().look.steps?.length ?? 0;
  const at = Math.min(view.get().stage ?? count, count) + by;
  if (at >= 0) view.set({ stage: at >= count ? null : at });
}

function walk({ store }: Bench, by: 1 | -1, extend: boolean): void {
  const ids = [...document.querySelectorAll<HTMLElement>("[data-line]")].map((line) => line.dataset.line ?? "");
  const { selected, marked } = store.get();
  const from = extend && marked.length > 1 ? (by > 0 ? marked.at(-1) : marked[0]) : selected;
  const id = ids[ids.indexOf(from ?? "") + by];
  if (id === undefined) return;
  store.dispatch(extend ? { type: "markTo", id } : { type: "select", id });
  focusLine(id);
}

function focusLine(id: string): void {
  document.querySelector<HTMLElement>(`[data-line="${id}"]`)?.focus();
}

const keys: readonly Key[] = [
  {
    shown: "O, held",
    words: "The other side of the comparison",
    is: letter("o"),
    act: ({ view }) => view.set({ held: true }),
    release: ({ view }) => view.set({ held: false }),
  },
  {
    shown: "W",
    words: "Wipe",
    is: letter("w"),
    act: ({ view }) => view.set({ mode: view.get().mode === "wipe" ? "single" : "wipe" }),
  },
  {
    shown: "D",
    words: "Side by side",
    is: letter("d"),
    act: ({ view }) => view.set({ mode: view.get().mode === "beside" ? "single" : "beside" }),
  },
  {
    shown: "[  ]",
    words: "The stage before, the stage after",
    isBare: true,
    is: (event) => sign("[")(event) || sign("]")(event),
    act: (bench, _, event) => stage(bench, event.key === "[" ? -1 : 1),
  },
  {
    shown: "Z",
    words: "Pixel for pixel, and back",
    is: letter("z"),
    act: ({ view }) => view.set({ zoom: view.get().zoom === null ? 1 : null }),
  },
  {
    shown: "+  -",
    words: "Further in, further out",
    isBare: true,
    is: (event) => plain(event) && ["+", "=", "-"].includes(event.key),
    act: ({ view }, _, event) => view.set({ zoom: zoomedBy(view.get().zoom, event.key === "-" ? -1 : 1) }),
  },
  {
    shown: "V",
    words: "The picture alone, and back",
    is: letter("v"),
    act: ({ view }) => view.set({ alone: !view.get().alone }),
  },
  {
    shown: "Shift V",
    words: "A second window that follows this one",
    is: letter("v", true),
    act: () => openSecond(),
  },
  {
    shown: "L",
    words: "The step's editor large, or small again",
    is: letter("l"),
    act: ({ view }) => view.set({ largeEditor: !view.get().largeEditor }),
  },
  { shown: "F", words: "The whole picture", is: letter("f"), act: ({ view }) => view.set({ zoom: null }) },
  {
    shown: "1 to 9",
    words: "A picture of the tray; with Shift beside the others",
    isBare: true,
    is: (event) => plain(event) && digit(event) !== undefined,
    act: ({ view }, { tray }, event) => {
      const picture = tray[Number(digit(event)) - 1];
      if (picture && event.shiftKey) view.watch(picture.id);
      else if (picture) view.choose(picture.id);
    },
  },
  {
    shown: "R",
    words: "Pin what is in view, as it is seen, to hold others against it",
    is: letter("r"),
    act: (_, { pin }) => pin(),
  },
  {
    shown: "Shift R",
    words: "Take the pin off",
    is: letter("r", true),
    act: ({ view }) => {
      const { against } = view.get();
      view.set({ reference: null, ...(against === "reference" ? { against: "original", mode: "single" } : {}) });
    },
  },
  {
    shown: "Y",
    words: "Why a colour is so: press a place, or draw over a part",
    is: letter("y"),
    act: ({ view }) => view.set({ asking: view.get().asking === null ? "where" : null, picking: null }),
  },
  {
    shown: "T",
    words: "Take the picture, graded, as a file",
    edits: true,
    is: letter("t"),
    act: (_, { take }) => take(),
  },
  {
    shown: "S",
    words: "The tray with the pictures first on which the look fails most, and back",
    is: letter("s"),
    act: ({ view }) => view.set({ worstFirst: !view.get().worstFirst }),
  },
  { shown: "A", words: "Add a step, a preset or a LUT", edits: true, is: letter("a"), act: (_, { add }) => add() },
  {
    shown: "↑  ↓",
    words: "In the recipe: the step before, the step after; with Shift several",
    isBare: true,
    is: (event) => plain(event) && (event.key === "ArrowUp" || event.key === "ArrowDown") && inRecipe(event),
    act: (bench, _, event) => walk(bench, event.key === "ArrowUp" ? -1 : 1, event.shiftKey),
  },
  {
    shown: "Alt ↑  Alt ↓",
    words: "Move the step",
    isBare: true,
    edits: true,
    is: (event) => alt("ArrowUp")(event) || alt("ArrowDown")(event),
    act: (bench, { arrange }, event) => {
      arrange.move(event.key === "ArrowUp" ? -1 : 1);
      // A line that changes places loses the focus; whoever moves it by keys goes on doing so.
      if (inRecipe(event)) requestAnimationFrame(() => focusLine(bench.store.get().selected ?? ""));
    },
  },
  {
    shown: "E",
    words: "Switch the chosen steps off and on",
    is: letter("e"),
    act: (_, { arrange }) => arrange.toggle(),
  },
  {
    shown: "B, held",
    words: "Without the chosen steps",
    is: letter("b"),
    act: (bench) => bypass(bench, true),
    release: (bench) => bypass(bench, false),
  },
  {
    shown: "J, held",
    words: "The chosen step as it was set before; with Shift, as before that",
    is: (event) => letter("j")(event) || letter("j", true)(event),
    act: (bench, _, event) => haunt(bench, event.shiftKey ? 1 : 0),
    release: ({ store }) => store.dispatch({ type: "try", look: null }),
  },
  {
    shown: "K",
    words: "Keep the step as it was set before too, as a variant to choose from later",
    edits: true,
    is: letter("k"),
    act: ({ store }) => {
      const { look, past, selected, member } = store.get();
      const [ghost] = ghostsOf(look, past, selected, member);
      if (ghost) store.edit("Keep both as variants", (now) => keptGhost(now, ghost));
    },
  },
  {
    shown: "G",
    words: "Group the chosen steps",
    edits: true,
    is: letter("g"),
    act: (_, { arrange }) => arrange.group(),
  },
  {
    shown: "Shift G",
    words: "Ungroup",
    edits: true,
    is: letter("g", true),
    act: (_, { arrange }) => arrange.ungroup(),
  },
  {
    shown: "Shift D",
    words: "Duplicate",
    edits: true,
    is: letter("d", true),
    act: (_, { arrange }) => arrange.duplicate(),
  },
  {
    shown: "Shift T",
    words: "Towards a picture whose colours are wanted",
    edits: true,
    is: letter("t", true),
    act: (_, { towards }) => towards(),
  },
  {
    shown: "P",
    words: "Keep the chosen steps as a preset",
    edits: true,
    is: letter("p"),
    act: (_, { keep }) => keep(),
  },
  {
    shown: "Delete",
    words: "Delete the chosen steps",
    edits: true,
    is: (event) => plain(event) && event.key === "Delete",
    act: (_, { arrange }) => arrange.remove(),
  },
  { shown: "H", words: "History and versions", is: letter("h"), act: (_, { history }) => history() },
  { shown: "Ctrl Z", words: "Undo", is: withControl("z"), act: ({ store }) => store.dispatch({ type: "undo" }) },
  {
    shown: "Ctrl Shift Z",
    words: "Redo",
    is: withControl("z", true),
    act: ({ store }) => store.dispatch({ type: "redo" }),
  },
  {
    shown: "Escape",
    words: "Stop picking from the picture, or asking why; back from the picture alone",
    isBare: true,
    is: (event) => event.key === "Escape",
    act: ({ view }) => {
      const { picking, asking } = view.get();
      view.set(picking !== null ? { picking: null } : asking !== null ? { asking: null } : { alone: false });
    },
  },
  { shown: "?", words: "These keys", is: sign("?"), act: (_, actions) => actions.keys() },
];

/** The keys that this person can use. */
export const keysFor = ({ mayEdit }: Bench) => keys.filter((one) => mayEdit || !one.edits);

/** Those that can be done without their key, for the search over everything. */
export function actionsOf(bench: Bench, actions: KeyActions): readonly Action[] {
  const event = new KeyboardEvent("keydown");
  return keysFor(bench)
    .filter((one) => !one.isBare && !one.release)
    .map((one) => ({ name: one.words, keys: one.shown, run: () => one.act(bench, actions, event) }));
}

/** Words that no single key stands for. */
export const alsoKeys: readonly (readonly [string, string])[] = [
  ["Ctrl C  Ctrl V", "Copy the chosen steps as text, paste them into this or another look"],
  ["↑  ↓ in a number", "One more, one less; with Shift ten, with Alt a tenth"],
  ["Ctrl K", "Go to anything, or do it, by a few words of its name; on every page"],
  ["double click", "A setting back to neutral"],
];

function inRecipe(event: KeyboardEvent): boolean {
  return event.target instanceof HTMLElement && event.target.closest("[data-line]") !== null;
}

/** The draft with the chosen step as it was before, as something that is only being tried. */
function haunt({ store }: Bench, back: number): void {
  const { look, past, selected, member } = store.get();
  const ghost = ghostsOf(look, past, selected, member)[back];
  if (ghost) store.dispatch({ type: "try", look: withGhost(look, ghost) });
}

/** The draft without the chosen steps, as something that is only being tried. */
function bypass({ store }: Bench, on: boolean): void {
  const { look, marked } = store.get();
  const ids = new Set(marked);
  const off = (steps: typeof look.steps): typeof look.steps =>
    steps?.map((step) =>
      ids.has(step.id ?? "")
        ? { ...step, enabled: false }
        : step.kind === "group"
          ? { ...step, steps: off(step.steps) ?? [] }
          : step,
    );
  store.dispatch({ type: "try", look: on && marked.length > 0 ? { ...look, steps: off(look.steps) ?? [] } : null });
}

const inField = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  target.closest(
    "input:not([type=range]), textarea, [contenteditable], [role='dialog'], [role='listbox'], [role='menu'], [role='combobox']",
  ) !== null;
/** Sliders and choices keep the keys they work with. */
const ownKeys = (event: KeyboardEvent) =>
  event.target instanceof HTMLElement &&
  event.target.closest("[role='slider'], input[type=range]") !== null &&
  /^(Arrow|Page|Home|End|Delete|Backspace)/.test(event.key);

export function useKeys(actions: KeyActions): void {
  const bench = useBench();
  useActions(useMemo(() => actionsOf(bench, actions), [bench, actions]));
  useEffect(() => {
    const held = new Map<string, Key>();
    const down = (event: KeyboardEvent) => {
      const field = inField(event.target);
      const undoing = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z";
      const typed =
        event.target instanceof HTMLInputElement &&
        event.target.type === "text" &&
        event.target.value !== event.target.defaultValue;
      if (field && !(undoing && !typed && !(event.target as HTMLElement).closest("[role='dialog']"))) return;
      if (ownKeys(event) && !event.altKey) return;
      const key = keysFor(bench).find((one) => one.is(event));
      if (!key || event.defaultPrevented) return;
      if (key.release) {
        if (!event.repeat) held.set(event.code, key);
        if (event.repeat) return;
      } else if (event.repeat && !/^(Arrow|\[|\]|\+|=|-|z)/i.test(event.key)) return;
      event.preventDefault();
      key.act(bench, actions, event);
    };
    const up = (event: KeyboardEvent) => {
      held.get(event.code)?.release?.(bench);
      held.delete(event.code);
    };
    const lost = () => {
      for (const key of held.values()) key.release?.(bench);
      held.clear();
    };
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    window.addEventListener("blur", lost);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", lost);
    };
  }, [bench, actions]);
}
