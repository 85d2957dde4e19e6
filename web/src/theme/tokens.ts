/** Every colour, size and duration of the application. Neutrals are true greys: R = G = B, so that nothing tints what is judged. */

export type SurroundName = "light" | "mid" | "dark";

/** The field around pictures and what stands on it. `mid` is L* 49.6, the lightest on which white words keep a contrast of 4.5. */
export const surrounds = {
  light: {
    field: "#e8e8e8",
    tray: "#dedede",
    line: "#c9c9c9",
    ink: "#1c1c1c",
    soft: "#5c5c5c",
    pill: "#fcfcfc",
    pillInk: "#1c1c1c",
  },
  mid: {
    field: "#767676",
    tray: "#6a6a6a",
    line: "#808080",
    ink: "#ffffff",
    soft: "#ffffff",
    pill: "#fcfcfc",
    pillInk: "#1c1c1c",
  },
  dark: {
    field: "#262626",
    tray: "#1e1e1e",
    line: "#3a3a3a",
    ink: "#f2f2f2",
    soft: "#bdbdbd",
    pill: "#f2f2f2",
    pillInk: "#1c1c1c",
  },
} as const;

/** Of the page around everything, by day and by night; each word on each ground keeps a contrast of 4.5 (tokens.test.ts). */
const light = {
  paper: "#f3f3f3",
  glaze: "#fcfcfc",
  ink: "#1c1c1c",
  soft: "#616161",
  faint: "#8c8c8c",
  line: "#dcdcdc",
  hush: "#ededed",
  accent: "#2340c4",
  accentPressed: "#1a319c",
  accentWash: "#e9ecfb",
  onAccent: "#ffffff",
  caution: "#6f4300",
  graph: {
    field: "#f6f6f6",
    grid: "#e2e2e2",
    diagonal: "#c4c4c4",
    master: "#1c1c1c",
    red: "#b8322f",
    green: "#23772f",
    blue: "#2b46c7",
    fill: "#1c1c1c",
  },
};
type Colours = typeof light;
const dark: Colours = {
  paper: "#1c1c1c",
  glaze: "#262626",
  ink: "#ececec",
  soft: "#b0b0b0",
  faint: "#868686",
  line: "#3e3e3e",
  hush: "#323232",
  accent: "#9fb0ff",
  accentPressed: "#bcc8ff",
  accentWash: "#303858",
  onAccent: "#10163a",
  caution: "#e8b568",
  graph: {
    field: "#1f1f1f",
    grid: "#333333",
    diagonal: "#555555",
    master: "#ececec",
    red: "#ff8a84",
    green: "#7fd68e",
    blue: "#9fb0ff",
    fill: "#ececec",
  },
};

export type PageName = "light" | "dark";
export const pages: Readonly<Record<PageName, Colours>> = { light, dark };

/** What is the same on every page. */
const measures = {
  /** What stands on a picture, and the edge that parts it from a light one. */
  onPicture: "#fcfcfc",
  pictureEdge: "rgb(0 0 0 / 35%)",
  pictureVeil: "rgb(0 0 0 / 58%)",
  /** Light on a dark field; channels and trace as red, green, blue 0..255. */
  scope: {
    field: "#161616",
    line: "#3d3d3d",
    text: "#c8c8c8",
    trace: [236, 236, 236],
    channels: [
      [255, 96, 88],
      [92, 214, 112],
      [104, 138, 255],
    ],
  },
  words: "'Hanken Grotesk', system-ui, sans-serif",
  numbers: "'IBM Plex Mono', ui-monospace, monospace",
  size: { small: "11.5px", text: "13px", head: "15px", title: "16px" },
  radius: { field: "6px", pill: "16px", sheet: "12px" },
  motion: "120ms",
  top: "46px",
} as const;

export type Tokens = Colours & typeof measures;
export const tokensOf: Readonly<Record<PageName, Tokens>> = {
  light: { ...light, ...measures },
  dark: { ...dark, ...measures },
};

export interface Theme {
  readonly page: PageName;
  readonly tokens: Tokens;
  readonly surround: (typeof surrounds)[SurroundName];
}

declare module "styled-components" {
  // oxlint-disable-next-line @typescript-eslint/no-empty-object-type
  export interface DefaultTheme extends Theme {}
}
