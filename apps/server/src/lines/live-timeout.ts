// A time-out that counts only time in which this process was alive. When the whole machine stands still for a second,
// every ordinary timer is over at once, before the answers that are already there have been looked at; units would be
// reported as silent that are not.

/** Ticks per time-out: each counts as one tick at the most, however long it really took. */
const TICKS = 10;

export class LiveTimeout {
  /** Resolves when the time is over or `soon` turns true; never, once cancelled. */
  readonly over: Promise<void>;
  private timer: NodeJS.Timeout | undefined;

  constructor(ms: number, soon: () => boolean = () => false) {
    this.over = new Promise((resolve) => {
      const tick = (left: number) => {
        if (left === 0 || soon()) resolve();
        else this.timer = setTimeout(() => tick(left - 1), ms / TICKS);
      };
      tick(TICKS);
    });
  }

  cancel(): void {
    clearTimeout(this.timer);
  }
}
