import { ChevronDown } from "lucide-react";
import { useState } from "react";
import { Button, DialogTrigger } from "react-aria-components";
import { Link, useNavigate } from "react-router";
import { wordsFor } from "../../api/client";
import { useMakeLook } from "../../api/looks";
import { useMay } from "../../api/session";
import type { Picture } from "../../api/types";
import { ChooserPopover } from "../../entries/ChooserPopover";
import { EntryChooser } from "../../entries/EntryChooser";
import { IconButton, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { useBench, useBenchPart } from "../../look/useBench";

const KINDS = ["look"] as const;

/** Other looks, each on the picture in view: one is opened, or stands as the other side of the comparison. */
export function LookChooser({ picture }: { picture: Picture | undefined }) {
  const { id, view } = useBench();
  const input = useBenchPart((state) => state.look.input ?? "srgb");
  const output = useBenchPart((state) => state.look.output ?? "srgb");
  const mayDesign = useMay("design");
  const make = useMakeLook();
  const navigate = useNavigate();
  const [isOpen, setOpen] = useState(false);

  async function makeNew() {
    const made = await make.mutateAsync({ name: "Untitled look", input, output, steps: [] }).catch(() => null);
    if (made) await navigate(`/bench/${made.id}`);
  }

  function compare(other: number) {
    view.set({ against: `look-${other}`, ...(view.get().mode === "single" ? { mode: "wipe" } : {}) });
    setOpen(false);
  }

  return (
    <DialogTrigger isOpen={isOpen} onOpenChange={setOpen}>
      <IconButton as={Button} aria-label="Other looks">
        <ChevronDown aria-hidden />
      </IconButton>
      <ChooserPopover label="Other looks">
        <EntryChooser
          label="Find a look"
          kinds={KINDS}
          picture={picture}
          except={id}
          onChoose={(entry) => void navigate(`/bench/${entry.id}`)}
          onOther={{ name: "compares", run: (entry) => compare(entry.id) }}
        >
          {mayDesign && <WordButton onPress={() => void makeNew()}>New look</WordButton>}
          <Link to="/shelf?kind=look">All on the Shelf</Link>
          {make.error && <Notice>{wordsFor(make.error)}</Notice>}
        </EntryChooser>
      </ChooserPopover>
    </DialogTrigger>
  );
}
