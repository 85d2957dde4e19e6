/** A value that changes outside React and is read inside it. */
export class Shared<T> {
  private readonly listeners = new Set<() => void>();

  constructor(private value: T) {}

  readonly get = (): T => this.value;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  set(next: T): void {
    if (next === this.value) return;
    this.value = next;
    for (const listener of this.listeners) listener();
  }
}
