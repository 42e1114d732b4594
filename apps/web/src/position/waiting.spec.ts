import { describe, expect, it } from '@jest/globals';
import type { KeyInSheetView, WritePlanState, WritePlanView } from '@drive-keep/api';
import { waitingOf } from './waiting.ts';

const plan = (state: WritePlanState, steps: readonly (readonly [string, string])[]) =>
  ({
    ...{ id: state, state, plannedBy: 'R. Ashgrove' },
    steps: steps.map(([code, of]) => ({ code, state: of })),
  }) as unknown as WritePlanView;
const sheet = (state: 'open' | 'finished') =>
  ({
    ...{ id: state, state, madeBy: 'R. Ashgrove' },
    lines: [
      { kind: 'check', code: '2/09' },
      { kind: 'change', code: '2/01' },
    ],
  }) as unknown as KeyInSheetView;

describe('what waits', () => {
  it('is every value that an open plan has not written yet', () => {
    const steps = [
      ['2/01', 'written'],
      ['2/02', 'writing'],
      ['2/03', 'planned'],
    ] as const;
    const codes = waitingOf([plan('writing', steps)], [], []).map((each) => each.codes);
    expect(codes).toEqual([['2/02', '2/03']]);
  });

  it('is nothing of a plan that has ended, however it ended', () => {
    const ended = (['done', 'refused', 'failed', 'interrupted'] as const).map((state) =>
      plan(state, [['2/01', 'planned']]),
    );
    expect(waitingOf(ended, [], [])).toEqual([]);
  });

  it('is every change of an open key-in sheet, and none of its checks', () => {
    expect(waitingOf([], [sheet('finished')], [])).toEqual([]);
    expect(waitingOf([], [sheet('open')], []).map(({ to, codes }) => [to, codes])).toEqual([
      ['/key-in/open', ['2/01']],
    ]);
  });
});
