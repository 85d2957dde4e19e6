import { memo, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { useSaveVersion } from "../api/queries";
import { Primary, Secondary, WordButton } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { Sheet, SheetFoot } from "../kit/Sheet";
import { TextBox } from "../kit/TextBox";
import { SheetBody } from "../pictures/BringInSheet";
import type { SaveState } from "./autosave";
import { useBench, useSaving } from "./useBench";

const Said = styled.span`
  color: ${(p) => p.theme.tokens.soft}; white-space: nowrap;
`;
const words: Record<SaveState["kind"], string> = {
  saved: "All changes saved",
  waiting: "Saving…",
  saving: "Saving…",
  offline: "Not connected. Kept in this browser until it is.",
  conflict: "Changed by somebody else",
  refused: "Not saved",
};

/** How the draft stands, saving it as a version, baking it. */
export const SaveBar = memo(function SaveBar({ onBake }: { onBake: () => void }) {
  const { flush, refresh } = useBench();
  const { saving, entry } = useSaving();
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const version = useSaveVersion(entry.id);

  async function save() {
    setProblem(null);
    try {
      await flush();
      await version.mutateAsync(note);
      await refresh();
      setNote("");
      setOpen(false);
    } catch (error) {
      setProblem(wordsFor(error));
    }
  }

  return (
    <>
      <Said role="status" data-testid="save-state">{words[saving.kind]}</Said>
      <Secondary onPress={() => { setProblem(null); setOpen(true); }}>Save version</Secondary>
      <Primary onPress={onBake}>Bake…</Primary>
      <Sheet title={`Save version ${(entry.versions[0]?.number ?? 0) + 1}`} isOpen={open} onClose={() => setOpen(false)} width="440px">
        <SheetBody>
          <TextBox label="Note" value={note} onChange={setNote} maxLength={1000} placeholder="What changed, or what it is for" />
          {problem && <Notice>{problem}</Notice>}
        </SheetBody>
        <SheetFoot>
          <Secondary onPress={() => setOpen(false)}>Cancel</Secondary>
          <Primary isPending={version.isPending} onPress={() => void save()}>Save version</Primary>
        </SheetFoot>
      </Sheet>
    </>
  );
});

const Strip = styled.div`
  display: flex; justify-content: center; gap: 18px; padding: 7px 18px; background: ${(p) => p.theme.tokens.ink}; color: ${(p) => p.theme.tokens.glaze};
  button { color: inherit; text-decoration: underline; }
`;

/** What the person has to settle before saving can go on. */
export function SaveTrouble() {
  const { keepMine, takeTheirs } = useBench();
  const { saving } = useSaving();
  if (saving.kind === "conflict") {
    return (
      <Strip role="alert">
        <span>{saving.by} has changed this look since you opened it. Yours is kept here.</span>
        <WordButton onPress={keepMine}>Keep mine</WordButton>
        <WordButton onPress={takeTheirs}>Take theirs</WordButton>
      </Strip>
    );
  }
  return saving.kind === "refused" ? <Strip role="alert">Not saved: {saving.words}</Strip> : null;
}
