/** What component tests stand on: the theme, a query client of their own, and a server whose answers are written down. */
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, configure } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, vi } from "vitest";
import type { Look } from "./api/types";
import { BenchStore, opened } from "./look/store";
import type { Bench } from "./look/useBench";
import { Picker } from "./look/view/picking";
import { fromSearch, ViewStore } from "./look/view/view";
import { SurroundProvider } from "./theme/surround";

// A machine busy with other things may stand still for seconds, and no time is measured here.
configure({ asyncUtilTimeout: 15_000 });

export interface Sent {
  readonly method: string;
  readonly path: string;
  readonly body: unknown;
}
/** null: the server cannot be reached. */
export type Answer = (sent: Sent) => { status?: number; body: unknown } | null;

/** Answers every call from now on; what was sent stands in the list it gives. */
export function serve(answer: Answer): Sent[] {
  const sent: Sent[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const text = await request.text();
    const one: Sent = {
      method: request.method,
      path: new URL(request.url).pathname,
      body: request.headers.get("Content-Type")?.includes("json") ? JSON.parse(text) : text || null,
    };
    sent.push(one);
    const found = answer(one);
    if (found === null) throw new TypeError("no network");
    const { status = 200 } = found;
    return new Response(status === 204 ? null : JSON.stringify(found.body), { status });
  });
  return sent;
}

/** Around whatever is tried. */
export function studio(): ({ children }: { children: ReactNode }) => ReactNode {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return function Studio({ children }) {
    return (
      <QueryClientProvider client={client}>
        <SurroundProvider>{children}</SurroundProvider>
      </QueryClientProvider>
    );
  };
}

/** A look that is worked at, as the Bench's parts are given it; nothing of it is saved. */
export function benchOf(look: Look, mayEdit = true): Bench {
  const nothing = () => Promise.resolve();
  return {
    store: new BenchStore(opened(look, [], [], look.steps?.[0]?.id ?? null)),
    view: new ViewStore(fromSearch(new URLSearchParams())),
    picker: new Picker(),
    id: 1,
    mayEdit,
    flush: nothing,
    keepMine: nothing,
    takeTheirs: nothing,
    follow: nothing,
    refresh: nothing,
    revision: () => 1,
  };
}

// A document of the tests need have no CSS.escape, by which dialogs find again what had the focus.
beforeEach(() => vi.stubGlobal("CSS", { escape: (text: string) => text }));
afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
