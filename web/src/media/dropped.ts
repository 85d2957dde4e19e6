/** Files with the folders they came from, out of a drop anywhere on the page. */
import type { DroppedFile } from "../kit/FileDrop";

function entriesOf(reader: FileSystemDirectoryReader): Promise<FileSystemEntry[]> {
  return new Promise((resolve, reject) => reader.readEntries(resolve, reject));
}

async function walk(entry: FileSystemEntry): Promise<DroppedFile[]> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    return [{ file, path: entry.fullPath.replace(/^\//, "") }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: DroppedFile[] = [];
  // A folder is read a hundred at a time until nothing comes.
  for (let part = await entriesOf(reader); part.length > 0; part = await entriesOf(reader)) {
    for (const one of part) found.push(...(await walk(one)));
  }
  return found;
}

/** Everything that was dropped, folders opened. */
export async function dropped(transfer: DataTransfer): Promise<DroppedFile[]> {
  const entries = [...transfer.items]
    .map((item) => (item.kind === "file" ? item.webkitGetAsEntry() : null))
    .filter((entry) => entry !== null);
  if (entries.length === 0) return [...transfer.files].map((file) => ({ file, path: file.name }));
  return (await Promise.all(entries.map(walk))).flat();
}
