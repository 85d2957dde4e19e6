/** Files dropped anywhere on the Shelf: a frame to see everything on, or LUTs and packs to bring in. */
import { useState, type DragEvent } from "react";
import styled from "styled-components";
import type { DroppedFile } from "../../kit/FileDrop";
import { dropped } from "../intake/dropped";
import { isFrame } from "./OwnFrame";

const Veil = styled.div`
  position: fixed;
  inset: ${(p) => p.theme.tokens.top} 0 0 0;
  z-index: 10;
  display: grid;
  place-items: center;
  pointer-events: none;
  font-size: ${(p) => p.theme.tokens.size.title};
  font-weight: 600;
  background: color-mix(in srgb, ${(p) => p.theme.tokens.glaze} 86%, transparent);
  border: 2px dashed ${(p) => p.theme.tokens.accent};
  color: ${(p) => p.theme.tokens.ink};
`;

interface Ways {
  /** A sheet is open, which takes what is dropped itself. */
  readonly isBusy: boolean;
  readonly mayDesign: boolean;
  readonly onFrame: (file: File) => void;
  readonly onLuts: (files: readonly DroppedFile[]) => void;
}

/** The handlers of the place where things are dropped, and what lies over it meanwhile. */
export function useDrop({ isBusy, mayDesign, onFrame, onLuts }: Ways) {
  const [over, setOver] = useState(false);
  const handlers = {
    onDragOver(event: DragEvent) {
      if (isBusy || !event.dataTransfer.types.includes("Files")) return;
      event.preventDefault();
      setOver(true);
    },
    onDragLeave(event: DragEvent) {
      if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
    },
    onDrop(event: DragEvent) {
      if (isBusy) return;
      event.preventDefault();
      setOver(false);
      void dropped(event.dataTransfer).then((files) => {
        const [first] = files;
        if (files.length === 1 && first && isFrame(first.file.name)) onFrame(first.file);
        else if (mayDesign) onLuts(files);
      });
    },
  };
  const words = mayDesign
    ? "Drop a frame to see all of this on it; or LUT files, folders, zip packs"
    : "Drop a frame to see all of this on it";
  return { handlers, veil: over && <Veil>{words}</Veil> };
}
