/** Files on their way to the server: how far each is, and how to stop it. Seen from every page, whichever one sent them. */
import { Shared } from "../kit/Shared";

export interface Upload {
  readonly id: number;
  readonly name: string;
  readonly bytes: number;
  readonly sent: number;
  /** Bytes a second, over the last seconds; 0 before anything is known. */
  readonly rate: number;
  /** The connection is lost; what has come is kept, and it goes on from there. */
  readonly isWaiting: boolean;
  readonly cancel: () => void;
}

/** What is on its way now, the one that began first at the beginning. */
export const uploads = new Shared<readonly Upload[]>([]);

/** Below this, a file is there before anybody could read how far it is. */
export const WATCHED_FROM = 2_000_000;
/** From here on a file goes in parts, which survive a lost connection and a closed page. */
export const IN_PARTS_FROM = 100_000_000;
/** How much of the time that has passed the rate remembers. */
const MEMORY = 3_000;
let last = 0;

/** Somebody stopped it; the words stand where an error would. */
export class Cancelled extends Error {
  constructor(name: string) {
    super(`${name} was not brought in: you cancelled it.`);
  }
}

export function filesIn(form: FormData): readonly File[] {
  return [...form.values()].filter((one): one is File => one instanceof File);
}

/** The mean rate, recent time counting most. */
export function rateAfter(rate: number, bytes: number, milliseconds: number): number {
  if (milliseconds <= 0) return rate;
  const now = (bytes / milliseconds) * 1000;
  if (rate === 0) return now;
  const share = Math.min(1, milliseconds / MEMORY);
  return rate * (1 - share) + now * share;
}

/** One more on its way, and how to say how far it is. */
export function watch(name: string, bytes: number, cancel: () => void) {
  const id = (last += 1);
  let [at, sent, rate] = [performance.now(), 0, 0];
  const change = (next: Partial<Upload>): void =>
    uploads.set(uploads.get().map((one) => (one.id === id ? { ...one, ...next } : one)));
  uploads.set([...uploads.get(), { id, name, bytes, sent: 0, rate: 0, isWaiting: false, cancel }]);
  return {
    progress: (now: number): void => {
      const time = performance.now();
      rate = rateAfter(rate, now - sent, time - at);
      [at, sent] = [time, now];
      change({ sent: Math.min(now, bytes), rate, isWaiting: false });
    },
    wait: (): void => {
      [at, rate] = [performance.now(), 0];
      change({ rate, isWaiting: true });
    },
    end: (): void => uploads.set(uploads.get().filter((one) => one.id !== id)),
  };
}

/** Sends a form as `fetch` would, telling meanwhile how much of it has left. Throws Cancelled, and TypeError as `fetch` does. */
export function sendWatched(request: Request, form: FormData): Promise<Response> {
  const files = filesIn(form);
  const bytes = files.reduce((sum, one) => sum + one.size, 0);
  const [first] = files;
  const name = `${first?.name ?? "file"}${files.length > 1 ? ` and ${String(files.length - 1)} more` : ""}`;
  const call = new XMLHttpRequest();
  const watched = watch(name, bytes, () => call.abort());
  return new Promise<Response>((resolve, reject) => {
    call.open(request.method, request.url);
    for (const [header, value] of request.headers) if (header !== "content-type") call.setRequestHeader(header, value);
    call.responseType = "arraybuffer";
    call.upload.onprogress = ({ loaded }) => watched.progress(loaded);
    call.onload = () => {
      const type = call.getResponseHeader("Content-Type");
      const empty = call.status === 204 || call.status === 304;
      resolve(
        new Response(empty ? null : (call.response as ArrayBuffer), {
          status: call.status,
          headers: type === null ? {} : { "Content-Type": type },
        }),
      );
    };
    call.onerror = () => reject(new TypeError("Failed to fetch"));
    call.onabort = () => reject(new Cancelled(name));
    request.signal.addEventListener("abort", () => call.abort());
    call.send(form);
  }).finally(watched.end);
}
