import { afterEach, describe, expect, it, vi } from "vitest";
import { rateAfter, sendWatched, uploads } from "./uploads";

/** A call that is at rest until it is told what happens. */
class Call {
  static last: Call;
  status = 0;
  response: ArrayBuffer | null = null;
  responseType = "";
  sent: unknown = null;
  readonly headers: Record<string, string> = {};
  readonly upload = { onprogress: null as null | ((event: { loaded: number }) => void) };
  onload: (() => void) | null = null;
  onerror: (() => void) | null = null;
  onabort: (() => void) | null = null;
  constructor() {
    Call.last = this;
  }
  open = (): void => undefined;
  setRequestHeader = (name: string, value: string): void => void (this.headers[name.toLowerCase()] = value);
  getResponseHeader = (): string => "application/json";
  send = (form: unknown): void => void (this.sent = form);
  abort = (): void => this.onabort?.();
}
vi.stubGlobal("XMLHttpRequest", Call);
afterEach(() => uploads.set([]));

function sending(...sizes: number[]) {
  const form = new FormData();
  sizes.forEach((size, index) => form.append("files", new File([new Uint8Array(size)], `take_${String(index)}.mov`)));
  const request = new Request("http://localhost/api/footage", { method: "POST", headers: { "X-CSRFToken": "abc" } });
  return { form, answer: sendWatched(request, form) };
}

describe("a file on its way to the server", () => {
  it("is told of while it goes, and gone when it is there", async () => {
    const { form, answer } = sending(300, 100);
    expect(uploads.get().map((one) => [one.name, one.bytes, one.sent])).toEqual([["take_0.mov and 1 more", 400, 0]]);
    Call.last.upload.onprogress?.({ loaded: 100 });
    expect(uploads.get()[0]?.sent).toBe(100);
    // What goes around the files counts too, and is more than they are.
    Call.last.upload.onprogress?.({ loaded: 460 });
    expect(uploads.get()[0]?.sent).toBe(400);
    expect([Call.last.headers["x-csrftoken"], Call.last.sent]).toEqual(["abc", form]);
    Call.last.status = 200;
    Call.last.response = new TextEncoder().encode('{"pictures":[4]}').buffer;
    Call.last.onload?.();
    expect(await (await answer).json()).toEqual({ pictures: [4] });
    expect(uploads.get()).toEqual([]);
  });

  it("is stopped by itself, in words, while others go on", async () => {
    const one = sending(10);
    const other = sending(20);
    uploads.get()[1]?.cancel();
    await expect(other.answer).rejects.toThrow("take_0.mov was not brought in: you cancelled it.");
    expect(uploads.get().map(({ bytes }) => bytes)).toEqual([10]);
    uploads.get()[0]?.cancel();
    await expect(one.answer).rejects.toThrow();
  });

  it("fails as other calls do where there is no server", async () => {
    const { answer } = sending(10);
    Call.last.onerror?.();
    await expect(answer).rejects.toThrow(TypeError);
    expect(uploads.get()).toEqual([]);
  });
});

it("the rate follows what happens lately", () => {
  expect(rateAfter(0, 1000, 500)).toBe(2000);
  expect(rateAfter(2000, 0, 0)).toBe(2000);
  expect(rateAfter(2000, 500, 1000)).toBeCloseTo(1500, 6);
  expect(rateAfter(2000, 3000, 6000)).toBe(500);
});
