/** The pictures of a wall's cards: asked for many at once, the last asked for first, and kept as long as the wall is open. */

interface Ask<Seen> {
  readonly shot: number;
  readonly seen: Seen;
  /** What it is seen through, to be asked for together with others that are seen so. */
  readonly group: string;
  readonly key: string;
}

type Fetch<Seen> = (shots: readonly number[], seen: Seen, signal: AbortSignal) => Promise<readonly (Blob | null)[]>;
type Told = (address: string | null) => void;

/** null: it cannot be shown */
export class Cards<Seen> {
  private readonly found = new Map<string, string | null>();
  private readonly told = new Map<string, Set<Told>>();
  private waiting: Ask<Seen>[] = [];
  private running = 0;
  private isDue = false;
  private controller = new AbortController();

  /** together: at most so many shots in one request; abreast: at most so many requests at a time */
  constructor(
    private readonly fetch: Fetch<Seen>,
    private readonly together = 12,
    private readonly abreast = 3,
  ) {}

  /** What is there already; undefined while it is not. */
  get(key: string): string | null | undefined {
    return this.found.get(key);
  }

  /** Tells the address of a card's picture once; what it gives back takes the asking back. key: changes whenever it would look different */
  ask(shot: number, seen: Seen, key: string, tell: Told): () => void {
    const known = this.found.get(key);
    if (known !== undefined) {
      tell(known);
      return () => undefined;
    }
    const tellers = this.told.get(key) ?? new Set();
    tellers.add(tell);
    this.told.set(key, tellers);
    if (tellers.size === 1) {
      this.waiting.push({ shot, seen, group: JSON.stringify(seen), key });
      this.soon();
    }
    return () => {
      tellers.delete(tell);
      if (tellers.size > 0) return;
      this.told.delete(key);
      this.waiting = this.waiting.filter((one) => one.key !== key);
    };
  }

  open(): void {
    this.controller = new AbortController();
    this.soon();
  }

  close(): void {
    this.controller.abort();
    this.waiting = [];
    this.told.clear();
    for (const address of this.found.values()) if (address !== null) URL.revokeObjectURL(address);
    this.found.clear();
  }

  /** Once everything that comes into sight together has asked. */
  private soon(): void {
    if (this.isDue) return;
    this.isDue = true;
    queueMicrotask(() => {
      this.isDue = false;
      while (this.running < this.abreast && this.waiting.length > 0) void this.run();
    });
  }

  private async run(): Promise<void> {
    const last = this.waiting[this.waiting.length - 1];
    if (!last) return;
    const chosen = this.waiting.filter((one) => one.group === last.group).slice(-this.together);
    this.waiting = this.waiting.filter((one) => !chosen.includes(one));
    const { signal } = this.controller;
    this.running += 1;
    try {
      const shots = chosen.map((one) => one.shot);
      const files = await this.fetch(shots, last.seen, signal);
      chosen.forEach((one, index) => {
        const file = files[index] ?? null;
        if (!signal.aborted) this.keep(one.key, file && URL.createObjectURL(file));
      });
    } catch {
      if (!signal.aborted) for (const one of chosen) this.tell(one.key, null);
    }
    this.running -= 1;
    this.soon();
  }

  private keep(key: string, address: string | null): void {
    this.found.set(key, address);
    this.tell(key, address);
  }

  private tell(key: string, address: string | null): void {
    const tellers = this.told.get(key);
    this.told.delete(key);
    tellers?.forEach((tell) => tell(address));
  }
}
