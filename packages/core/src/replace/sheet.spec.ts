import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Code } from '../dictionary/index.ts';
import {
  anySettings,
  anyWish,
  benchWiring,
  bridge,
  modelNamed,
  outfitOf,
  readingsOf,
  SEEDED,
  wishedWiring,
} from '../testing/index.ts';
import type { Reading } from '../values/index.ts';
import { NO_WIRING, type Wiring } from '../wiring/index.ts';
import {
  NOTHING_SAID,
  openOf,
  outsideTable,
  PHASES,
  readCrossReference,
  replacementSheet,
  SAYING_PARTS,
  sayingsFrom,
  survey,
  type SaidValue,
  type Saying,
  type SheetInput,
} from './index.ts';

const FOLDER = join(import.meta.dirname, '../../../catalogue/cross-references');
const RUNS = { ...SEEDED, numRuns: 12 };
/** What the two do is the matter of other tests: here the walk only has to find some difference. */
const SHORT = { mostPairs: 60, mostDifferences: 3, keys: false };
const sheetOf = (input: SheetInput) => replacementSheet(input, SHORT);

describe.each(readdirSync(FOLDER))('the sheet by %s', (file) => {
  const [oldName = '', freshName = ''] = file.replace('.yaml', '').split('--');
  const [old, fresh] = [modelNamed(`${oldName}@1`), modelNamed(`${freshName}@1`)];
  const read = readCrossReference(readFileSync(join(FOLDER, file), 'utf8'), old, fresh);
  if (!read.ok) throw new Error(JSON.stringify(read.fault));
  const outfit = outfitOf(old);
  const inputFor = (settings: Iterable<readonly [Code, Reading]>, wiring: Wiring): SheetInput => {
    const set = bridge.read(old, outfit, new Map([...readingsOf(old, {}), ...settings]));
    return {
      ...{
        bridge,
        words: bridge.vocabulary,
        fresh,
        region: outfitOf(fresh).region,
        rating: null,
        cross: read.value,
      },
      old: { set, outfit, wiring, onLine: true },
      sayings: NOTHING_SAID,
    };
  };
  const anyInput = fc
    .tuple(anySettings(old), anyWish)
    .map(([settings, wish]) => inputFor(settings, wishedWiring(old, wish, {})));

  it('has a line for every hand: each end off the old unit and on the new one or nowhere, each link and switch', () => {
    fc.assert(
      fc.property(anyInput, (input) => {
        const { tasks, moves, links } = sheetOf(input);
        const ids = tasks.map(({ id }) => id);
        expect(new Set(ids).size).toBe(ids.length);
        for (const { wire, from, to } of moves) {
          expect(ids).toContain(`off ${wire} ${from}`);
          expect(ids).toContain(`on ${wire} ${to ?? 'nowhere'}`);
        }
        const named = {
          'stays-fitted': 'stays',
          fit: 'fit',
          'take-out': 'out',
          'made-anew': 'made',
        } as const;
        for (const { between, does } of links)
          if (does in named)
            expect(ids).toContain(`board link ${named[does as keyof typeof named]} ${between.join('–')}`);
        for (const { id } of fresh.terminals?.switches ?? [])
          expect(ids.some((each) => each.startsWith(`board switch ${id} `))).toBe(true);
        // What must be dead comes before any hand.
        const order = tasks.map(({ phase }) => PHASES.indexOf(phase));
        expect(order).toEqual([...order].sort((a, b) => a - b));
      }),
      RUNS,
    );
  });

  it('has nothing open once everything that it asks is answered, whatever the old unit held', () => {
    fc.assert(
      fc.property(anyInput, (input) => {
        let said: Saying[] = [];
        let sheet = sheetOf(input);
        // An answer may bring about another difference, which is asked in its turn.
        for (let round = 0; round < 4 && openOf(sheet.open) > 0; round += 1) {
          said = [...said, ...answersTo(sheet)];
          sheet = sheetOf({ ...input, sayings: sayingsFrom(said) });
        }
        expect(openOf(sheet.open)).toBe(0);
      }),
      RUNS,
    );
  });

  it('is surveyed with the rating, the questions and the lost wires that it has itself', () => {
    fc.assert(
      fc.property(anyInput, (input) => {
        const sheet = sheetOf(input);
        const told = survey(input, []);
        expect(told.rating).toBe(sheet.rating);
        expect(told.state).toBe(sheet.ratings.find(({ id }) => id === sheet.rating)?.state);
        expect(told.lost).toBe(sheet.moves.filter(({ to }) => to === null).length);
        const open = sheet.lines.filter((line) => line.open).map(({ id }) => id);
        const questions = told.open.filter(({ part }) => part === 'setting').map(({ line }) => line);
        expect([...questions].sort()).toEqual([...open].sort());
        expect(told.open.length - questions.length).toBe(sheet.cautions.length);
      }),
      { ...RUNS, numRuns: 10 },
    );
  });

  it('says of every register of the old unit that a controller may know where it is now', () => {
    const { outside } = sheetOf(inputFor([], NO_WIRING));
    if (!old.line) {
      expect(outside).toBeNull();
      return;
    }
    const told = new Set(outside?.lines.map((line) => line.old.register));
    const monitors = old.parameters.filter(
      ({ keeping, register, meaning }) => keeping === 'monitor' && register && meaning,
    );
    expect(monitors.filter(({ register }) => !told.has(String(register?.address)))).toEqual([]);
    const kept = sheetOf({
      ...inputFor([], NO_WIRING),
      old: { ...inputFor([], NO_WIRING).old, onLine: false },
    });
    expect(kept.outside).toBeNull();
  });
});

it('says bit by bit what a controller has to write, the other way of counting directions too', () => {
  const table = (from: string, to: string) => {
    const told = outsideTable(modelNamed(from), modelNamed(to));
    const command =
      told?.lines.filter(
        ({ old: { what, code } }) => code === '' && !/^(Status word|Active fault)$/.test(what),
      ) ?? [];
    return {
      notes: told?.notes ?? [],
      lines: command.map(({ old: a, fresh: b }) =>
        [a, b].map((each) => (each ? `${each.register} ${each.counts}` : 'none')).join(' → '),
      ),
    };
  };
  const forth = table('halvern-hn20@1', 'halvern-hn64@1');
  expect(forth.lines).toEqual([
    '780 bit 0 → 4128 bit 0',
    '780 bit 1 → 4128 bit 1',
    '780 bit 7 → 4128 bit 6',
    '781 0.1 Hz → 4129 0.01 Hz',
  ]);
  expect(forth.notes).toEqual(
    expect.arrayContaining([
      'Run and direction become one bit for each direction: never both at once.',
      expect.stringMatching(/^New in the command word: enable, bit 3/),
    ]),
  );
  expect(table('halvern-hn64@1', 'toreka-c1@1').lines).toEqual([
    ...['4128 bit 0 → 232 bit 0', '4128 bit 1 → 232 bit 0 and bit 2', '4128 bit 3 → none'],
    ...['4128 bit 4 → none', '4128 bit 6 → 232 bit 3', '4129 0.01 Hz → 233 1 rpm'],
  ]);
  expect(table('quenby-s4@1', 'halvern-hn64@1').notes).toContainEqual(
    expect.stringMatching(/does not tell its command word/),
  );
});

const accepted: SaidValue = { kind: 'accepted', reason: 'seen' };

function answersTo({
  lines,
  fit,
  doubts,
  cautions,
  behaviour,
  outside,
}: ReturnType<typeof replacementSheet>): Saying[] {
  const points = [...fit, ...doubts, ...cautions, ...behaviour.differences].filter(
    (each) => each.accepted === null,
  );
  return [
    ...lines
      .filter((line) => line.open)
      .map(({ id, question }): Saying => ({
        ...{ part: 'setting', line: id },
        value: question ? { kind: 'choice', at: 0 } : accepted,
      })),
    ...points.map(({ id }): Saying => ({ part: 'point', line: id, value: accepted })),
    ...(outside ? [{ part: 'point' as const, line: 'outside', value: accepted }] : []),
  ];
}

it('takes the last word of each line, as if nothing had been said before it', () => {
  const value: fc.Arbitrary<SaidValue | null> = fc.constantFrom<SaidValue | null>(
    null,
    { kind: 'choice', at: 1 },
    accepted,
    { kind: 'to', terminal: '5' },
    { kind: 'done', note: '' },
    { kind: 'own', values: { '01R': 3 }, reason: 'so it is' },
  );
  const saying: fc.Arbitrary<Saying> = fc.record({
    part: fc.constantFrom(...SAYING_PARTS),
    line: fc.constantFrom('a', 'b', 'c'),
    value,
  });
  fc.assert(
    fc.property(fc.array(saying, { maxLength: 20 }), (all) => {
      const last = [...new Map(all.map((each) => [`${each.part} ${each.line}`, each])).values()];
      const [whole, short] = [sayingsFrom(all), sayingsFrom(last)];
      const sorted = (map: ReadonlyMap<string, unknown>) => [...map].sort(([a], [b]) => a.localeCompare(b));
      for (const part of ['answers', 'terminals', 'accepted'] as const)
        expect(sorted(whole[part])).toEqual(sorted(short[part]));
    }),
    SEEDED,
  );
});

describe('what cannot go over', () => {
  const [old, fresh] = [modelNamed('halvern-hn20@1'), modelNamed('halvern-hn64@1')];
  const outfit = outfitOf(old);
  const set = (readings: ReadonlyMap<Code, Reading>) => bridge.read(old, outfit, readings);
  const asked = (
    readings: ReadonlyMap<Code, Reading>,
    { wiring = NO_WIRING, model = fresh }: { wiring?: Wiring; model?: typeof fresh } = {},
  ) =>
    sheetOf({
      ...{ bridge, words: bridge.vocabulary, fresh: model, region: '50-hz', rating: null, cross: null },
      old: { set: set(readings), outfit, wiring, onLine: false },
      sayings: NOTHING_SAID,
    });

  it('a value that could not be read is asked for, and never carried as a number', () => {
    const code = old.parameters.find(({ meaning }) => meaning === 'ramp.up')?.code ?? ('' as Code);
    const readings = new Map<Code, Reading>([...readingsOf(old, {}), [code, { unreadable: 'refused' }]]);
    const line = asked(readings).lines.find(({ id }) => id === `old ${code}`);
    expect(line).toMatchObject({
      open: true,
      value: 'could not be read',
      why: 'Could not be read.',
      now: [],
    });
  });

  it('without a wiring says so, and asks how the wires will be found', () => {
    const { cautions, moves, open } = asked(readingsOf(old, {}));
    expect([cautions[0]?.id, moves, open.wires]).toEqual(['caution no-wiring', [], cautions.length]);
  });

  it('on a successor with too few inputs wires hang in the air, and the fit, the doubts and the hands say which', () => {
    const { terminals } = fresh;
    if (!terminals) throw new Error('no chart');
    let left = 1;
    const few: typeof fresh = {
      ...fresh,
      terminals: {
        ...terminals,
        strips: terminals.strips.map((strip) => ({
          ...strip,
          terminals: strip.terminals.filter(({ kind }) => kind !== 'digital-input' || left-- > 0),
        })),
      },
    };
    const wiring = benchWiring(old);
    const sheet = asked(readingsOf(old, {}), { wiring, model: few });
    const lost = sheet.moves.filter(({ to }) => to === null);
    expect(lost.length).toBeGreaterThan(0);
    expect(sheet.fit.find(({ what }) => what === 'inputs')).toMatchObject({ state: 'bad', accepted: null });
    for (const { from, wire } of lost) {
      expect(sheet.doubts.map(({ id }) => id)).toContain(`wire ${from} no-place`);
      expect(sheet.tasks.map(({ id }) => id)).toContain(`on ${wire} nowhere`);
    }
  });
});
