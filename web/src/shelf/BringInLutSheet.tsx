import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { wordsFor } from "../api/client";
import { encodings as encodingsQuery, useBringInLut } from "../api/queries";
import type { Lut } from "../api/types";
import { Primary, Secondary } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { Picker } from "../kit/Picker";
import { Sheet, SheetBody, SheetFoot } from "../kit/Sheet";
import { FileDrop } from "../pictures/BringInSheet";

interface Props {
  readonly isOpen: boolean;
  readonly onClose: () => void;
  readonly onDone: (lut: Lut) => void;
}

/** Bring in a LUT file from elsewhere and say what it expects and gives. */
export function BringInLutSheet({ isOpen, onClose, onDone }: Props) {
  const { data: encodings } = useQuery(encodingsQuery);
  const [file, setFile] = useState<File | null>(null);
  const [expects, setExpects] = useState("srgb");
  const [gives, setGives] = useState("srgb");
  const bring = useBringInLut();
  const options = (encodings ?? []).map((one) => ({ id: one.id, name: one.name }));

  function close() {
    setFile(null);
    bring.reset();
    onClose();
  }

  async function send() {
    if (!file) return;
    const lut = await bring.mutateAsync({ file, expects, gives }).catch(() => null);
    if (lut) {
      close();
      onDone(lut);
    }
  }

  return (
    <Sheet title="Bring in a LUT" isOpen={isOpen} onClose={close}>
      <SheetBody>
        <FileDrop file={file} onFile={(chosen) => { setFile(chosen); bring.reset(); }} prompt="Drop a .cube file here or choose one" kinds="1D, 3D, or 3D with a shaper" accept={[".cube"]} />
        <Picker label="What it expects" value={expects} options={options} onChange={(value) => { setExpects(value); if (gives === expects) setGives(value); }} />
        <Picker label="What it gives" value={gives} options={options} onChange={setGives} />
        {bring.error && <Notice>{wordsFor(bring.error)}</Notice>}
      </SheetBody>
      <SheetFoot>
        <Secondary onPress={close}>Cancel</Secondary>
        <Primary isDisabled={!file} isPending={bring.isPending} onPress={() => void send()}>{bring.isPending ? "Bringing in…" : "Bring in"}</Primary>
      </SheetFoot>
    </Sheet>
  );
}
