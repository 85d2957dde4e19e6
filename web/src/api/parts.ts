/** Large files, sent in parts before the form that they belong to. What has come is kept for a day: who chooses the file again goes on from there. */
import { Upload as Going, type DetailedError } from "tus-js-client";
import { Cancelled, filesIn, IN_PARTS_FROM, sendWatched, watch, WATCHED_FROM } from "./uploads";

const PART = 16 * 2 ** 20;
/** Milliseconds before each try after a lost connection; they begin anew whenever something has come. Half an hour in all. */
const AGAIN = [0, 1_000, 2_000, 5_000, ...Array<number>(180).fill(10_000)];
/** Refused, whenever it is sent again; but for 409, after which is asked how much has come. */
const isFinal = (status: number): boolean => status >= 400 && status < 500 && status !== 409 && status !== 429;

/** The answer as it would have come to `fetch`; none where there was none. */
function answerOf(error: Error | DetailedError): Response | null {
  const given = "originalResponse" in error ? error.originalResponse : null;
  if (!given || given.getStatus() === 0) return null;
  return new Response(given.getBody(), { status: given.getStatus() });
}

/** Resolves to the number of the whole on the server, or to an answer that refuses it. Throws Cancelled, and TypeError as `fetch` does. */
function send(file: File, request: Request): Promise<string | Response> {
  return new Promise<string | Response>((resolve, reject) => {
    const going = new Going(file, {
      endpoint: `${window.location.origin}/api/uploads`,
      chunkSize: PART,
      retryDelays: AGAIN,
      metadata: { filename: file.name },
      headers: { "X-CSRFToken": request.headers.get("X-CSRFToken") ?? "" },
      onShouldRetry: (error) => {
        const isWorth = !isFinal(error.originalResponse?.getStatus() ?? 0);
        if (isWorth) watched.wait();
        return isWorth;
      },
      onProgress: (sent) => watched.progress(sent),
      onError: (error) => {
        watched.end();
        const answer = answerOf(error);
        if (answer) resolve(answer);
        else reject(new TypeError("Failed to fetch"));
      },
      onSuccess: () => {
        watched.end();
        resolve((going.url ?? "").replace(/.*\//, ""));
      },
    });
    const stop = (): void => {
      watched.end();
      reject(new Cancelled(file.name));
      // What has come of it is taken away at once; where that cannot be said, it goes after a day.
      going.abort(true).catch(() => undefined);
    };
    const watched = watch(file.name, file.size, stop);
    request.signal.addEventListener("abort", stop);
    void going
      .findPreviousUploads()
      .catch(() => [])
      .then((earlier) => {
        const [newest] = [...earlier].sort((one, other) => other.creationTime.localeCompare(one.creationTime));
        if (newest) going.resumeFromPreviousUpload(newest);
        going.start();
      });
  });
}

/** A form with large files: these first, one after the other, then the rest of it with their numbers. */
export async function sendWithParts(request: Request, form: FormData): Promise<Response> {
  const rest = new FormData();
  const named: [string, string][] = [];
  for (const [field, value] of form.entries()) {
    if (!(value instanceof File) || value.size < IN_PARTS_FROM) {
      rest.append(field, value);
      continue;
    }
    const sent = await send(value, request);
    if (sent instanceof Response) return sent;
    named.push([field, sent]);
  }
  const headers = new Headers(request.headers);
  headers.delete("Content-Type");
  headers.set("Saucer-Uploads", JSON.stringify(named));
  const bytes = filesIn(rest).reduce((sum, one) => sum + one.size, 0);
  const { url, method, credentials, signal } = request;
  if (bytes >= WATCHED_FROM) return sendWatched(new Request(url, { method, headers, credentials, signal }), rest);
  return fetch(new Request(url, { method, headers, credentials, signal, body: rest }));
}
