/** What a job has made, handed to the person: as a download, or in the clipboard. */
import type { Job } from "../../api/types";

/** The browser's own download, as if the link had been pressed. */
export function save(job: Job): void {
  const link = document.createElement("a");
  link.href = job.download;
  link.download = job.file_name;
  link.click();
}

async function fetched(job: Job): Promise<Blob> {
  const response = await fetch(job.download);
  if (!response.ok) throw new Error(String(response.status));
  return new Blob([await response.arrayBuffer()], { type: "image/png" });
}

/** A place in the clipboard, asked for while the press that asks for it still counts; `came` fills it once the job is done. */
export function whenCopied(): { readonly came: (job: Job) => void; readonly copied: Promise<void> } {
  let came: (job: Job) => void = () => undefined;
  const png = new Promise<Blob>((go, stop) => {
    came = (job) => void fetched(job).then(go, stop);
  });
  // Without HTTPS there is none.
  const clipboard = navigator.clipboard as Clipboard | undefined;
  const copied =
    clipboard?.write([new ClipboardItem({ "image/png": png })]) ?? Promise.reject(new Error("no clipboard"));
  return { came, copied };
}
