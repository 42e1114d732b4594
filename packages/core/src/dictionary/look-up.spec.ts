import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/arbitraries.ts';
import { allModels } from '../testing/shipped-model.ts';
import { LookUp } from './index.ts';
import { slipsBetween } from './word-index.ts';

const models = allModels.map(({ model }) => model).filter(({ id }) => id !== 'halvern-hn64@2');
const lookUp = new LookUp(models);
const found = (text: string, most = 12) =>
  lookUp.find(text, most).map(({ dictionary, parameter }) => `${dictionary.name} ${parameter.code}`);

describe('looking up', () => {
  it('puts an exact code first, for every parameter of every model, in either case', () => {
    for (const model of models) {
      for (const { code } of model.parameters) {
        const first = lookUp.find(code.toLowerCase(), 7).map(({ parameter }) => parameter.code);
        expect(first[0]).toBe(code);
      }
    }
  });

  it('finds every parameter by its own name among the first', () => {
    for (const model of models) {
      for (const parameter of model.parameters) {
        const hits = lookUp.find(parameter.name, 40);
        expect([parameter.code, hits.some((hit) => hit.parameter === parameter)]).toEqual([
          parameter.code,
          true,
        ]);
      }
    }
  });

  it.each([
    ['acceleration', 'C1 AA'],
    ['flying start', 'C1 SL'],
    ['wire break', 'HN64 22T'],
    ['coast', 'HN20 3/15'],
    ['following error', 'S4 6065:00'],
    ['switching frequency', 'C7 MC9'],
    ['4/12', 'HN20 4/12'],
    ['loop.integralGain', 'C7 LA6'],
    ['dry pump', 'F3 FT11'],
  ])('knows "%s" by other names, options, meanings and words', (text, hit) => {
    expect(found(text, 20)).toContain(hit);
  });

  it('answers while a word is being typed', () => {
    for (let length = 3; length <= 'acceleration'.length; length += 1) {
      expect(found('acceleration'.slice(0, length), 40)).toContain('HN64 01R');
    }
    expect(found('ramp up', 40)).toContain('HN64 01R');
  });

  it('forgives one slip in a longer word', () => {
    const slips = fc.record({
      word: fc.constantFrom('acceleration', 'integral', 'overload', 'identification', 'backlash', 'damper'),
      at: fc.nat(),
      kind: fc.constantFrom('left-out', 'exchanged', 'wrong'),
    });
    fc.assert(
      fc.property(slips, ({ word, at, kind }) => {
        const place = 1 + (at % (word.length - 2));
        const [before, letter, next, rest] = [
          word.slice(0, place),
          word[place] ?? '',
          word[place + 1] ?? '',
          word.slice(place + 2),
        ];
        const typed = {
          'left-out': before + next + rest,
          exchanged: before + next + letter + rest,
          wrong: `${before}q${next}${rest}`,
        }[kind];
        const wanted = new Set(lookUp.find(word, 400).map(({ parameter }) => parameter));
        expect(lookUp.find(typed, 40).some(({ parameter }) => wanted.has(parameter))).toBe(true);
      }),
      { ...SEEDED, numRuns: 200 },
    );
  });

  it('finds nothing for what no model has, and nothing for nothing', () => {
    expect(found('zzgremlin')).toEqual([]);
    expect(found('   ')).toEqual([]);
    expect(found('ramp zzgremlin')).toEqual([]);
  });
});

/** Optimal string alignment as the textbook has it, over all beginnings of the word. */
function slowSlips(term: string, word: string): number {
  const distance = (a: string, b: string): number => {
    if (a === '' || b === '') return a.length + b.length;
    const last = a.at(-1) === b.at(-1) ? 0 : 1;
    const ways = [
      distance(a.slice(0, -1), b) + 1,
      distance(a, b.slice(0, -1)) + 1,
      distance(a.slice(0, -1), b.slice(0, -1)) + last,
    ];
    if (a.length > 1 && b.length > 1 && a.at(-1) === b.at(-2) && a.at(-2) === b.at(-1))
      ways.push(distance(a.slice(0, -2), b.slice(0, -2)) + 1);
    return Math.min(...ways);
  };
  const beginnings = Array.from({ length: word.length + 1 }, (_, length) => word.slice(0, length));
  return Math.min(...beginnings.map((beginning) => distance(term, beginning)));
}

describe('slips between two words', () => {
  it('are counted as by the slow way, up to the most that is asked for', () => {
    const letters = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), maxLength: 6, minLength: 3 });
    fc.assert(
      fc.property(letters, letters, fc.constantFrom(1, 2), (term, word, most) => {
        expect(slipsBetween(term, word, most)).toBe(Math.min(slowSlips(term, word), most + 1));
      }),
      { ...SEEDED, numRuns: 300 },
    );
  });
});
