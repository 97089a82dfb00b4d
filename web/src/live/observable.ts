/** A state that others may follow: they are told when it is another one. */
export class Observable<T> {
  private listeners = new Set<() => void>();
  protected state: T;

  constructor(state: T) {
    this.state = state;
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): T => this.state;

  protected put(state: T): void {
    if (Object.is(state, this.state)) return;
    this.state = state;
    for (const listener of this.listeners) listener();
  }
}
