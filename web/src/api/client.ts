/** Talking to the server: one function for JSON, one for pictures, one error. */

export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly detail: Readonly<Record<string, unknown>> = {},
  ) {
    super(message);
  }
}

/** The server could not be reached at all; trying again later may help. */
export class Unreachable extends Error {
  constructor() {
    super("The server cannot be reached.");
  }
}

function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]*)/.exec(document.cookie)?.[1] ?? "";
}

interface Options {
  readonly method?: "GET" | "POST" | "PUT" | "PATCH" | "DELETE";
  readonly body?: unknown;
  readonly signal?: AbortSignal | undefined;
  /** Sent even while the page is being closed. */
  readonly keepalive?: boolean;
}

async function send(path: string, { method = "GET", body, signal, keepalive = false }: Options): Promise<Response> {
  const headers: Record<string, string> = method === "GET" ? {} : { "X-CSRFToken": csrfToken() };
  const form = body instanceof FormData;
  if (body !== undefined && !form) headers["Content-Type"] = "application/json";
  const payload = body === undefined ? null : form ? body : JSON.stringify(body);
  let response: Response;
  try {
    response = await fetch(`/api${path}`, { method, headers, body: payload, signal: signal ?? null, credentials: "same-origin", keepalive });
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new Unreachable();
  }
  if (response.ok) return response;
  const content = (await response.json().catch(() => ({}))) as Record<string, unknown>;
  const detail = typeof content.detail === "string" ? content.detail : `The server answered ${response.status}.`;
  if (response.status === 401) window.dispatchEvent(new Event("saucer:signed-out"));
  throw new Problem(response.status, detail, content);
}

export async function call<T>(path: string, options: Options = {}): Promise<T> {
  const response = await send(path, options);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

export async function callImage(path: string, body: unknown, signal?: AbortSignal): Promise<ImageBitmap> {
  const response = await send(path, { method: "POST", body, signal });
  return createImageBitmap(await response.blob(), { colorSpaceConversion: "none" });
}

/** A picture as it came, to be shown by its address rather than drawn. */
export async function callBlob(path: string, body: unknown, signal?: AbortSignal): Promise<Blob> {
  return (await send(path, { method: "POST", body, signal })).blob();
}

/** A picture that comes with figures about it. */
export async function callWithFigures(path: string, body: unknown, signal?: AbortSignal): Promise<{ bitmap: ImageBitmap; figures: Record<string, number> }> {
  const response = await send(path, { method: "POST", body, signal });
  const figures = JSON.parse(response.headers.get("Saucer-Figures") ?? "{}") as Record<string, number>;
  return { bitmap: await createImageBitmap(await response.blob(), { colorSpaceConversion: "none" }), figures };
}

/** Counts as a scope has them, with their shape (planes, rows, columns). */
export async function callCounts(path: string, body: unknown, signal?: AbortSignal): Promise<{ counts: Uint32Array; shape: readonly [number, number, number] }> {
  const response = await send(path, { method: "POST", body, signal });
  const [planes = 0, rows = 0, columns = 0] = (response.headers.get("Saucer-Shape") ?? "").split(",").map(Number);
  return { counts: new Uint32Array(await response.arrayBuffer()), shape: [planes, rows, columns] };
}

export async function loadImage(path: string, signal?: AbortSignal): Promise<ImageBitmap> {
  const response = await send(path, { signal });
  return createImageBitmap(await response.blob(), { colorSpaceConversion: "none" });
}

/** What went wrong, in words for the person. */
export function wordsFor(error: unknown): string {
  return error instanceof Error ? error.message : "Something went wrong.";
}
