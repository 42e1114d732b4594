import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import type { DryRunView } from '@drive-keep/api';
import { readVocabulary } from '@drive-keep/core/meanings';
import { defaultSet } from '@drive-keep/core/sets';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { behaviourDifference } from './behaviour-difference.ts';

const dictionary = shippedDictionary();
const { entries, functions } = readVocabulary(
  readFileSync(join(import.meta.dirname, '../../../../packages/catalogue/meanings.yaml'), 'utf8'),
);
const outfit = { rating: 'HN64-15', region: '50-hz' };
const wire = (name: string, from: string, to: string) => ['wire', name, '', from, to, '', ''];
const link = (a: string, b: string) => ['link', '', '', a, b, 'drive', ''];
const WIRING = [
  ['contact', 'S1', '', '', '', 'contacts 13-14 closes', 'run'],
  ['contact', 'S2', '', '', '', 'contacts 13-14 closes', 'creep'],
  ...[wire('1', '23', 'S1:14'), wire('2', 'S1:13', '20'), wire('3', '25', 'S2:14'), wire('4', 'S2:13', '20')],
  ...[link('30', '31'), link('32', '33'), link('21', '22')],
];
const BEFORE = { '05C': 1, '02C': 3, '12R': 300, '10C': 1200, '04T': 0, '05T': 0, '06T': 0, '07T': 0 };

function told(after: Readonly<Record<string, number>>) {
  const view = (values: Readonly<Record<string, number>>): DryRunView => ({
    ...{
      tag: 'A-1',
      duty: 'Belt',
      title: 'A set',
      at: null,
      reference: 'newest',
      ...outfit,
      dictionary: dictionary.id,
    },
    readings: [
      ...new Map([...(defaultSet(dictionary, outfit)?.readings ?? []), ...Object.entries(values)] as [
        string,
        number,
      ][]),
    ],
    ...{ wiring: WIRING, wiringRevision: 1 },
  });
  const vocabulary = { entries, functions };
  return behaviourDifference({
    ...{ dictionary, vocabulary, before: view(BEFORE), view: view({ ...BEFORE, ...after }) },
  });
}

describe('what differences do', () => {
  it('is told with the contacts that show it, for all together and for each alone', () => {
    const { lines, byCode, summary } = told({ '10C': 900, '01R': 2000, '24R': 1, '06U': 200 });
    expect(lines.map(({ text }) => text)).toEqual([
      'With S1 worked, S2 worked: runs forward at 9.0 Hz instead of 12.0 Hz.',
      expect.stringMatching(/stops by coasting instead of the ramp\.$/),
    ]);
    expect(byCode).toEqual({
      '01R': 'Takes another time; what its contacts bring about stays the same.',
      '24R': expect.stringMatching(/stops by coasting instead of the ramp\.$/),
      '10C': 'With S1 worked, S2 worked: runs forward at 9.0 Hz instead of 12.0 Hz.',
      '06U': 'Nothing that its contacts can reach.',
    });
    expect(summary).toMatch(
      /^Not the same: 2 differences in \d+ pairs of states under \d+ kinds of events\.$/,
    );
  });

  it('is a start by itself, before all else', () => {
    const { lines } = told({ '07C': 0 });
    expect(lines[0]?.text).toMatch(/^With S1 worked.*: runs forward at 3\.0 Hz instead of: stopped\.$/);
    expect(lines[0]?.events.filter(({ kind }) => kind === 'supply')).toHaveLength(1);
  });

  it('is nothing between two sets that do the same', () => {
    const { lines, summary } = told({ '13C': 2500 });
    expect([lines, summary]).toEqual([[], expect.stringMatching(/^The same in all \d+ pairs/)]);
  });
});
