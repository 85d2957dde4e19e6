/** Files dropped on a project's wall: a LUT onto shots, pictures and clips into a scene, a timeline to be read. */
import { useState } from "react";
import { wordsFor } from "../../api/client";
import { useTakeIn } from "../../api/footage";
import { useBringInLut } from "../../api/luts";
import { useAddShots } from "../../api/projects";
import type { Project } from "../../api/types";
import type { DroppedFile } from "../../kit/FileDrop";
import { kindOf } from "../../media/fileKinds";
import { useFilesOver } from "../../media/useFilesOver";
import type { Grading } from "./useGrading";

interface Ways {
  readonly project: Project | undefined;
  readonly grading: Grading;
  readonly chosen: ReadonlySet<number>;
  readonly isBusy: boolean;
  readonly stack: boolean;
  readonly onTimeline: (file: File) => void;
}

/** The shots that a drop means: the one under the pointer, with all that are chosen where it is one of them; else those. */
export function meantBy(on: Element | null, chosen: ReadonlySet<number>): number[] {
  const under = Number(on?.closest<HTMLElement>("[data-shot]")?.dataset.shot ?? 0);
  return under === 0 || chosen.has(under) ? [...chosen] : [under];
}

export function useWallDrop({ project, grading, chosen, isBusy, stack, onTimeline }: Ways) {
  const bring = useBringInLut();
  const take = useTakeIn();
  const add = useAddShots(project?.id ?? 0);
  const [said, setSaid] = useState<string | null>(null);

  async function putLut(file: File, on: Element | null) {
    const shots = meantBy(on, chosen);
    if (shots.length === 0) {
      setSaid("Drop the LUT on a shot, or choose shots first.");
      return;
    }
    const lut = await bring.mutateAsync(file);
    grading.put(shots, lut, stack);
  }

  async function takeIn(files: readonly File[], on: Element | null, whole: Project) {
    const under = on?.closest("section[data-scene]")?.getAttribute("aria-label");
    const scene = under ?? whole.scenes.at(-1)?.name ?? "Scene 1";
    const { pictures, left_out } = await take.mutateAsync({ files: [...files], gaps: "refuse" });
    if (left_out.length > 0) setSaid(left_out.join(" "));
    if (pictures.length === 0) return;
    const before = new Set(whole.shots.map((one) => one.id));
    const now = await add.mutateAsync(pictures.map((picture) => ({ picture, scene, code: "" })));
    grading.broughtIn(now.shots.map((one) => one.id).filter((id) => !before.has(id)));
  }

  async function handle(files: readonly DroppedFile[], on: Element | null) {
    setSaid(null);
    const found = files.map(({ file }) => file);
    const kinds = new Set(found.map((file) => kindOf(file.name)));
    const [first] = found;
    if (!first || !project) return;
    if (kinds.has("lut") && found.length === 1) await putLut(first, on);
    else if (kinds.has("timeline") && found.length === 1) onTimeline(first);
    else if ([...kinds].every((kind) => kind === "picture" || kind === "clip")) await takeIn(found, on, project);
    else setSaid("Drop one LUT, one timeline, or pictures and clips.");
  }

  const { handlers, veil } = useFilesOver({
    isBusy: isBusy || project?.may_work !== true,
    isPlaced: true,
    words: "A LUT onto shots; pictures and clips into a scene; a timeline",
    onFiles: (files, on) => void handle(files, on).catch((error: unknown) => setSaid(wordsFor(error))),
  });
  return { handlers, veil, said: take.isPending || add.isPending ? "Bringing in…" : said };
}
