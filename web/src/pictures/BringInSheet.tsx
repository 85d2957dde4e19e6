import { useQuery } from "@tanstack/react-query";
import { Upload } from "lucide-react";
import { useState, type DragEvent } from "react";
import { Button, FileTrigger } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { encodings as encodingsQuery, useBringInPicture } from "../api/queries";
import type { Picture } from "../api/types";
import { Primary, Secondary } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { Picker } from "../kit/Picker";
import { Sheet, SheetBody, SheetFoot } from "../kit/Sheet";

const Drop = styled.div<{ $over: boolean }>`
  border-radius: 8px; border: 1.5px dashed ${(p) => (p.$over ? p.theme.tokens.accent : p.theme.tokens.faint)}; background: ${(p) => (p.$over ? p.theme.tokens.accentWash : p.theme.tokens.paper)};
`;
const Choose = styled(Button)`
  width: 100%; display: grid; justify-items: center; gap: 6px; padding: 26px 16px; border: 0; background: none; cursor: pointer; overflow-wrap: anywhere;
  svg { color: ${(p) => p.theme.tokens.soft}; }
  b { font-weight: 600; }
  small { color: ${(p) => p.theme.tokens.soft}; font-size: ${(p) => p.theme.tokens.size.small}; }
`;

interface DropProps {
  readonly file: File | null;
  readonly onFile: (file: File) => void;
  readonly prompt: string;
  readonly kinds: string;
  readonly accept: readonly string[];
}

/** A place to drop a file on, or to choose one from. */
export function FileDrop({ file, onFile, prompt, kinds, accept }: DropProps) {
  const [over, setOver] = useState(false);
  function onDrop(event: DragEvent) {
    event.preventDefault();
    setOver(false);
    const dropped = event.dataTransfer.files[0];
    if (dropped) onFile(dropped);
  }
  return (
    <Drop $over={over} onDragOver={(event) => { event.preventDefault(); setOver(true); }} onDragLeave={() => setOver(false)} onDrop={onDrop}>
      <FileTrigger acceptedFileTypes={accept} onSelect={(files) => { const chosen = files?.item(0); if (chosen) onFile(chosen); }}>
        <Choose>
          <Upload size={22} aria-hidden />
          <b>{file ? file.name : prompt}</b>
          <small>{file ? `${(file.size / 1e6).toFixed(1)} MB. Choose another` : kinds}</small>
        </Choose>
      </FileTrigger>
    </Drop>
  );
}

interface Props {
  readonly isOpen: boolean;
  readonly onClose: () => void;
  readonly onDone: (picture: Picture) => void;
}

/** Bring in a picture of one's own and say what encoding it is in. */
export function BringInSheet({ isOpen, onClose, onDone }: Props) {
  const { data: encodings } = useQuery(encodingsQuery);
  const [file, setFile] = useState<File | null>(null);
  const [encoding, setEncoding] = useState("");
  const bring = useBringInPicture();

  function close() {
    setFile(null);
    setEncoding("");
    bring.reset();
    onClose();
  }

  async function send() {
    if (!file) return;
    const picture = await bring.mutateAsync({ file, encoding }).catch(() => null);
    if (picture) {
      onDone(picture);
      close();
    }
  }

  const options = [{ id: "", name: "Go by the kind of file", note: "EXR is linear, DPX film log, others sRGB" }, ...(encodings ?? []).map((one) => ({ id: one.id, name: one.name }))];
  return (
    <Sheet title="Bring in a picture" isOpen={isOpen} onClose={close}>
      <SheetBody>
        <FileDrop file={file} onFile={(chosen) => { setFile(chosen); bring.reset(); }} prompt="Drop a picture here or choose one" kinds="PNG, JPEG, TIFF, EXR or DPX, up to 100 megapixels"
          accept={[".png", ".jpg", ".jpeg", ".tif", ".tiff", ".exr", ".dpx"]} />
        <Picker label="Its encoding" value={encoding} options={options} onChange={setEncoding} />
        {bring.error && <Notice>{wordsFor(bring.error)}</Notice>}
      </SheetBody>
      <SheetFoot>
        <Secondary onPress={close}>Cancel</Secondary>
        <Primary isDisabled={!file} isPending={bring.isPending} onPress={() => void send()}>{bring.isPending ? "Bringing in…" : "Bring in"}</Primary>
      </SheetFoot>
    </Sheet>
  );
}
