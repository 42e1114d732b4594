import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import type { Code } from '../dictionary/index.ts';
import { bridge, modelNamed, readingsOf } from '../testing/index.ts';
import { parseFacts, parseEnd, type FieldDevice, type Wiring } from '../wiring/index.ts';
import { NOTHING_SAID, readCrossReference, replaceBy, type SheetInput } from './index.ts';

const [old, fresh] = [modelNamed('halvern-hn20@1'), modelNamed('halvern-hn64@1')];
const read = readCrossReference(
  readFileSync(
    join(import.meta.dirname, '../../../catalogue/cross-references/halvern-hn20--halvern-hn64.yaml'),
    'utf8',
  ),
  old,
  fresh,
);
if (!read.ok) throw new Error(JSON.stringify(read.fault));
const outfit = { rating: 'HN20-22', region: '50-hz' };
const motorAmps =
  old.parameters.find(({ meaning }) => meaning === 'motor.ratedCurrent')?.code ?? ('' as Code);

const device = (kind: FieldDevice['kind'], name: string, text: string): FieldDevice => {
  const facts = parseFacts(kind, text);
  if (!facts.ok) throw new Error(text);
  return { ...facts.value, name, what: '' };
};
const wiring = (devices: readonly FieldDevice[], ...wires: readonly string[]): Wiring => ({
  ...{ devices, links: [], switches: {}, arrangement: '' },
  wires: wires.map((ends, at) => {
    const [from, to] = ends.split(' ').map(parseEnd);
    if (!from || !to) throw new Error(ends);
    return { number: String(at + 1), colour: '', from, to };
  }),
});
const fitOf = (
  {
    ambient = null,
    amps = 50,
    wires = wiring([]),
  }: { ambient?: number | null; amps?: number; wires?: Wiring },
  rating = 'HN64-22',
) => {
  const readings = new Map([...readingsOf(old, {}), [motorAmps, amps] as const]);
  const input: SheetInput = {
    ...{ bridge, words: bridge.vocabulary, fresh, region: '50-hz', rating, cross: read.value },
    old: { set: bridge.read(old, outfit, readings), outfit, wiring: wires, onLine: false, ambient },
    sayings: NOTHING_SAID,
  };
  return replaceBy(input);
};
const item = (what: string, ...asked: Parameters<typeof fitOf>) =>
  fitOf(...asked).replacement.fit.find((each) => each.what === what);

describe('the current of a successor', () => {
  // HN64-22 gives 5.6 A; by its manual all of it at 40 °C, 88 % at 50 °C, 70 % at 60 °C, straight in between.
  it.each([
    [40, 'good', '5.6 A'],
    [45, 'good', '5.3 A (5.6 A at 45 °C)'],
    [50, 'bad', '4.9 A (5.6 A at 50 °C)'],
    [55, 'bad', '4.4 A (5.6 A at 55 °C)'],
  ])('counts in a cabinet of %d °C against a motor of 5.0 A', (ambient, state, gives) => {
    expect(item('current', { ambient })).toEqual({ what: 'current', needs: '5.0 A', state, gives });
  });

  it('asks where nobody has told how hot the cabinet is and the heat may decide', () => {
    expect(item('current', { amps: 50 })?.state).toBe('ask');
    expect(item('current', { amps: 40 })?.state).toBe('good');
    expect(item('current', { amps: 60 })?.state).toBe('bad');
  });

  it('lets the smallest rating be chosen that gives it there', () => {
    const chosen = (ambient: number) => {
      const { ratings } = fitOf({ ambient });
      return ratings.find(({ state }) => state !== 'bad')?.id;
    };
    expect([chosen(40), chosen(50)]).toEqual(['HN64-22', 'HN64-40']);
  });
});

describe('what hangs on the terminals', () => {
  const relay = (facts: string) => wiring([device('load', 'H1', facts)], '16 H1:A1');

  it('must not be more than the new contact can switch', () => {
    expect(item('contacts', { wires: relay('24 V; 80 mA') })).toMatchObject({
      state: 'good',
      needs: 'H1: 24 V, 80 mA',
    });
    expect(item('contacts', { wires: relay('24 V; 5000 mA') })?.state).toBe('bad');
    expect(item('contacts', { wires: relay('400 V; 80 mA') })?.state).toBe('bad');
  });

  it('asks of a transmitter whether it drives the new input', () => {
    const signal = old.terminals?.strips
      .flatMap(({ terminals }) => terminals)
      .find(({ kind }) => kind === 'analog-input');
    const sends = (kind: string) =>
      wiring(
        [device('transmitter', 'B1', `${kind}; 2 wires; range 0 to 10 bar`)],
        `${signal?.id ?? ''} B1:-`,
      );
    expect(item('burden', { wires: sends('4-20-ma') })?.needs).toMatch(/^B1 drove/);
    expect(item('burden', { wires: sends('0-10-v') })).toBeUndefined();
  });
});
