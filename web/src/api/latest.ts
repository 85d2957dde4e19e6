/** One request in flight; what is asked for meanwhile replaces what waited, so that answers are never stale. */
export class Latest<Input, Result> {
  private running = false;
  private waiting: { input: Input } | null = null;
  private controller = new AbortController();
  private closed = false;

  constructor(
    private readonly run: (input: Input, signal: AbortSignal) => Promise<Result>,
    private readonly onResult: (result: Result, input: Input) => void,
    private readonly onError: (error: unknown, input: Input) => void,
  ) {}

  ask(input: Input): void {
    if (this.closed) return;
    this.waiting = { input };
    if (!this.running) void this.work();
  }

  /** Drops what waits; the answer on its way is not delivered. */
  close(): void {
    this.closed = true;
    this.waiting = null;
    this.controller.abort();
  }

  private async work(): Promise<void> {
    this.running = true;
    while (this.waiting) {
      const { input } = this.waiting;
      this.waiting = null;
      try {
        const result = await this.run(input, this.controller.signal);
        if (!this.closed) this.onResult(result, input);
      } catch (error) {
        if (!this.closed) this.onError(error, input);
      }
    }
    this.running = false;
  }
}
