import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { benchWiring, bridge, modelNamed, outfitOf, plainReadings } from '../testing/index.ts';
import { showRaw, type Reading } from '../values/index.ts';
import { findParameter, type Code } from '../dictionary/index.ts';
import type { Wiring } from '../wiring/index.ts';
import { begin, machineOf, mendOf, sameBehaviour, step, type Machine, type WalkOptions } from './index.ts';

const OPTIONS: WalkOptions = { mostPairs: 600, mostDifferences: 6, keys: false };
const HN64 = 'halvern-hn64@1';

type Wanted = Readonly<Record<string, string | number>>;

const bench = (id: string, inputs: readonly number[]): Wiring => {
  const whole = benchWiring(modelNamed(id));
  const kept = inputs.map((input) => `S${input}`);
  return {
    ...whole,
    devices: whole.devices.filter(({ name }) => kept.includes(name)),
    wires: whole.wires.filter(({ from, to }) =>
      [from, to].every((end) => end.kind === 'terminal' || kept.includes(end.device)),
    ),
  };
};
const drive = (id: string, wanted: Wanted, wiring: Wiring): Machine =>
  machineOf(
    bridge.read(modelNamed(id), outfitOf(modelNamed(id)), plainReadings(modelNamed(id), wanted)),
    wiring,
  );
const withReadings = ({ set, wiring }: Machine, more: Iterable<readonly [Code, Reading]>): Machine =>
  machineOf(
    bridge.read(set.dictionary, outfitOf(set.dictionary), new Map([...set.readings, ...more])),
    wiring,
  );
const inWords = (machine: Machine, mend: ReadonlyMap<Code, number>) =>
  [...mend].map(([code, raw]) => {
    const parameter = findParameter(machine.set.dictionary, code);
    return parameter ? `${parameter.meaning}: ${showRaw(parameter.form, raw)}` : code;
  });

/** What a mend changes, for each difference of two drives. */
const mendsOf = (a: Machine, b: Machine) =>
  sameBehaviour(a, b, OPTIONS).differences.map((each) =>
    inWords(b, mendOf(each, a, b, outfitOf(b.set.dictionary))),
  );

describe('what mends a difference', () => {
  it('is the setting that differs, and no other', () => {
    const wiring = bench(HN64, [1, 3]);
    const wanted = { 'input.3.function': 'preset.1', 'ramp.up': 0.1 };
    const a = drive(HN64, { ...wanted, 'preset.contact.1': 12, 'stop.mode': 'ramp' }, wiring);
    const b = drive(HN64, { ...wanted, 'preset.contact.1': 9, 'stop.mode': 'coast', 'ramp.up': 0.4 }, wiring);
    const mends = mendsOf(a, b);
    expect(mends).toContainEqual(['preset.contact.1: 12.00 Hz']);
    expect(mends).toContainEqual([expect.stringMatching(/^stop\.mode: /)]);
    for (const mend of mends) expect(mend).toHaveLength(1);
  });

  it('is told as the other model counts it', () => {
    const a = drive(
      'halvern-hn20@1',
      { 'input.3.function': 'preset.bit.0', 'preset.2': 12.5 },
      bench('halvern-hn20@1', [1, 3]),
    );
    const b = drive(HN64, { 'input.3.function': 'preset.1', 'preset.contact.1': 9 }, bench(HN64, [1, 3]));
    const { differences } = sameBehaviour(a, b, OPTIONS);
    const mended = differences.flatMap((each) => {
      const mend = mendOf(each, a, b, outfitOf(b.set.dictionary));
      if (each.aspect !== 'speed' || mend.size === 0) return [];
      let { state, outcome } = begin(withReadings(b, mend));
      for (const event of each.events) ({ state, outcome } = step(withReadings(b, mend), state, event));
      return [[...inWords(b, mend), outcome.setPoint?.hertz, each.a.outcome.setPoint?.hertz]];
    });
    expect(mended).toContainEqual(['preset.contact.1: 12.50 Hz', 12.5, 12.5]);
  });

  it('is nothing where a wire decides', () => {
    const wired = bench(HN64, [1]);
    const a = drive(HN64, {}, wired);
    const b = drive(HN64, {}, { ...wired, wires: [] });
    const walked = sameBehaviour(a, b, OPTIONS);
    expect(walked.differences.length).toBeGreaterThan(0);
    for (const each of walked.differences)
      expect(mendOf(each, a, b, outfitOf(b.set.dictionary))).toEqual(new Map());
  });

  it('is not looked for where the model does not know the rating', () => {
    const wiring = bench(HN64, [1]);
    const a = drive(HN64, { 'stop.mode': 'ramp' }, wiring);
    const known = drive(HN64, { 'stop.mode': 'coast' }, wiring);
    const outfit = { rating: 'HN64-0', region: '50-hz' };
    const b = machineOf(bridge.read(known.set.dictionary, outfit, known.set.readings), wiring);
    const { differences } = sameBehaviour(a, b, OPTIONS);
    expect(differences.length).toBeGreaterThan(0);
    for (const each of differences) expect(mendOf(each, a, b, outfit)).toEqual(new Map());
  });

  it('is found for every difference of two sets with the same wires, shows it no more, and touches nothing that is alike', () => {
    const speeds = fc.constantFrom(5, 10, 20);
    const side = fc.record({
      'input.3.function': fc.constantFrom('jog', 'coast', 'quick-stop', 'preset.1', 'none'),
      'jog.speed': speeds,
      'preset.contact.1': speeds,
      'stop.mode': fc.constantFrom('ramp', 'coast'),
      lock: fc.constantFrom('start', 'wait'),
    });
    // This model says both locks with one setting.
    const made = ({ lock = '', ...wanted }: Wanted) =>
      drive(HN64, { ...wanted, 'command.startLock': lock, 'command.resetLock': lock }, wiring);
    const wiring = bench(HN64, [1, 3]);
    let met = 0;
    fc.assert(
      fc.property(side, side, (one, other) => {
        const [a, b] = [made(one), made(other)];
        for (const difference of sameBehaviour(a, b, OPTIONS).differences) {
          const mend = mendOf(difference, a, b, outfitOf(b.set.dictionary));
          const end = (machine: Machine) => {
            let stepped = begin(machine);
            for (const event of difference.events) stepped = step(machine, stepped.state, event);
            const { kind, direction, setPoint, stops } = stepped.outcome;
            // What comes later in a comparison is a difference of its own.
            const all = [kind, direction, setPoint?.hertz, stops];
            return all.slice(0, { speed: 3, stops: 4 }[difference.aspect as string] ?? 1);
          };
          const apart = Object.keys(one).filter(
            (key) => one[key as keyof typeof one] !== other[key as keyof typeof one],
          );
          expect(mend.size).toBeGreaterThan(0);
          expect(mend.size).toBeLessThanOrEqual(apart.length);
          expect(end(withReadings(b, mend))).toEqual(end(a));
          met += 1;
        }
      }),
      { seed: 641_123, numRuns: 40 },
    );
    expect(met).toBeGreaterThan(40);
  });
});
