/** Pictures through looks, and what is read off them: frames, discs, scopes, marks, pixels. Nothing here is kept at the server. */
import { api, callBlob, callCounts, callImage, callWideImage, callWithFigures, got, loadImage } from "./client";
import type { BakeChoice, FormatChoice, Look, ToolChoice } from "./types";

/** What a frame is drawn for: with its own profile where the screen shows more than sRGB. */
const drawnFor = (screen: "srgb" | "display-p3") => (screen === "srgb" ? callImage : callWideImage);

/** A picture, and the encoding that its codes are read as in place of its own; empty for its own. */
export interface Seen {
  readonly picture: number;
  readonly read_as?: string;
}

interface FrameAsk extends Seen {
  readonly look: Look;
  readonly quality: "drag" | "rest" | "sampled";
  readonly width?: number | null;
  readonly edited?: number | null;
  readonly steps?: number | null;
  readonly at?: number | null;
  readonly screen: "srgb" | "display-p3";
}

export const fetchFrame = (ask: FrameAsk, signal?: AbortSignal) => drawnFor(ask.screen)("/looks/frame", ask, signal);
/** A picture as it is kept, without a look. */
export const fetchOriginal = (picture: number, signal?: AbortSignal) =>
  loadImage(`/pictures/${String(picture)}/frame.png`, signal);
export const fetchCell = (path: string, signal?: AbortSignal) => loadImage(path, signal);

/** Several pictures, as a request says them. */
function together(pictures: readonly Seen[]) {
  const others = pictures.filter((one) => one.read_as);
  return {
    pictures: pictures.map((one) => one.picture),
    read_as: Object.fromEntries(others.map((one) => [one.picture, one.read_as ?? ""])),
  };
}

/** A part of a frame in the picture's own pixels. */
export const fetchRegion = (
  ask: Seen & {
    readonly look: Look;
    readonly left: number;
    readonly top: number;
    readonly width: number;
    readonly height: number;
    readonly steps: number | null;
    readonly screen: "srgb" | "display-p3";
  },
  signal?: AbortSignal,
) => drawnFor(ask.screen)("/looks/region", ask, signal);

/** What is marked over a picture (clipping, skin, colours out of a gamut), with figures about it. */
export const fetchOverlay = (
  ask: Seen & {
    readonly look: Look;
    readonly kind: string;
    readonly tolerance: number;
    readonly gamut: string;
    readonly vision: string;
    readonly severity: number;
  },
  signal?: AbortSignal,
) => callWithFigures("/looks/overlay", ask, signal);
/** One picture with the discs of these pictures, one below the other. */
export const fetchDiscs = (look: Look, pictures: readonly Seen[], signal?: AbortSignal) =>
  callImage("/looks/discs", { look, ...together(pictures) }, signal);
/** One picture with each of these looks on the same picture, one below the other. */
export const fetchTries = (looks: readonly Look[], seen: Seen, signal?: AbortSignal) =>
  callBlob("/looks/tries", { looks, ...seen }, signal);
export const fetchFingerprint = (look: Look, size: number, signal?: AbortSignal) =>
  callBlob(`/looks/fingerprint?size=${String(size)}`, look, signal);

export const readSketch = (look: Look, signal?: AbortSignal) =>
  got(api.POST("/api/looks/sketch", { body: look, signal: signal ?? null }));
/** before: the step whose input is counted too; empty for none */
export const readScopes = (look: Look, seen: Seen, before: string, signal?: AbortSignal) =>
  got(api.POST("/api/looks/scopes", { body: { look, ...seen, before }, signal: signal ?? null }));
export const readTrace = (
  ask: Seen & { readonly look: Look; readonly kind: string; readonly steps: number | null },
  signal?: AbortSignal,
) => callCounts("/looks/trace", ask, signal);
export const readAdvice = (look: Look, seen: Seen, tolerance: number, signal?: AbortSignal) =>
  got(api.POST("/api/looks/advice", { body: { look, ...seen, tolerance }, signal: signal ?? null }));
/** What each step does to the picture, in words. */
export const readTold = (look: Look, seen: Seen, signal?: AbortSignal) =>
  got(api.POST("/api/looks/told", { body: { look, ...seen }, signal: signal ?? null }));
/** Pictures that it is asked of at once whether a look holds on them. */
export const MOST_HELD = 8;
export const readHolding = (look: Look, pictures: readonly Seen[], tolerance: number, signal?: AbortSignal) =>
  got(api.POST("/api/looks/holding", { body: { look, ...together(pictures), tolerance }, signal: signal ?? null }));

/** A part of a picture, 0 to 1 across and down; a place where both ends are the same. */
export interface Part {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

export const readWhy = (ask: Seen & Part & { readonly look: Look; readonly at: number | null }, signal?: AbortSignal) =>
  got(api.POST("/api/looks/why", { body: { read_as: "", ...ask }, signal: signal ?? null }));

interface Place {
  readonly x: number;
  readonly y: number;
}

/** What the picture holds at a place (0 to 1 across and down), before a step and after all. */
export const readPixel = (look: Look, seen: Seen, { x, y }: Place, before: string, signal?: AbortSignal) =>
  got(api.POST("/api/looks/pixel", { body: { look, ...seen, x, y, before }, signal: signal ?? null }));
/** The balance that makes what is at a place grey. */
export const findNeutral = (look: Look, seen: Seen, { x, y }: Place, before: string, cones: "cat16" | "bradford") =>
  got(api.POST("/api/looks/neutral", { body: { look, ...seen, x, y, before, cones } }));
/** The look with its end put right: said as it is, or converted. */
export const settleEnd = (look: Look, by: "declare" | "convert") =>
  got(api.POST("/api/looks/settled-end", { body: { look, by } }));

/** A picture through what lies on the Shelf. */
export const fetchThroughEntry = (
  ask: {
    readonly entry: number;
    readonly picture: number;
    readonly version: number | null;
    readonly member: string;
    readonly strength: number;
    readonly quality: "drag" | "rest";
  },
  signal?: AbortSignal,
) => callImage("/shelf/frame", ask, signal);
/** A picture through what a tool would make of a LUT. */
export const fetchThroughTool = (
  lut: number,
  ask: { readonly choice: ToolChoice; readonly picture: number; readonly width: number },
  signal?: AbortSignal,
) => callImage(`/luts/${String(lut)}/tool/frame`, ask, signal);
/** A picture through the LUT as its file will hold it; without a format through the exact look. */
export const fetchBaked = (
  ask: {
    readonly look: Look;
    readonly choice: BakeChoice;
    readonly picture: number;
    readonly format: FormatChoice | null;
  },
  signal?: AbortSignal,
) => callImage("/bake/frame", ask, signal);
