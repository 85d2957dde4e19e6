/** Files dropped anywhere on the Shelf: a frame to see everything on, or LUTs and packs to bring in. */
import type { DroppedFile } from "../../kit/FileDrop";
import { useFilesOver } from "../../media/useFilesOver";
import { isFrame } from "./OwnFrame";

interface Ways {
  /** A sheet is open, which takes what is dropped itself. */
  readonly isBusy: boolean;
  readonly mayDesign: boolean;
  readonly onFrame: (file: File) => void;
  readonly onLuts: (files: readonly DroppedFile[]) => void;
}

/** The handlers of the place where things are dropped, and what lies over it meanwhile. */
export function useDrop({ isBusy, mayDesign, onFrame, onLuts }: Ways) {
  return useFilesOver({
    isBusy,
    words: mayDesign
      ? "Drop a frame to see all of this on it; or LUT files, folders, zip packs"
      : "Drop a frame to see all of this on it",
    onFiles: (files) => {
      const [first] = files;
      if (files.length === 1 && first && isFrame(first.file.name)) onFrame(first.file);
      else if (mayDesign) onLuts(files);
    },
  });
}
