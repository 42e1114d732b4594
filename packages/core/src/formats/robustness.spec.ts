import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { readModel } from '../dictionary/index.ts';
import { defaultSet, hashOf, type ParameterSet } from '../sets/index.ts';
import { anySetOf, SEEDED } from '../testing/arbitraries.ts';
import { damaged, damagedFiles } from '../testing/damaged-files.ts';
import { outfitOf } from '../testing/index.ts';
import { allFiles, allModels, facts, shippedFiles, shippedModel } from '../testing/shipped-model.ts';
import { readGrid, tableFromJson } from '../values/index.ts';
import {
  gridOf,
  headingsByColumn,
  kindOfText,
  makeOwnModel,
  readEds,
  readSet,
  understandList,
  writeSetCsv,
  writeSetDcf,
  writeSetJson,
  type SetTextKind,
} from './index.ts';

/** A set of any size is a part where it is small. */
const MISSING = ['parameters-missing', 'set-partial'];

describe.each(allModels.map(({ model, facts: own }) => [model.id, model, own] as const))(
  'a set of %s',
  (_, model, own) => {
    it.each<SetTextKind>(['csv', 'json', 'dcf'])('comes back from %s with the same hash', (kind) => {
      const origin = { position: 'KL1-RD-07', takenAt: '2026-11-24T14:05:00.000Z', takenBy: 'T. Pellow' };
      const write = {
        csv: writeSetCsv,
        json: (...[dictionary, set]: Parameters<typeof writeSetCsv>) => writeSetJson(dictionary, set, origin),
        dcf: (...[dictionary, set]: Parameters<typeof writeSetCsv>) => writeSetDcf(dictionary, set, origin),
      }[kind];
      fc.assert(
        fc.property(anySetOf(model, own), (set) => {
          const text = write(model, set);
          expect(kindOfText(text)).toBe(kind);
          const back = readSet(kind, text, model, own);
          const told = back.findings.filter(({ code }) => !MISSING.includes(code));
          expect(told).toEqual([]);
          expect(hashOf(back.set)).toBe(hashOf(set));
        }),
        { ...SEEDED, numRuns: 25 },
      );
    });
  },
);

/** One that is read quickly, for parameters that are damaged. */
const SMALL_MODEL = allFiles['toreka-c1']?.model ?? '';

/** What a reader may take for one file of a few kilobytes before it counts as hanging, in ms. */
const HANGING_MS = 4000;

function survives(
  name: string,
  cases: number,
  files: fc.Arbitrary<string>,
  read: (text: string) => unknown,
): void {
  it(`${name} (${cases} cases)`, () => {
    let slowest = 0;
    fc.assert(
      fc.property(files, (text) => {
        const began = performance.now();
        read(text);
        slowest = Math.max(slowest, performance.now() - began);
      }),
      { ...SEEDED, numRuns: cases },
    );
    expect(slowest).toBeLessThan(HANGING_MS);
  }, 240_000);
}

const strangeItem = fc.oneof(
  fc.jsonValue({ maxDepth: 2 }),
  fc.record(
    {
      code: fc.oneof(fc.constantFrom('01R', '02R', '__proto__', ''), fc.jsonValue({ maxDepth: 1 })),
      raw: fc.oneof(fc.double(), fc.integer(), fc.jsonValue({ maxDepth: 1 })),
      value: fc.oneof(fc.constantFrom('5.00', '5,00', '1e9'), fc.jsonValue({ maxDepth: 1 })),
      unreadable: fc.oneof(fc.constantFrom('busy', 'whim'), fc.jsonValue({ maxDepth: 1 })),
      name: fc.jsonValue({ maxDepth: 1 }),
    },
    { requiredKeys: [] },
  ),
);
const strangeJson = fc
  .record({
    format: fc.constant('drive-keep/parameter-set'),
    version: fc.constant(1),
    dictionary: fc.constantFrom<unknown>(shippedModel.id, 'other@1', 5, null),
    hash: fc.constantFrom<unknown>('', 'sha256:0', 1),
    origin: fc.jsonValue({ maxDepth: 2 }),
    parameters: fc.oneof(fc.array(strangeItem), fc.jsonValue({ maxDepth: 2 })),
  })
  .map((document) => JSON.stringify(document));

const SET: ParameterSet = {
  dictionary: shippedModel.id,
  readings: new Map([...(defaultSet(shippedModel, outfitOf(shippedModel))?.readings ?? [])].slice(0, 12)),
};

describe('readers of files never crash and never hang', () => {
  survives('sets as CSV', 4300, damagedFiles(/\.csv$/, writeSetCsv(shippedModel, SET)), (text) =>
    readSet('csv', text, shippedModel, facts),
  );
  survives('sets as JSON', 3000, damagedFiles(/\.json$/, writeSetJson(shippedModel, SET, {})), (text) =>
    readSet('json', text, shippedModel, facts),
  );
  survives('sets as DCF', 3000, damagedFiles(/\.dcf$/, writeSetDcf(shippedModel, SET, {})), (text) =>
    readSet('dcf', text, shippedModel, facts),
  );
  survives('models as EDS', 3000, damagedFiles(/\.eds$/), readEds);
  survives('makers’ lists', 5000, damagedFiles(/^(makers-list|list-cells)/), (text) => {
    const [grid, json] = [readGrid(text), tableFromJson(text)];
    for (const each of [...(grid.ok ? [grid.value] : []), ...(json.ok ? [gridOf(json.value)] : [])]) {
      const { parameters, assignment } = understandList(each, {});
      const named = { maker: 'M', name: 'N', about: '', firmwareFrom: '1', firmwareTo: '2', version: 1 };
      makeOwnModel(named, parameters.slice(0, 25), headingsByColumn(assignment));
    }
  });
  // Damage seldom leaves JSON that can be parsed: here it can, and says strange things.
  survives('sets in good JSON of strange values', 1400, strangeJson, (text) =>
    readSet('json', text, shippedModel, facts),
  );
  survives('models of the catalogue', 300, damaged, (text) => {
    readModel({ model: text, parameters: shippedFiles.parameters.slice(0, 1500), terminals: text });
    readModel({ model: SMALL_MODEL, parameters: text });
  });
});
