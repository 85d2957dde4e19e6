/** Talking to the server: typed calls by the paths of the API, pictures, one error. */
import createClient, { type Middleware } from "openapi-fetch";
import type { paths } from "./schema";
import { Cancelled, filesIn, IN_PARTS_FROM, sendWatched, WATCHED_FROM } from "./uploads";

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
  constructor(words = "The server cannot be reached.") {
    super(words);
  }
}

function csrfToken(): string {
  return /(?:^|; )(?:__Host-)?csrftoken=([^;]*)/.exec(document.cookie)?.[1] ?? "";
}

/** Of the server itself, or of a proxy in front of it: it is not there for the moment. */
const AWAY = [502, 503, 504];

async function problemOf(response: Response): Promise<Problem | Unreachable> {
  const content = (await response.json().catch(() => ({}))) as Record<string, unknown>;
  const detail =
    typeof content.detail === "string" ? content.detail : `The server answered ${String(response.status)}.`;
  if (AWAY.includes(response.status))
    return new Unreachable(typeof content.detail === "string" ? content.detail : undefined);
  if (response.status === 401) window.dispatchEvent(new Event("saucer:signed-out"));
  return new Problem(response.status, detail, content);
}

/** Sends the token along; every answer but a good one is a Problem, no answer is Unreachable. */
const rules: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
  async onResponse({ response }) {
    if (!response.ok) throw await problemOf(response);
    return response;
  },
  onError({ error }) {
    const isMeant = error instanceof Cancelled || (error instanceof DOMException && error.name === "AbortError");
    return isMeant ? error : new Unreachable();
  },
};

/** `fetch` is looked up anew at every call, so that tests can put another in its place. */
export const api = createClient<paths>({
  baseUrl: window.location.origin,
  credentials: "same-origin",
  fetch: (request) => fetch(request),
});
api.use(rules);

/** What a call brought; it throws where it brought nothing. */
export async function got<T>(answer: Promise<{ data?: T }>): Promise<T> {
  return (await answer).data as T;
}

/** Fields and files as a form, in place of JSON. */
export function asForm(fields: Readonly<Record<string, string | Blob | readonly Blob[]>>): {
  body: never;
  bodySerializer: () => FormData;
  fetch: (request: Request) => Promise<Response>;
} {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) {
    for (const one of Array.isArray(value) ? (value as readonly Blob[]) : [value as string | Blob])
      form.append(name, one);
  }
  const files = filesIn(form);
  const bytes = files.reduce((sum, one) => sum + one.size, 0);
  const isLarge = files.some((one) => one.size >= IN_PARTS_FROM);
  return {
    body: fields as never,
    bodySerializer: () => form,
    fetch: async (request) => {
      if (isLarge) return (await import("./parts")).sendWithParts(request, form);
      return bytes < WATCHED_FROM ? fetch(request) : sendWatched(request, form);
    },
  };
}

async function send(path: string, body?: unknown, signal?: AbortSignal): Promise<Response> {
  const post = {
    method: "POST",
    headers: { "X-CSRFToken": csrfToken(), "Content-Type": "application/json" },
    body: JSON.stringify(body),
  };
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      ...(body === undefined ? {} : post),
      signal: signal ?? null,
      credentials: "same-origin",
    });
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new Unreachable();
  }
  if (!response.ok) throw await problemOf(response);
  return response;
}

/** What /api/auth answers, in django-allauth's own form. */
export interface AuthAnswer {
  readonly status: number;
  readonly data?: unknown;
  readonly meta?: Readonly<Record<string, unknown>>;
}
/** Who is signed in has to say once more who they are before this is done. */
export class SayAgain extends Error {}

/** A call to what signs people in by second factors (people/auth_urls.py). Answers of 401 while signing in, and of 404, are for the caller. */
export async function callAuth(method: "GET" | "POST" | "DELETE", path: string, body?: unknown): Promise<AuthAnswer> {
  let response: Response;
  try {
    const url = `${window.location.origin}/api/auth/${path}`;
    const sent = body === undefined ? {} : { body: JSON.stringify(body) };
    const kind: Record<string, string> = body === undefined ? {} : { "Content-Type": "application/json" };
    const headers = { "X-CSRFToken": csrfToken(), ...kind };
    response = await fetch(new Request(url, { method, headers, credentials: "same-origin", ...sent }));
  } catch {
    throw new Unreachable();
  }
  if (AWAY.includes(response.status)) throw new Unreachable();
  if (response.status === 429) throw new Problem(429, "Too many tries. Wait a few minutes, then try again.");
  const answer = (await response.json().catch(() => ({}))) as Record<string, unknown>;
  if (response.status === 401 && (answer.meta as { is_authenticated?: boolean } | undefined)?.is_authenticated)
    throw new SayAgain();
  if (response.status >= 400 && response.status !== 401 && response.status !== 404) {
    const errors = (answer.errors ?? []) as readonly { message: string }[];
    const words = typeof answer.detail === "string" ? answer.detail : errors.map((one) => one.message).join(" ");
    throw new Problem(response.status, words || `The server answered ${String(response.status)}.`);
  }
  return { ...answer, status: response.status };
}

const bitmapOf = async (response: Response) =>
  createImageBitmap(await response.blob(), { colorSpaceConversion: "none" });

export const callImage = async (path: string, body: unknown, signal?: AbortSignal): Promise<ImageBitmap> =>
  bitmapOf(await send(path, body, signal));

/** A picture with the profile of what it is to be seen on, which is kept. */
export const callWideImage = async (path: string, body: unknown, signal?: AbortSignal): Promise<ImageBitmap> =>
  createImageBitmap(await (await send(path, body, signal)).blob());

export const loadImage = async (path: string, signal?: AbortSignal): Promise<ImageBitmap> =>
  bitmapOf(await send(path, undefined, signal));

/** A picture as it came, to be shown by its address rather than drawn. */
export const callBlob = async (path: string, body: unknown, signal?: AbortSignal): Promise<Blob> =>
  (await send(path, body, signal)).blob();

/** A picture that comes with figures about it. */
export async function callWithFigures(
  path: string,
  body: unknown,
  signal?: AbortSignal,
): Promise<{ bitmap: ImageBitmap; figures: Record<string, number> }> {
  const response = await send(path, body, signal);
  const figures = JSON.parse(response.headers.get("Saucer-Figures") ?? "{}") as Record<string, number>;
  return { bitmap: await bitmapOf(response), figures };
}

/** Counts as a scope has them, with their shape (planes, rows, columns). */
export async function callCounts(
  path: string,
  body: unknown,
  signal?: AbortSignal,
): Promise<{ counts: Uint32Array; shape: readonly [number, number, number] }> {
  const response = await send(path, body, signal);
  const [planes = 0, rows = 0, columns = 0] = (response.headers.get("Saucer-Shape") ?? "").split(",").map(Number);
  return { counts: new Uint32Array(await response.arrayBuffer()), shape: [planes, rows, columns] };
}

/** Several files one after the other, with how long each is. */
export async function callFiles(
  path: string,
  body: unknown,
  signal?: AbortSignal,
): Promise<{ data: ArrayBuffer; sizes: readonly number[] }> {
  const response = await send(path, body, signal);
  const sizes = (response.headers.get("Saucer-Sizes") ?? "").split(",").map(Number);
  return { data: await response.arrayBuffer(), sizes };
}

/** What went wrong, in words for the person. */
export function wordsFor(error: unknown): string {
  return error instanceof Error ? error.message : "Something went wrong.";
}
