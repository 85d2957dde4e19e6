/** Endings of what moves and is one file. */
export const CLIPS = [".mov", ".mp4", ".m4v", ".mkv", ".webm", ".avi", ".mxf", ".ts", ".mts", ".m2ts"] as const;

export const isClip = (name: string): boolean => CLIPS.some((one) => name.toLowerCase().endsWith(one));
