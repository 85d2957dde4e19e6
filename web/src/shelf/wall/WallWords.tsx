import { useLocation, useNavigate } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useRestoreEntry } from "../../api/shelf";
import type { Kind } from "../../api/types";
import { Primary, Secondary, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { isNarrowed } from "./address";
import type { ShelfShown } from "./useShelf";

const Said = styled.div`
  max-width: 620px;
  margin-bottom: 18px;
`;

const First = styled.div`
  display: flex;
  gap: 8px;
  margin-top: 14px;
`;

interface Props {
  readonly shelf: ShelfShown;
  /** How many LUTs have just come onto the Shelf. */
  readonly kept: number;
  readonly trouble: Error | null;
  /** For who may bring something here. */
  readonly onNew: (() => void) | null;
  readonly onBringIn: () => void;
}

/** What there is to say about what is listed, or is not. */
export function WallWords({ shelf, kept, trouble, onNew, onBringIn }: Props) {
  const { search, wanted, seen, entries } = shelf;
  const narrowed = isNarrowed(wanted);
  const nothing = search
    ? `Nothing here is called “${search}”${narrowed ? " under what is chosen at the left" : ""}.`
    : narrowed
      ? "Nothing under what is chosen at the left."
      : "Looks, LUTs and presets of the team stand here, each on the picture that is chosen above. There are none yet.";
  const wrong = shelf.error ?? trouble;
  const some = Object.entries(shelf.some);
  return (
    <>
      <JustDeleted />
      {kept > 0 && (
        <Said>
          <Notice tone="word">{kept} LUTs are on the Shelf.</Notice>
        </Said>
      )}
      {wrong && <Notice>{wordsFor(wrong)}</Notice>}
      {shelf.isEmpty && entries.length === 0 && <p>{nothing}</p>}
      {shelf.isEmpty && entries.length === 0 && !search && !narrowed && onNew && (
        <First>
          <Primary onPress={onNew}>Make the first look</Primary>
          <Secondary onPress={onBringIn}>Bring LUTs in, or drop them here</Secondary>
        </First>
      )}
      {seen.like !== null && (
        <Said>
          <Notice tone="word">
            What does most nearly what {shelf.likeName} does, the nearest first.{" "}
            <WordButton onPress={() => shelf.show({ like: null })}>Show everything</WordButton>
          </Notice>
        </Said>
      )}
      {some.length > 0 && entries.length > 0 && (
        <Said>
          <Notice tone="word">
            Nothing has all of these words. What has the most of them comes first:{" "}
            {some.map(([word, count]) => `${word} ${String(count)}`).join(", ")}.
          </Notice>
        </Said>
      )}
      {shelf.isNear && entries.length > 0 && (
        <Said>
          <Notice tone="word">Nothing has “{shelf.asked}” as it is written. These have words close to it.</Notice>
        </Said>
      )}
    </>
  );
}

/** Whoever deleted something on its own page comes here, and can have it back. */
function JustDeleted() {
  const gone = (useLocation().state as { gone?: { kind: Kind; id: number; name?: string } } | null)?.gone;
  const restore = useRestoreEntry();
  const navigate = useNavigate();
  if (!gone) return null;
  return (
    <Said>
      <Notice tone="word">
        {gone.name ?? "It"} was deleted. It can be brought back for 30 days.{" "}
        <WordButton
          onPress={() => restore.mutate(gone, { onSuccess: () => void navigate("/shelf", { replace: true }) })}
        >
          Bring it back
        </WordButton>
      </Notice>
      {restore.error && <Notice>{wordsFor(restore.error)}</Notice>}
    </Said>
  );
}
