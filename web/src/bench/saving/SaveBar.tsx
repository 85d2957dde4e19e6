import { UsersRound } from "lucide-react";
import { memo, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { describeDifferences, fetchLook, useSaveVersion } from "../../api/looks";
import type { Presence } from "../../api/types";
import { useActions } from "../../browser/actions";
import { Primary, Secondary, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Sheet, SheetBody, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import type { SaveState } from "../../look/saving/autosave";
import { useBench, useSaving } from "../../look/useBench";
import { Propose } from "./Propose";
import { useOwnWindows } from "./useOwnWindows";

const Said = styled.span`
  color: ${(p) => p.theme.tokens.soft};
  white-space: nowrap;
  svg {
    width: 14px;
    height: 14px;
    vertical-align: -2px;
  }
`;
const words: Record<SaveState["kind"], string> = {
  saved: "All changes saved",
  waiting: "Saving…",
  saving: "Saving…",
  offline: "Not connected. Kept in this browser until it is.",
  conflict: "Changed by somebody else",
  refused: "Not saved",
};

/** Who else has the look open. */
function Others({ presence }: { presence: Presence }) {
  const [first, ...more] = [...presence.others].sort((a, b) => Number(b.editing) - Number(a.editing));
  if (!first) return null;
  const name = first.same_person ? "You, on another page" : first.name;
  const words = `${name} ${first.editing ? (first.same_person ? "edit" : "is editing") : first.same_person ? "have it open" : "has it open"}${more.length > 0 ? ` and ${more.length} more` : ""}`;
  return (
    <Said role="status" data-testid="others">
      <UsersRound aria-hidden /> {words}
    </Said>
  );
}

/** How the draft stands, saving it as a version, baking it. */
export const SaveBar = memo(function SaveBar({ presence, onBake }: { presence: Presence; onBake: () => void }) {
  const { flush, refresh, revision, mayEdit } = useBench();
  const { saving, entry } = useSaving();
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const version = useSaveVersion(entry.id);

  const begin = () => {
    setProblem(null);
    setOpen(true);
  };
  useActions(
    mayEdit
      ? [
          { name: "Save version", run: begin },
          { name: "Bake", run: onBake },
        ]
      : [],
  );

  async function save() {
    setProblem(null);
    try {
      await flush();
      await version.mutateAsync({ note, revision: revision() });
      await refresh();
      setNote("");
      setOpen(false);
    } catch (error) {
      setProblem(wordsFor(error));
    }
  }

  if (!mayEdit)
    return (
      <>
        <Others presence={presence} />
        <Said role="status" data-testid="save-state">
          To look at: what is tried here is not saved
        </Said>
      </>
    );
  return (
    <>
      <Others presence={presence} />
      <Said role="status" data-testid="save-state">
        {words[saving.kind]}
      </Said>
      <Propose look={entry.id} />
      <Secondary onPress={begin}>Save version</Secondary>
      <Primary onPress={onBake}>Bake…</Primary>
      <Sheet
        title={`Save version ${(entry.versions[0]?.number ?? 0) + 1}`}
        isOpen={open}
        onClose={() => setOpen(false)}
        width="440px"
      >
        <SheetBody>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              void save();
            }}
          >
            <TextBox
              label="Note"
              value={note}
              onChange={setNote}
              maxLength={1000}
              placeholder="What changed, or what it is for"
              autoFocus
            />
          </form>
          {problem && <Notice>{problem}</Notice>}
        </SheetBody>
        <SheetFoot>
          <Secondary onPress={() => setOpen(false)}>Cancel</Secondary>
          <Primary isPending={version.isPending} onPress={() => void save()}>
            Save version
          </Primary>
        </SheetFoot>
      </Sheet>
    </>
  );
});

const Strip = styled.div`
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  gap: 4px 18px;
  padding: 7px 18px;
  background: ${(p) => p.theme.tokens.ink};
  color: ${(p) => p.theme.tokens.glaze};
  button {
    color: inherit;
    text-decoration: underline;
  }
  ul {
    flex-basis: 100%;
    margin: 0;
    padding: 0;
    list-style: none;
    display: flex;
    flex-wrap: wrap;
    justify-content: center;
    gap: 2px 22px;
    max-height: 84px;
    overflow-y: auto;
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;

/** What the person has to settle before saving can go on, and what somebody else has saved meanwhile. */
export function SaveTrouble({ presence }: { presence: Presence }) {
  const { keepMine, takeTheirs, follow } = useBench();
  const { saving, entry } = useSaving();
  useOwnWindows(presence);
  if (saving.kind === "conflict") return <Conflict by={saving.by} keepMine={keepMine} takeTheirs={takeTheirs} />;
  if (saving.kind === "refused") return <Strip role="alert">Not saved: {saving.words}</Strip>;
  if (saving.kind === "saved" && presence.revision > entry.revision) {
    return (
      <Strip role="status">
        <span>This look has been changed on another page.</span>
        <WordButton onPress={() => void follow()}>Show how it stands now</WordButton>
      </Strip>
    );
  }
  return null;
}

function Conflict({
  by,
  keepMine,
  takeTheirs,
}: {
  by: string;
  keepMine: () => Promise<void>;
  takeTheirs: () => Promise<void>;
}) {
  const { id, store } = useBench();
  const [lines, setLines] = useState<readonly string[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const attempt = (run: () => Promise<void>) => void run().catch((error: unknown) => setProblem(wordsFor(error)));

  async function tell() {
    const theirs = await fetchLook(id);
    setLines(await describeDifferences(theirs.draft, store.get().whole));
  }

  return (
    <Strip role="alert">
      <span>
        {by} has changed this look since you opened it. Yours is kept here; the other one can be had back by undo.
      </span>
      <WordButton onPress={() => attempt(keepMine)}>Keep mine</WordButton>
      <WordButton onPress={() => attempt(takeTheirs)}>Take theirs</WordButton>
      {lines === null && <WordButton onPress={() => attempt(tell)}>What differs?</WordButton>}
      {problem && <span>{problem}</span>}
      {lines && (
        <ul aria-label="From theirs to yours">
          {lines.length > 0 ? lines.map((line) => <li key={line}>{line}</li>) : <li>Nothing differs.</li>}
        </ul>
      )}
    </Strip>
  );
}
