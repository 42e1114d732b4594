// Files as they come out of a broken disk, a careless editor or a strange tool.

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { shippedFiles } from './shipped-model.ts';

const FOLDER = join(import.meta.dirname, '../formats/fixtures');
/** The first lines of a file are enough to be damaged, and quick to be read. */
const MOST_LETTERS = 1500;
const fixtures = (pattern: RegExp): readonly string[] =>
  readdirSync(FOLDER)
    .filter((name) => pattern.test(name))
    .map((name) => readFileSync(join(FOLDER, name), 'utf8').slice(0, MOST_LETTERS));
const SEEDS = [
  ...fixtures(/./),
  shippedFiles.parameters.slice(0, 2000),
  shippedFiles.model.slice(0, 1500),
  shippedFiles.terminals?.slice(0, 2000) ?? '',
];
const PIECES = [
  '"',
  ';',
  ',',
  '\n',
  '\r',
  '[',
  ']',
  '{',
  '}',
  '=',
  '0x',
  '$NODEID',
  '\u0000',
  '\uFEFF',
  '1e999',
  "'",
  '=1+1',
  '4/12',
  '-',
  '@',
  ': *a',
  '&a',
  '\t',
  '9'.repeat(40),
  'ä',
  '💡',
];

/** One of these files with pieces cut out, doubled, and strange ones put in; or nothing but noise. */
export const damagedOf = (seeds: readonly string[]): fc.Arbitrary<string> =>
  fc.oneof(
    {
      weight: 6,
      arbitrary: fc
        .tuple(
          fc.constantFrom(...seeds),
          fc.array(fc.tuple(fc.nat({ max: 4000 }), fc.nat({ max: 60 }), fc.constantFrom('', ...PIECES)), {
            minLength: 1,
            maxLength: 6,
          }),
        )
        .map(([text, cuts]) =>
          cuts.reduce((now, [at, length, piece]) => {
            const place = now.length === 0 ? 0 : at % now.length;
            return now.slice(0, place) + piece + now.slice(place + length);
          }, text),
        ),
    },
    { weight: 1, arbitrary: fc.string({ unit: 'binary', maxLength: 200 }) },
    {
      weight: 1,
      arbitrary: fc.array(fc.constantFrom(...PIECES), { maxLength: 60 }).map((each) => each.join('')),
    },
  );

/** Any of the files that there are. */
export const damaged = damagedOf(SEEDS);

/** Files of one kind, by the ends of their names. */
export const damagedFiles = (pattern: RegExp, ...more: readonly string[]): fc.Arbitrary<string> =>
  damagedOf([...fixtures(pattern), ...more.map((text) => text.slice(0, MOST_LETTERS))]);
