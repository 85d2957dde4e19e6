/** What the screen can show, and pictures in what it is shown on. */
import { useSyncExternalStore } from "react";

export type Screen = "srgb" | "display-p3";

const wide = () => window.matchMedia("(color-gamut: p3)");

export const isWide = (): boolean => wide().matches;

export function watchScreen(listener: () => void): () => void {
  const query = wide();
  query.addEventListener("change", listener);
  return () => query.removeEventListener("change", listener);
}

/** Does the screen show more colours than sRGB has? Changes when the window goes to another screen. */
export const useIsWide = (): boolean => useSyncExternalStore(watchScreen, isWide);

// Where nothing is drawn, as in tests of components, there is nothing to be asked.
const night = () =>
  typeof window.matchMedia === "function" ? window.matchMedia("(prefers-color-scheme: dark)") : null;

/** Does the person's system ask for a dark page? */
export const isDark = (): boolean => night()?.matches ?? false;

export function watchDark(listener: () => void): () => void {
  const query = night();
  query?.addEventListener("change", listener);
  return () => query?.removeEventListener("change", listener);
}

export const screenFor = (proof: boolean): Screen => (isWide() && !proof ? "display-p3" : "srgb");

/** How a canvas is to be opened, so that what a wide screen shows comes through. Pictures of sRGB look the same on either. */
export const canvasSettings = (): CanvasRenderingContext2DSettings => ({
  alpha: false,
  colorSpace: isWide() ? "display-p3" : "srgb",
});
