import { describe, expect, it } from '@jest/globals';
import { SharedAnswer } from './shared-answer.ts';

/** Work that ends when it is told to, and answers with what was so when it began. */
function slow() {
  const ends: (() => void)[] = [];
  let state = 0;
  let runs = 0;
  const shared = new SharedAnswer(async () => {
    runs += 1;
    const seen = state;
    await new Promise<void>((resolve) => ends.push(resolve));
    if (seen < 0) throw new Error('broken');
    return seen;
  });
  const settle = () => new Promise((resolve) => setImmediate(resolve));
  return {
    shared,
    runs: () => runs,
    change: (to: number) => void (state = to),
    end: async () => {
      ends.shift()?.();
      await settle();
    },
  };
}

describe('an answer that is shared', () => {
  it('is worked out once for all who wait, and never from before the question', async () => {
    const { shared, runs, change, end } = slow();
    const first = shared.ask();
    change(1);
    const late = [shared.ask(), shared.ask(), shared.ask()];
    await end();
    expect([await first, runs()]).toEqual([0, 2]);
    change(2);
    const later = shared.ask();
    await end();
    expect(await Promise.all(late)).toEqual([1, 1, 1]);
    await end();
    expect([await later, runs()]).toEqual([2, 3]);
  });

  it('that fails fails for those who waited for it, and for nobody after them', async () => {
    const { shared, change, end } = slow();
    change(-1);
    const failed = shared.ask();
    change(5);
    const after = shared.ask();
    await end();
    await expect(failed).rejects.toThrow('broken');
    await end();
    expect(await after).toBe(5);
  });
});
