import { Upload } from "lucide-react";
import { Button, DropZone, FileTrigger, type DropItem } from "react-aria-components";
import styled from "styled-components";

const Zone = styled(DropZone)`
  border-radius: 8px;
  border: 1.5px dashed ${(p) => p.theme.tokens.faint};
  background: ${(p) => p.theme.tokens.paper};
  color: ${(p) => p.theme.tokens.ink};
  &[data-drop-target] {
    border-color: ${(p) => p.theme.tokens.accent};
    background: ${(p) => p.theme.tokens.accentWash};
  }
`;
const Choose = styled(Button)<{ $tall: boolean }>`
  width: 100%;
  display: grid;
  justify-items: center;
  gap: 6px;
  padding: ${(p) => (p.$tall ? 54 : 26)}px 16px;
  border: 0;
  background: none;
  cursor: pointer;
  overflow-wrap: anywhere;
  svg {
    color: ${(p) => p.theme.tokens.soft};
  }
  b {
    font-weight: 600;
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;

export interface DroppedFile {
  readonly file: File;
  /** With the folders it lay in, below what was dropped. */
  readonly path: string;
}

async function open(item: DropItem, above: string): Promise<DroppedFile[]> {
  if (item.kind === "file") return [{ file: await item.getFile(), path: above + item.name }];
  if (item.kind !== "directory") return [];
  const found: DroppedFile[] = [];
  for await (const inside of item.getEntries()) found.push(...(await open(inside, `${above}${item.name}/`)));
  return found;
}

const chosen = (files: FileList | null): DroppedFile[] =>
  [...(files ?? [])].map((file) => ({ file, path: file.webkitRelativePath || file.name }));

interface Props {
  readonly prompt: string;
  /** What kinds of files, and up to what size. */
  readonly kinds: string;
  readonly onFiles: (files: readonly DroppedFile[]) => void;
  /** Endings, e.g. ".png"; anything without. */
  readonly accept?: readonly string[];
  readonly several?: boolean;
  readonly tall?: boolean;
  readonly isDisabled?: boolean;
}

/** A place to drop files and folders on, or to choose files from. */
export function FilesDrop({
  prompt,
  kinds,
  onFiles,
  accept,
  several = false,
  tall = false,
  isDisabled = false,
}: Props) {
  const take = (files: readonly DroppedFile[]) => {
    if (files.length > 0) onFiles(files);
  };
  return (
    <Zone
      aria-label="Place for files"
      isDisabled={isDisabled}
      onDrop={(event) =>
        void Promise.all(event.items.map((item) => open(item, ""))).then((found) => take(found.flat()))
      }
    >
      <FileTrigger
        allowsMultiple={several}
        {...(accept ? { acceptedFileTypes: accept } : {})}
        onSelect={(files) => take(chosen(files))}
      >
        <Choose $tall={tall} isDisabled={isDisabled}>
          <Upload size={22} aria-hidden />
          <b>{prompt}</b>
          <small>{kinds}</small>
        </Choose>
      </FileTrigger>
    </Zone>
  );
}

interface OneProps {
  readonly file: File | null;
  readonly onFile: (file: File) => void;
  readonly prompt: string;
  readonly kinds: string;
  readonly accept: readonly string[];
}

/** A place for one file, which says what it holds. */
export function FileDrop({ file, onFile, prompt, kinds, accept }: OneProps) {
  const note = file ? `${(file.size / 1e6).toFixed(1)} MB. Choose another` : kinds;
  return (
    <FilesDrop
      prompt={file?.name ?? prompt}
      kinds={note}
      accept={accept}
      onFiles={([first]) => first && onFile(first.file)}
    />
  );
}
