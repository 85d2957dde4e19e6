/** What somebody new is shown: five places of the bar at the top, each with what one does there first. */
import type { Ability } from "../../api/types";

/** As the bar marks it: data-station. */
export type Place = "start" | "bench" | "shelf" | "projects" | "pictures" | "search" | "notices";

export interface Station {
  readonly at: Place;
  readonly title: string;
  readonly words: string;
}

const search: Station = {
  at: "search",
  title: "Anything, by its name",
  words:
    "Ctrl K finds looks, shots and pictures, and whatever can be done on the page in view. This walk is in the menu under your initials whenever you want it.",
};
const designer: readonly Station[] = [
  {
    at: "pictures",
    title: "Pictures to look at",
    words: "Bring in two or three of your own, or begin with the test pictures. Whatever you try is seen on them.",
  },
  {
    at: "bench",
    title: "Where looks are made",
    words: "A look is a list of steps. Each is seen on the picture before you keep it; the key ? tells all the others.",
  },
  {
    at: "shelf",
    title: "What the team has",
    words:
      "Looks, LUTs and presets, found by name or by what they do: warm faded. A version that you propose is seen by all.",
  },
  {
    at: "projects",
    title: "Looks on shots",
    words: "Choose shots, try looks on all of them at once, and deliver pictures, clips, LUTs and lists.",
  },
  search,
];
const curator: readonly Station[] = [
  {
    at: "notices",
    title: "What waits for you",
    words: "What designers propose is told here, and stands on the start page until you publish it or send it back.",
  },
  {
    at: "shelf",
    title: "The Shelf is yours to keep",
    words: "Folders, tags, duplicates and the bin. What is chosen there is changed together, and taken back together.",
  },
  {
    at: "bench",
    title: "Every step of a look",
    words:
      "Open a look to see what each of its steps does. A remark, also on a place of the picture, goes to its maker.",
  },
  {
    at: "projects",
    title: "Looks on shots",
    words: "Where looks are used, which shots are beyond a tolerance, and what was delivered when.",
  },
  search,
];
const viewer: readonly Station[] = [
  {
    at: "shelf",
    title: "What was made for you",
    words: "Looks that were proposed or published, on whichever picture you choose, with what each does in words.",
  },
  {
    at: "start",
    title: "Where you come back to",
    words: "Your boards and projects, and what is new. On a board you say yes, maybe or no to each look.",
  },
  {
    at: "projects",
    title: "Shots through their looks",
    words:
      "Page up and Page down go from shot to shot, V shows the picture alone. Words on a frame reach whoever works on it.",
  },
  {
    at: "notices",
    title: "What you are told of",
    words: "Remarks and answers to yours, and what was decided. What you want to hear of is chosen on your own page.",
  },
  search,
];

export function stationsFor(may: readonly Ability[]): readonly Station[] {
  if (may.includes("curate")) return curator;
  return may.includes("design") ? designer : viewer;
}
