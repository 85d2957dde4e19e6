import { useQueryClient } from "@tanstack/react-query";
import { useState, type ReactElement } from "react";
import { DialogTrigger } from "react-aria-components";
import { useNavigate } from "react-router";
import { wordsFor } from "../api/client";
import { addToLook, fetchLook, useMakeLook } from "../api/looks";
import type { Entry, Kind } from "../api/types";
import { ChooserPopover } from "../entries/ChooserPopover";
import { EntryChooser } from "../entries/EntryChooser";
import { Primary, WordButton } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { usePictureChoice } from "../media/usePictureChoice";
import { fresh } from "./arrange";
import { stepsOf } from "./stepsOf";

const LOOKS = ["look"] as const;
const mine = (entry: Entry) => entry.may_change;

/** A LUT, a preset or a look becomes part of a look of one's own, or of a new one, which is then open on the Bench. */
export function PutIntoLook({
  entry,
  member = "",
  button = <Primary>Put into a look…</Primary>,
}: {
  entry: { readonly kind: Kind; readonly id: number; readonly name: string };
  /** Which of a look's family. */
  member?: string;
  button?: ReactElement;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const make = useMakeLook();
  const { chosen } = usePictureChoice();
  const [trouble, setTrouble] = useState<unknown>(null);

  async function put(look: number) {
    const at = (await fetchLook(look)).draft.output ?? "srgb";
    const steps = await stepsOf(client, entry.kind, entry.id, at, member);
    await addToLook(look, steps.map(fresh));
    await client.invalidateQueries({ queryKey: ["shelf"] });
    await navigate(`/bench/${String(look)}`);
  }

  async function putIntoNew() {
    const steps = await stepsOf(client, entry.kind, entry.id, "srgb", member);
    const made = await make.mutateAsync({ name: `${entry.name.slice(0, 100)}, in a look`, steps: steps.map(fresh) });
    await navigate(`/bench/${String(made.id)}`);
  }

  const attempt = (run: () => Promise<void>) => {
    setTrouble(null);
    void run().catch(setTrouble);
  };
  return (
    <DialogTrigger>
      {button}
      <ChooserPopover label={`Put ${entry.name} into a look`}>
        <EntryChooser
          label="Find a look"
          kinds={LOOKS}
          picture={chosen}
          only={mine}
          {...(entry.kind === "look" ? { except: entry.id } : {})}
          onChoose={(look) => attempt(() => put(look.id))}
        >
          <WordButton onPress={() => attempt(putIntoNew)}>A new look</WordButton>
          {trouble !== null && <Notice>{wordsFor(trouble)}</Notice>}
        </EntryChooser>
      </ChooserPopover>
    </DialogTrigger>
  );
}
