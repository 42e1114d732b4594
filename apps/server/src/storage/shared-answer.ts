// One piece of work for many who ask the same at the same time. Whoever asks while it is at work gets the next one, which
// begins after the question: nobody is told what was so before he asked.

export class SharedAnswer<T> {
  private current: Promise<T> | undefined;
  private next: Promise<T> | undefined;

  constructor(private readonly work: () => Promise<T>) {}

  /** Fails as the work fails, for all who wait for it; the next question begins anew. */
  ask(): Promise<T> {
    if (!this.current) return this.begin();
    const over = () => undefined;
    this.next ??= this.current.then(over, over).then(() => {
      this.next = undefined;
      return this.begin();
    });
    return this.next;
  }

  private begin(): Promise<T> {
    const run = this.work().finally(() => {
      if (this.current === run) this.current = undefined;
    });
    this.current = run;
    return run;
  }
}
