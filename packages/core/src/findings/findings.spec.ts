import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { readModel } from '../dictionary/index.ts';
import {
  headingsByColumn,
  kindOfText,
  makeOwnModel,
  readEds,
  readSet,
  understandList,
} from '../formats/index.ts';
import { readPlate } from '../motor/index.ts';
import { SEEDED } from '../testing/arbitraries.ts';
import { damaged } from '../testing/damaged-files.ts';
import { sourceText } from '../testing/source-text.ts';
import { facts, shippedFiles, shippedModel } from '../testing/shipped-model.ts';
import { readGrid } from '../values/index.ts';
import { describe as sentence, type Finding } from './index.ts';
import { TEXTS } from './texts.ts';

const SOURCES = sourceText(/findings\/texts\.ts$/);

/** Everything that the readers find in a text, whatever it was meant to be. */
function found(text: string): readonly Finding[] {
  const set = readSet(kindOfText(text), text, shippedModel, facts).findings;
  const parameters = readModel({ model: shippedFiles.model, parameters: text });
  const model = readModel({
    model: text,
    parameters: shippedFiles.parameters.slice(0, 1500),
    terminals: text,
  });
  const plate = readPlate({
    ratings: [{ power: text, connection: text }],
    motor: { sensor: text },
    brake: {},
  });
  const grid = readGrid(text);
  const list = grid.ok ? understandList(grid.value, {}) : undefined;
  const named = { maker: 'M', name: 'N', about: '', firmwareFrom: '1', firmwareTo: '2', version: 1 };
  const own = list ? makeOwnModel(named, list.parameters, headingsByColumn(list.assignment)).findings : [];
  return [
    ...set,
    ...readEds(text).findings,
    ...(list?.findings ?? []),
    ...own,
    ...[parameters, model, plate].flatMap((read) => (read.ok ? [] : read.fault)),
  ];
}

describe('findings', () => {
  it.each(Object.keys(TEXTS))('%s has a sentence that somebody says', (code) => {
    expect(SOURCES).toContain(`'${code}'`);
  });

  it('become whole sentences with everything in its place, whatever was read', () => {
    const codes = new Set<string>();
    fc.assert(
      fc.property(damaged, (text) => {
        for (const each of found(text)) {
          codes.add(each.code);
          const told = sentence(each);
          // What the file itself holds stands in quotation marks and may be anything.
          const own = told.replace(/".*"/gs, '');
          expect([each.code, own]).toEqual([each.code, expect.stringMatching(/[.?]$/)]);
          expect(own).not.toMatch(/undefined|\[object|NaN|\$\{/);
          expect(each.line ?? 1).toBeGreaterThanOrEqual(1);
        }
      }),
      { ...SEEDED, numRuns: 250 },
    );
    // Not always the same few.
    expect(codes.size).toBeGreaterThan(20);
  });
});
