import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Code, Dictionary, Outfit } from '../dictionary/index.ts';
import type { Meaning } from '../values/index.ts';
import { rawOf, SEEDED, settingsOf } from '../testing/arbitraries.ts';
import { bridge } from '../testing/shipped-bridge.ts';
import { allModels } from '../testing/shipped-model.ts';
import { likeness, writePlain, type Plain } from './index.ts';

type Raws = ReadonlyMap<Code, number>;

const outfitOf = ({ ratings, regions }: Dictionary): Outfit => ({
  rating: ratings[0]?.id ?? '',
  region: regions[0]?.id ?? '',
});
const models = allModels.map(({ model, facts }) => ({ model, facts, outfit: outfitOf(model) }));
type Shipped = (typeof models)[number];

/** A value for every setting. */
const whole = ({ model, facts }: Shipped): fc.Arbitrary<Raws> =>
  fc
    .tuple(...settingsOf(model).map((each) => rawOf(each, facts).map((raw) => [each.code, raw] as const)))
    .map((entries) => new Map(entries));

function plainOf({ model, outfit }: Shipped, raws: Raws, dictionary = model): ReadonlyMap<Meaning, Plain> {
  const set = bridge.read(dictionary, outfit, raws);
  return new Map([...set.meanings].map((meaning) => [meaning, set.get(meaning)]));
}

describe.each(models.map((shipped) => [shipped.model.id, shipped] as const))(
  'plain values of %s',
  (_, shipped) => {
    const { model, outfit } = shipped;

    it('leave every raw value where it is, when they are written where they were read', () => {
      fc.assert(
        fc.property(whole(shipped), (raws) => {
          const written = writePlain(bridge, model, outfit, plainOf(shipped, raws), raws);
          expect([...written.readings].filter(([code, raw]) => raws.get(code) !== raw)).toEqual([]);
          expect([...written.met].filter(([, { kind }]) => kind !== 'exactly')).toEqual([]);
        }),
        { ...SEEDED, numRuns: 15 },
      );
    });

    it('are the same again, when a fresh unit is given them: or it is said which could not be', () => {
      fc.assert(
        fc.property(whole(shipped), (raws) => {
          const plain = plainOf(shipped, raws);
          const written = writePlain(bridge, model, outfit, plain);
          const again = plainOf(shipped, written.readings);
          for (const [meaning, met] of written.met) {
            const [before, after] = [plain.get(meaning), again.get(meaning)];
            if (!before || !after) throw new Error(meaning);
            const same = likeness(before, after)?.kind === 'same';
            expect([meaning, met.kind === 'exactly' || met.kind === 'rounded', before, after]).toEqual([
              meaning,
              same,
              before,
              after,
            ]);
            // Only values that bound each other can fail to come back.
            if (!same)
              expect([meaning, met.kind]).toEqual([meaning, expect.stringMatching(/limited|impossible/)]);
          }
        }),
        { ...SEEDED, numRuns: 15 },
      );
    });

    it('never depend on the order of parameters, and are always finite', () => {
      fc.assert(
        fc.property(
          whole(shipped),
          fc.shuffledSubarray([...model.parameters], { minLength: model.parameters.length }),
          (raws, parameters) => {
            const turned = plainOf(shipped, raws, { ...model, parameters });
            for (const [meaning, plain] of plainOf(shipped, raws)) {
              const other = turned.get(meaning);
              if (plain.kind === 'number')
                expect([meaning, Number.isFinite(plain.value)]).toEqual([meaning, true]);
              if (plain.kind === 'curve')
                expect([meaning, plain.points.every(({ value }) => Number.isFinite(value))]).toEqual([
                  meaning,
                  true,
                ]);
              // Bits that say it stand in an order of their own.
              expect([meaning, other?.kind]).toEqual([meaning, plain.kind]);
              if (other && plain.kind !== 'nothing')
                expect([meaning, likeness(plain, other)?.kind]).toEqual([meaning, 'same']);
            }
          },
        ),
        { ...SEEDED, numRuns: 8 },
      );
    });

    it('say why where a value is missing or could not be read, and stay silent about no other', () => {
      fc.assert(
        fc.property(whole(shipped), fc.constantFrom(...settingsOf(model)), (raws, gone) => {
          const without = new Map(raws);
          without.delete(gone.code);
          for (const [meaning, plain] of plainOf(shipped, without)) {
            if (plain.kind === 'nothing') expect(plain.why.code).not.toBe('no-such-thing');
            else expect([meaning, plain.codes.includes(gone.code)]).toEqual([meaning, false]);
          }
        }),
        { ...SEEDED, numRuns: 15 },
      );
    });
  },
);

describe('plain values of one model on another', () => {
  const pairs = models.flatMap((a) => models.filter((b) => b !== a).map((b) => [a, b] as const));

  it('differ by no more than half of its step against its own references, or it is said why', () => {
    for (const [from, to] of pairs)
      fc.assert(
        fc.property(whole(from), (raws) => {
          const plain = plainOf(from, raws);
          const written = writePlain(bridge, to.model, to.outfit, plain);
          const there = plainOf(to, written.readings);
          for (const [meaning, met] of written.met) {
            const [wanted, now] = [plain.get(meaning), there.get(meaning)];
            if (met.kind !== 'exactly' && met.kind !== 'rounded') continue;
            if (wanted?.kind === 'choice')
              expect([meaning, now]).toMatchObject([meaning, { option: wanted.option }]);
            if (wanted?.kind !== 'number' || now?.kind !== 'number') continue;
            const dust = 1e-9 * Math.abs(wanted.value);
            const room = Math.max(now.step, wanted.step) / 2 + dust;
            expect([meaning, to.model.id, Math.abs(now.value - wanted.value) <= room + now.step / 2]).toEqual(
              [meaning, to.model.id, true],
            );
          }
        }),
        { ...SEEDED, numRuns: 3 },
      );
  });
});
