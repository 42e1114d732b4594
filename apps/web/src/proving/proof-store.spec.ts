import { beforeEach, describe, expect, it } from '@jest/globals';
import type { ProofRunView, ProofSayingView } from '@drive-keep/api';
import { courseOf } from './evidence-course.tsx';
import { unsentWords, useProofs } from './proof-store.ts';

const RUN = {
  ...{ id: 'run', state: 'open', scope: 'whole', tag: 'KL1-RD-05', planned: [], sayings: [], evidence: [] },
} as unknown as ProofRunView;
const said = (step: string, more: Partial<ProofSayingView> = {}): ProofSayingView => ({
  ...{ step, verdict: 'passed', seen: '', evidence: null, by: 'R. Ashgrove', other: null },
  ...{ at: '2026-11-27T10:00:00.000Z', toldAt: '2026-11-27T09:59:00.000Z' },
  ...more,
});
const store = () => useProofs.getState();
const own = () => {
  const found = store().byId['run'];
  if (!found) throw new Error('not there');
  return found;
};
const word = (at: string) => ({ verdict: 'failed' as const, seen: 'It stands', evidence: null, at });

beforeEach(() => {
  useProofs.setState({ byId: {} });
  store().hear(RUN, []);
});

describe('a proof run on this device', () => {
  it('keeps a word until the server has it, whatever the server says meanwhile', () => {
    store().say('run', 'S1=1', word('2026-11-27T11:00:00.000Z'));
    store().hear({ ...RUN, sayings: [said('S1=1'), said('S2=1')] }, []);
    expect(own().sayings['S1=1']).toMatchObject({ verdict: 'failed', sent: false });
    expect(own().sayings['S2=1']).toMatchObject({ verdict: 'passed', sent: true, by: 'R. Ashgrove' });
    expect(unsentWords(own())).toEqual([
      {
        step: 'S1=1',
        verdict: 'failed',
        seen: 'It stands',
        evidence: null,
        toldAt: '2026-11-27T11:00:00.000Z',
      },
    ]);
  });

  it('takes a word for brought when the server has it, and shows who said otherwise before', () => {
    store().say('run', 'S1=1', word('2026-11-27T11:00:00.000Z'));
    const brought = unsentWords(own());
    const other = { by: 'R. Ashgrove', at: '2026-11-27T10:00:00.000Z', verdict: 'passed' as const };
    const told = said('S1=1', {
      verdict: 'failed',
      by: 'T. Pellow',
      toldAt: '2026-11-27T11:00:00.000Z',
      other,
    });
    store().hear({ ...RUN, sayings: [told] }, brought);
    expect(unsentWords(own())).toEqual([]);
    expect(own().sayings['S1=1']).toMatchObject({ by: 'T. Pellow', other: 'R. Ashgrove: passed' });
  });

  it('gives way to a later word of somebody else once its own has come', () => {
    store().say('run', 'S1=1', word('2026-11-27T11:00:00.000Z'));
    const brought = unsentWords(own());
    store().hear({ ...RUN, sayings: [said('S1=1', { toldAt: '2026-11-27T11:00:05.000Z' })] }, brought);
    expect(own().sayings['S1=1']).toMatchObject({ verdict: 'passed', by: 'R. Ashgrove' });
    expect(unsentWords(own())).toEqual([]);
  });

  it('is not kept on the device any longer when another one has ended', () => {
    store().hear({ ...RUN, state: 'closed' }, []);
    store().hear({ ...RUN, id: 'next' }, []);
    expect(Object.keys(store().byId)).toEqual(['next']);
    // What could not be brought before it ended is not thrown away.
    store().say('next', 'S1=1', word('2026-11-27T11:00:00.000Z'));
    store().hear({ ...RUN, id: 'next', state: 'closed' }, []);
    store().hear(RUN, []);
    expect(Object.keys(store().byId).sort()).toEqual(['next', 'run']);
  });
});

describe('what was read of a step', () => {
  it('is drawn as it stood between two readings, and as nothing while the unit was silent', () => {
    const { seconds, inputs, hertz } = courseOf([
      { at: 0, inputs: { '1': false, '2': true }, runs: false, faulty: false, hertz: 0 },
      { at: 2000, inputs: { '1': true, '2': true } },
      { at: 2100, hertz: 10 },
      { at: 4000, silent: true },
      { at: 6000, inputs: { '1': true, '2': true }, hertz: 0 },
      { at: 7000, inputs: { '1': false, '2': true } },
    ]);
    expect(seconds).toBe(7);
    // Input 1 alone has moved, unless one was silent: that moves all of them.
    expect(inputs.find(({ number }) => number === '1')?.on).toEqual([
      [2, 4],
      [6, 7],
    ]);
    // It stood at 0 until just before it was seen at 10, and did not rise slowly for two seconds.
    expect(hertz.slice(0, 3)).toEqual([
      { at: 0, value: 0 },
      { at: 2, value: 0 },
      { at: 2.1, value: 10 },
    ]);
    expect(hertz.at(-1)).toEqual({ at: 7, value: 0 });
  });
});
