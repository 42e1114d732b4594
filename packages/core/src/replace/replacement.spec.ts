import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { sameBehaviour, trace } from '../behaviour/index.ts';
import { factsOf, type Code, type Dictionary } from '../dictionary/index.ts';
import { likeness } from '../meanings/index.ts';
import { defaultSet } from '../sets/index.ts';
import { anyWish, bridge, modelNamed, outfitOf, rawOf, SEEDED, wishedWiring } from '../testing/index.ts';
import type { Reading } from '../values/index.ts';
import { NO_WIRING, type Wiring } from '../wiring/index.ts';
import { readCrossReference, replace, type CrossReference, type Replacement } from './index.ts';

const FOLDER = join(import.meta.dirname, '../../../catalogue/cross-references');
const PAIRS = readdirSync(FOLDER).map((file) => {
  const [old = '', fresh = ''] = file.replace('.yaml', '').split('--');
  const models = { old: modelNamed(`${old}@1`), fresh: modelNamed(`${fresh}@1`) };
  const read = readCrossReference(readFileSync(join(FOLDER, file), 'utf8'), models.old, models.fresh);
  return { file, ...models, read };
});

const valueOf = ({ read }: (typeof PAIRS)[number]): CrossReference => {
  if (!read.ok) throw new Error(JSON.stringify(read.fault));
  return read.value;
};

/** A set of the old model: any setting at any value that it takes. */
const anySet = (model: Dictionary): fc.Arbitrary<ReadonlyMap<Code, Reading>> => {
  const facts = factsOf(model, outfitOf(model)) ?? {};
  const settings = model.parameters.filter(
    ({ keeping, access }) => keeping === 'setting' && access !== 'read',
  );
  return fc
    .tuple(...settings.map((parameter) => fc.option(rawOf(parameter, facts), { nil: undefined, freq: 2 })))
    .map((raws) => {
      const readings = new Map<Code, Reading>(defaultSet(model, outfitOf(model))?.readings);
      for (const [at, { code }] of settings.entries()) {
        const raw = raws[at];
        if (raw !== undefined) readings.set(code, raw);
      }
      return readings;
    });
};

function replaced(
  pair: (typeof PAIRS)[number],
  readings: ReadonlyMap<Code, Reading>,
  wiring: Wiring,
  cross: CrossReference | null = valueOf(pair),
): Replacement {
  const outfit = outfitOf(pair.old);
  const set = bridge.read(pair.old, outfit, readings);
  const successor = { dictionary: pair.fresh, outfit: outfitOf(pair.fresh), cross };
  return replace(bridge, { set, outfit, wiring, onLine: false }, successor, new Map(), new Map());
}

describe.each(PAIRS)('the cross-reference $file', (pair) => {
  it('is read without a fault', () => {
    expect(pair.read.ok ? [] : pair.read.fault).toEqual([]);
  });

  it('leaves no old setting without a line, and says of every setting of the successor that may move the machine what becomes of it', () => {
    fc.assert(
      fc.property(anySet(pair.old), (readings) => {
        const { lines } = replaced(pair, readings, NO_WIRING).settings;
        const own = lines.filter(({ id }) => id.startsWith('old '));
        expect(own.map(({ code }) => code)).toEqual(pair.old.parameters.map(({ code }) => code));
        expect(lines.filter(({ why }) => why.code === 'default').map(({ id }) => id)).toEqual([]);
      }),
      { ...SEEDED, numRuns: 170 },
    );
  });

  it('has values that are readable back within what is said of them, and nothing limited without being said', () => {
    fc.assert(
      fc.property(anySet(pair.old), (readings) => {
        const { settings, machine } = replaced(pair, readings, NO_WIRING);
        for (const line of settings.lines)
          for (const { meaning, wanted, met } of line.parts) {
            const now = machine.set.get(meaning);
            const like = likeness(wanted, now);
            if (met?.kind === 'exactly')
              expect([line.id, meaning, like?.kind]).toEqual([line.id, meaning, 'same']);
            if (met?.kind === 'rounded') expect(['same', 'rounding']).toContain(like?.kind);
            if (met?.kind === 'limited') expect([line.id, line.open]).toEqual([line.id, true]);
          }
      }),
      { ...SEEDED, numRuns: 60 },
    );
  });

  it('moves every wire to a terminal that the successor has, or says that it has none', () => {
    const known = new Set(
      pair.fresh.terminals?.strips.flatMap(({ terminals }) => terminals.map(({ id }) => id)),
    );
    fc.assert(
      fc.property(anySet(pair.old), anyWish, (readings, wish) => {
        const wiring = wishedWiring(pair.old, wish, {});
        const { wires, machine, old } = replaced(pair, readings, wiring);
        const ends = wiring.wires.flatMap(({ from, to }) =>
          [from, to].filter(({ kind }) => kind === 'terminal'),
        );
        expect(wires.moves).toHaveLength(ends.length);
        for (const { to, doubt } of wires.moves)
          if (to === null) expect(doubt?.code).toBe('no-place');
          else expect(known).toContain(to);
        // Settings and wires agree: what an input did, the one that its wire goes to does.
        const inputs = wires.moves.filter(({ place }) => place.startsWith('input '));
        expect(new Set(inputs.map(({ to }) => to)).size).toBe(new Set(inputs.map(({ from }) => from)).size);
        for (const { from, to } of inputs) {
          const was = old.inputs.find(({ terminal }) => terminal === from)?.does;
          const now = machine.inputs.find(({ terminal }) => terminal === to)?.does;
          if (was === 'run.forward' || was === 'jog' || was === 'fault-reset')
            expect([from, now]).toEqual([from, was]);
        }
      }),
      { ...SEEDED, numRuns: 60 },
    );
  });
});

describe('a belt with two presets by bits', () => {
  const pair = PAIRS.find(({ file }) => file === 'halvern-hn20--halvern-hn64.yaml') as (typeof PAIRS)[number];
  const contact = (name: string) => ({
    ...{ kind: 'contact' as const, name, what: '', momentary: false },
    contacts: [{ name: '13-14', opens: false }],
  });
  const wire = (terminal: string, device: string, connection: string) => ({
    ...{ number: '', colour: '', from: { kind: 'terminal' as const, terminal } },
    to: { kind: 'device' as const, device, connection },
  });
  const wiring: Wiring = {
    ...NO_WIRING,
    devices: ['S1', 'S2'].map(contact),
    wires: [...[wire('8', 'S1', '14'), wire('7', 'S1', '13'), wire('10', 'S2', '14'), wire('7', 'S2', '13')]],
    // Input 5 wants to be closed: a link in the plug sees to it.
    links: [{ between: ['12', '7'], place: 'plug' }],
  };
  const values = {
    '3/01': 1,
    '3/02': 2,
    '3/04': 180,
    '3/05': 320,
    '4/03': 4,
    '4/05': 10,
    '3/15': 0b0001000011000000,
  };
  const readings = new Map<Code, Reading>([
    ...(defaultSet(pair.old, outfitOf(pair.old))?.readings ?? []),
    ...(Object.entries(values) as [Code, number][]),
  ]);

  it('does on the successor what it did, with its links, its sink side and its wake-up in automatic', () => {
    const { settings, wires, old, machine } = replaced(pair, readings, wiring);
    expect(machine.set.choice('input.3.function' as never)).toBe('preset.1');
    expect(wires.moves.map(({ from, to }) => [from, to])).toEqual([
      ['8', '23'],
      ['7', '22'],
      ['10', '25'],
      ['7', '22'],
    ]);
    expect(wires.links.map(({ between, does }) => [between.join('-'), does])).toEqual([
      ['27-22', 'made-anew'],
      ['30-31', 'stays-fitted'],
      ['32-33', 'stays-fitted'],
      ['21-22', 'take-out'],
      ['20-21', 'fit'],
    ]);
    expect(settings.open).toBe(0);
    const runs = trace(old, [
      { kind: 'supply', on: true },
      { kind: 'device', name: 'S1', to: 1 },
      { kind: 'device', name: 'S2', to: 1 },
    ]);
    expect(runs.map(({ outcome }) => outcome.setPoint?.hertz)).toEqual([undefined, undefined, 18, 32]);
    const walked = sameBehaviour(old, machine, { mostPairs: 100_000, mostDifferences: 9, keys: false });
    // How the two show a fault while nothing is commanded is of the models.
    expect(walked.differences.filter(({ aspect }) => aspect !== 'state')).toEqual([]);
  });

  it('takes its settings along when somebody moves a wire to another input, and does the same', () => {
    const outfit = outfitOf(pair.old);
    const unit = { set: bridge.read(pair.old, outfit, readings), outfit, wiring, onLine: false };
    const successor = { dictionary: pair.fresh, outfit: outfitOf(pair.fresh), cross: valueOf(pair) };
    const moved = replace(bridge, unit, successor, new Map(), new Map([['10', '28']]));
    expect(moved.wires.moves.map(({ from, to }) => `${from} ${to ?? ''}`)).toContain('10 28');
    expect(moved.machine.set.choice('input.6.function' as never)).toBe('preset.1');
    const walked = sameBehaviour(moved.old, moved.machine, {
      mostPairs: 100_000,
      mostDifferences: 9,
      keys: false,
    });
    expect(walked.differences.filter(({ aspect }) => aspect !== 'state')).toEqual([]);
    // One wire of a common goes elsewhere by itself, whether all of them were moved before or not.
    const commons = moved.wires.moves.filter(({ from }) => from === '7');
    const [first = '', other = ''] = [...new Set(commons.flatMap(({ to, could }) => [to ?? '', ...could]))];
    for (const before of [[], [['7', first]] as const]) {
      const one = replace(bridge, unit, successor, new Map(), new Map([...before, ['7 S2:13', other]]));
      expect(one.wires.moves.filter(({ from }) => from === '7').map(({ at, to }) => [at, to])).toEqual([
        ['S1:13', first],
        ['S2:13', other],
      ]);
    }
    // Two functions on one input, or a wire of contacts on an output, is no choice.
    const refused = replace(
      bridge,
      unit,
      successor,
      new Map(),
      new Map([
        ['10', '23'],
        ['8', '23'],
        ['7', '51'],
      ]),
    );
    expect(new Set(refused.wires.moves.map(({ to }) => to)).size).toBe(3);
  });

  it('without the file is dead: the successor wakes up in hand, and the proof finds it', () => {
    const { old, machine } = replaced(pair, readings, wiring, null);
    const walked = sameBehaviour(old, machine, { mostPairs: 100_000, mostDifferences: 9, keys: false });
    expect(walked.differences.map(({ aspect }) => aspect)).toContain('does-not-start');
  });
});

describe('a file with faults', () => {
  const [old, fresh] = [modelNamed('halvern-hn20@1'), modelNamed('halvern-hn64@1')];

  it.each([
    ['old: halvern-hn20', 1, 'settings is a list'],
    ['old: [', 1, 'no YAML'],
    ['- 1', 1, 'a cross-reference is a group of facts'],
    [withLine("{ old: '1/99', does: left, why: x }"), 5, 'halvern-hn20 has no 1/99'],
    [withLine("{ old: '1/01', does: gone, why: x }"), 5, 'does is one of'],
    [withLine("{ old: '1/01', does: left }"), 5, 'needs a reason'],
    [withLine("{ old: '1/01', does: fixed, why: x, sets: { 05C: '7' } }"), 5, '05C does not take 7'],
    [withLine("{ old: '1/01', does: fixed, why: x }"), 5, 'sets is a group'],
    [withLine("{ old: '1/01', does: asked, why: x, ask: What, choices: [] }"), 5, 'two choices'],
    [withLine("{ old: '1/01', does: left, why: x, colour: red }"), 5, 'nothing is called colour'],
    [withLine("{ old: ['1/01', '1/01'], does: left, why: x }"), 5, 'two lines'],
  ])('is refused with its line: %s', (text, line, part) => {
    const read = readCrossReference(text, old, fresh);
    const faults = read.ok ? [] : read.fault;
    expect(faults).toContainEqual({ line, text: expect.stringContaining(part) });
  });
});

function withLine(line: string): string {
  return [
    'old: halvern-hn20',
    'new: halvern-hn64',
    'version: 1',
    'settings:',
    `  - ${line}`,
    'successor: []',
  ].join('\n');
}
