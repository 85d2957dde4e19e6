/** Sizes and times in a few words. */

export function sizeOf(bytes: number): string {
  if (bytes < 1e6) return `${String(Math.max(1, Math.round(bytes / 1e3)))} kB`;
  if (bytes < 1e9) return `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;
  return `${(bytes / 1e9).toFixed(1)} GB`;
}

export function timeOf(seconds: number): string {
  if (seconds < 1.5) return "a second";
  if (seconds < 90) return `${String(Math.round(seconds))} seconds`;
  if (seconds < 5400) return `${String(Math.round(seconds / 60))} minutes`;
  return `${(seconds / 3600).toFixed(1)} hours`;
}

/** Seconds that are left of what has taken so many for this share, 0..1, of it; null before that says anything. */
export function timeLeft(seconds: number, share: number): number | null {
  return share < 0.03 || seconds < 2 || share >= 1 ? null : (seconds * (1 - share)) / share;
}
