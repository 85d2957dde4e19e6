/** Files that are dropped on the Bench, or pasted: a LUT becomes a step, a picture comes into view, a look file is opened, a pack goes to the Shelf. */
import { useEffect, useState, type ReactNode } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useBringInLook } from "../../api/looks";
import { useBringInLut } from "../../api/luts";
import { isJob, useBringInPicture } from "../../api/pictures";
import { WordButton } from "../../kit/Button";
import type { DroppedFile } from "../../kit/FileDrop";
import { useSpatial } from "../../look/steps/useKinds";
import { withAdded } from "../../look/placing";
import { stepOfLut } from "../../look/stepsOf";
import { useBench } from "../../look/useBench";
import { isEither, kindOf } from "../../media/fileKinds";
import { handOver } from "../../media/handed";
import { useFilesOver } from "../../media/useFilesOver";

const Asked = styled.div`
  position: fixed;
  z-index: 30;
  left: 50%;
  bottom: 28px;
  transform: translateX(-50%);
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 9px 18px;
  border-radius: 18px;
  background: ${(p) => p.theme.tokens.ink};
  color: ${(p) => p.theme.tokens.glaze};
  button {
    color: inherit;
    text-decoration: underline;
  }
`;

/** More LUTs than these are a pack. */
const MOST_STEPS = 6;

/** The step on which, or between the parts of which, something lies on the page. */
const lineAt = (on: Element | null): string | null =>
  on?.closest("li")?.querySelector<HTMLElement>("[data-line]")?.dataset.line ?? null;

interface Ways {
  readonly isBusy: boolean;
  /** Has the picture that is in view come in by a drop? */
  readonly onPicture: (picture: number) => void;
  readonly onSaid: (words: string) => void;
}

export function useBenchDrop({ isBusy, onPicture, onSaid }: Ways): {
  handlers: ReturnType<typeof useFilesOver>["handlers"];
  over: ReactNode;
} {
  const { store, mayEdit } = useBench();
  const isSpatial = useSpatial();
  const navigate = useNavigate();
  const lut = useBringInLut({ isPrivate: true });
  const look = useBringInLook();
  const picture = useBringInPicture();
  const [either, setEither] = useState<{ file: File; after: string | null } | null>(null);
  const fail = (error: unknown) => onSaid(`Not brought in. ${wordsFor(error)}`);

  /** Behind a step, or at the end of its part: seen at once, undone as one. */
  async function put(files: readonly File[], after: string | null) {
    let last = after;
    for (const file of files) {
      const made = await lut.mutateAsync(file);
      const placed = withAdded(store.get().look, [stepOfLut(made)], last, isSpatial);
      store.edit(`Add ${made.name}`, () => placed.look);
      store.dispatch({ type: "markAll", ids: placed.added.map((step) => step.id ?? "") });
      last = placed.added[0]?.id ?? null;
      onSaid(`${made.name} is a step of this look, and lies on the Shelf, where only you see it.`);
    }
  }

  async function show(file: File) {
    const made = await picture.mutateAsync({ file, encoding: "" });
    if (isJob(made)) onSaid("A large picture: it is in the tray once it is read.");
    else onPicture(made.id);
  }

  async function open(file: File) {
    const made = await look.mutateAsync(file);
    await navigate(`/bench/${String(made.id)}`);
  }

  async function take(files: readonly DroppedFile[], after: string | null) {
    const found = files.map(({ file }) => file);
    const kinds = new Set(found.map((file) => kindOf(file.name)));
    const [only] = found;
    if (!only) return;
    if (kinds.size > 1 || kinds.has("pack") || (kinds.has("lut") && found.length > MOST_STEPS)) {
      handOver(files);
      await navigate("/shelf");
    } else if (kinds.has("lut")) await put(found, after);
    else if (kinds.has("picture") && found.length === 1 && (await isEither(only))) setEither({ file: only, after });
    else if (kinds.has("picture")) for (const file of found) await show(file);
    else if (kinds.has("look")) await open(only);
    else if (kinds.has("clip")) onSaid("Clips are brought in on Pictures, or into a project.");
    else if (kinds.has("timeline")) onSaid("A timeline is read in a project: drop it on its wall.");
    else onSaid(`${only.name} is neither a LUT, a picture, a look nor a pack.`);
  }

  const { handlers, veil } = useFilesOver({
    isBusy: isBusy || !mayEdit,
    isPlaced: true,
    words: "A LUT becomes a step where it is dropped; a picture, a look file, a pack",
    onFiles: (files, on) => void take(files, lineAt(on)).catch(fail),
  });

  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])];
      const isElsewhere =
        event.target instanceof HTMLElement && event.target.closest("input, textarea, [role='dialog']");
      if (!mayEdit || isBusy || files.length === 0 || isElsewhere) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      void take(
        files.map((file) => ({ file, path: file.name })),
        store.get().selected,
      ).catch(fail);
    };
    document.addEventListener("paste", paste, { capture: true });
    return () => document.removeEventListener("paste", paste, { capture: true });
  });

  const answer = (run: (asked: { file: File; after: string | null }) => Promise<void>) => () => {
    if (either) void run(either).catch(fail);
    setEither(null);
  };
  const asked = either && (
    <Asked role="alertdialog" aria-label="A LUT or a picture?">
      <span>{either.file.name} may be a LUT.</span>
      <WordButton autoFocus onPress={answer(({ file, after }) => put([file], after))}>
        A LUT: make it a step
      </WordButton>
      <WordButton onPress={answer(({ file }) => show(file))}>A picture: show it</WordButton>
      <WordButton onPress={() => setEither(null)}>Neither</WordButton>
    </Asked>
  );
  return {
    handlers,
    over: (
      <>
        {veil}
        {asked}
      </>
    ),
  };
}
