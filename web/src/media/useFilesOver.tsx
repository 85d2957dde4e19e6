/** Files dropped anywhere on a page, and what lies over it while they are in the air. */
import { useState, type DragEvent } from "react";
import styled from "styled-components";
import type { DroppedFile } from "../kit/FileDrop";
import { dropped } from "./dropped";

const Veil = styled.div`
  position: fixed;
  inset: ${(p) => p.theme.tokens.top} 0 0 0;
  z-index: 10;
  display: grid;
  place-items: center;
  padding: 0 24px;
  text-align: center;
  pointer-events: none;
  font-size: ${(p) => p.theme.tokens.size.title};
  font-weight: 600;
  background: color-mix(in srgb, ${(p) => p.theme.tokens.glaze} 86%, transparent);
  border: 2px dashed ${(p) => p.theme.tokens.accent};
  color: ${(p) => p.theme.tokens.ink};
`;
/** What is below stays in sight: it matters where on it something is dropped. */
const Edge = styled(Veil)`
  place-items: end center;
  padding-bottom: 84px;
  background: none;
  > span {
    padding: 8px 18px;
    border-radius: 18px;
    background: ${(p) => p.theme.tokens.ink};
    color: ${(p) => p.theme.tokens.glaze};
    font-size: ${(p) => p.theme.tokens.size.text};
  }
`;

interface Ways {
  /** A sheet is open, which takes what is dropped itself. */
  readonly isBusy: boolean;
  /** What can be dropped here. */
  readonly words: string;
  /** Does it matter where it is dropped? Then what is below stays in sight. */
  readonly isPlaced?: boolean;
  /** on: what lay under the pointer. */
  readonly onFiles: (files: readonly DroppedFile[], on: Element | null) => void;
}

export function useFilesOver({ isBusy, words, isPlaced = false, onFiles }: Ways) {
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
      if (isBusy || !event.dataTransfer.types.includes("Files")) return;
      event.preventDefault();
      setOver(false);
      const on = document.elementFromPoint(event.clientX, event.clientY);
      void dropped(event.dataTransfer).then((files) => files.length > 0 && onFiles(files, on));
    },
  };
  const veil =
    over &&
    (isPlaced ? (
      <Edge>
        <span>{words}</span>
      </Edge>
    ) : (
      <Veil>{words}</Veil>
    ));
  return { handlers, veil };
}
