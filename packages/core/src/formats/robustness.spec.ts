import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { readModel } from '../dictionary/index.ts';
import { hashOf } from '../sets/index.ts';
import { anySetOf, SEEDED } from '../testing/arbitraries.ts';
import { damaged } from '../testing/damaged-files.ts';
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

function survives(name: string, cases: number, read: (text: string) => unknown): void {
  it(`${name} (${cases} cases)`, () => {
    let slowest = 0;
    fc.assert(
      fc.property(damaged, (text) => {
        const began = performance.now();
        read(text);
        slowest = Math.max(slowest, performance.now() - began);
      }),
      { ...SEEDED, numRuns: cases },
    );
    expect(slowest).toBeLessThan(HANGING_MS);
  }, 240_000);
}

describe('readers of files never crash and never hang', () => {
  survives('tables and sets as CSV', 5000, (text) => readSet('csv', text, shippedModel, facts));
  survives('sets as JSON', 4000, (text) => readSet('json', text, shippedModel, facts));
  survives('sets as DCF and models as EDS', 4000, (text) => {
    readSet('dcf', text, shippedModel, facts);
    readEds(text);
  });
  survives('makers’ lists', 4500, (text) => {
    const [grid, json] = [readGrid(text), tableFromJson(text)];
    for (const each of [...(grid.ok ? [grid.value] : []), ...(json.ok ? [gridOf(json.value)] : [])]) {
      const { parameters, assignment } = understandList(each, {});
      const facts = { maker: 'M', name: 'N', about: '', firmwareFrom: '1', firmwareTo: '2', version: 1 };
      makeOwnModel(facts, parameters, headingsByColumn(assignment));
    }
  });
  survives('models of the catalogue', 2500, (text) => {
    readModel({ model: text, parameters: shippedFiles.parameters.slice(0, 1500), terminals: text });
    readModel({ model: SMALL_MODEL, parameters: text });
  });
});
