/** Files that were dropped on one page and are dealt with on another: they are carried there, once. */
import type { DroppedFile } from "../kit/FileDrop";

let carried: readonly DroppedFile[] = [];

export const handOver = (files: readonly DroppedFile[]): void => {
  carried = files;
};

/** What was handed over last; nobody gets it a second time. */
export function takeHanded(): readonly DroppedFile[] {
  const files = carried;
  carried = [];
  return files;
}
