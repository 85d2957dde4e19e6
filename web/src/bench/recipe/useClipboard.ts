/** Copying and pasting steps through the browser's own clipboard events, which need no leave. */
import { useEffect } from "react";
import { wordsFor } from "../../api/client";
import { withAdded } from "../../look/placing";
import { useBench } from "../../look/useBench";
import { useSpatial } from "../../look/steps/useKinds";
import { stepsIn } from "./clipboard";
import type { Arrange } from "./useArrange";

const elsewhere = (target: EventTarget | null) =>
  target instanceof HTMLElement && target.closest("input, textarea, [contenteditable], [role='dialog']") !== null;

export function useClipboard(arrange: Arrange, onSaid: (words: string) => void): void {
  const { store, mayEdit } = useBench();
  const isSpatial = useSpatial();
  useEffect(() => {
    const copy = (event: ClipboardEvent) => {
      const { marked } = store.get();
      if (elsewhere(event.target) || marked.length === 0 || !event.clipboardData || window.getSelection()?.toString())
        return;
      event.clipboardData.setData("text/plain", arrange.text());
      event.preventDefault();
      onSaid(marked.length === 1 ? "The step is copied." : `${marked.length} steps are copied.`);
    };
    const paste = (event: ClipboardEvent) => {
      if (!mayEdit || elsewhere(event.target)) return;
      const text = event.clipboardData?.getData("text/plain") ?? "";
      event.preventDefault();
      stepsIn(text, store.get().look).then(
        (steps) => {
          if (!steps) {
            onSaid("There are no steps on the clipboard.");
            return;
          }
          const { look, selected } = store.get();
          const placed = withAdded(look, steps, selected, isSpatial);
          store.edit(steps.length === 1 ? "Paste a step" : `Paste ${steps.length} steps`, () => placed.look);
          store.dispatch({ type: "markAll", ids: placed.added.map((step) => step.id ?? "") });
        },
        (error: unknown) => onSaid(`Not pasted. ${wordsFor(error)}`),
      );
    };
    document.addEventListener("copy", copy);
    document.addEventListener("paste", paste);
    return () => {
      document.removeEventListener("copy", copy);
      document.removeEventListener("paste", paste);
    };
  }, [arrange, isSpatial, mayEdit, onSaid, store]);
}
