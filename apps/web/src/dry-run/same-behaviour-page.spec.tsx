import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import type { DryRunView } from '@drive-keep/api';
import { readVocabulary } from '@drive-keep/core/meanings';
import { defaultSet } from '@drive-keep/core/sets';
import { screen } from '@testing-library/react';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { SameBehaviourPage } from './same-behaviour-page.tsx';

const dictionary = shippedDictionary();
const { entries, functions } = readVocabulary(
  readFileSync(join(import.meta.dirname, '../../../../packages/catalogue/meanings.yaml'), 'utf8'),
);
const outfit = { rating: 'HN64-15', region: '50-hz' };
const wire = (name: string, from: string, to: string) => ['wire', name, '', from, to, '', ''];
const link = (a: string, b: string) => ['link', '', '', a, b, 'drive', ''];
const LINKS = [link('30', '31'), link('32', '33'), link('21', '22')];
const RUN = [
  ['contact', 'S1', '', '', '', 'contacts 13-14 closes', 'run'],
  ...[wire('1', '23', 'S1:14'), wire('2', 'S1:13', '20')],
];
const CREEP = [
  ['contact', 'S2', '', '', '', 'contacts 13-14 closes', 'creep'],
  ...[wire('3', '25', 'S2:14'), wire('4', 'S2:13', '20')],
];
const VALUES = { '05C': 1, '02C': 3, '12R': 300, '04T': 0, '05T': 0, '06T': 0, '07T': 0 };

const view = (tag: string, values: object, wiring: DryRunView['wiring']): DryRunView => ({
  ...{
    tag,
    duty: 'Belt',
    title: 'A set',
    at: null,
    reference: 'newest',
    ...outfit,
    dictionary: dictionary.id,
  },
  readings: [
    ...new Map([
      ...(defaultSet(dictionary, outfit)?.readings ?? []),
      ...Object.entries({ ...VALUES, ...values }),
    ] as [string, number][]),
  ],
  ...{ wiring, wiringRevision: 1 },
});
const show = (other: object, wiring = [...RUN, ...LINKS]) =>
  showScreen('/compare/behaviour?a=A-1&b=A-2', '/compare/behaviour', <SameBehaviourPage />, {
    'GET positions/A-1/dry-run': view('A-1', {}, [...RUN, ...LINKS]),
    'GET positions/A-2/dry-run': view('A-2', other, wiring),
    [`GET dictionaries/${dictionary.id}`]: dictionary,
    'GET meanings': { entries, functions },
    'GET register': { positions: [] },
    'GET positions/A-1/history': { baselines: [], backups: [], wirings: [] },
    'GET positions/A-2/history': { baselines: [], backups: [], wirings: [] },
    'GET session': signedIn('viewer'),
  });

describe('the same behaviour of two drives', () => {
  it('is said with how much was looked at', async () => {
    show({});
    expect(
      await screen.findByText(/^The same in all \d+ pairs of states under \d+ kinds of events\.$/),
    ).toBeTruthy();
  });

  it('is denied with the shortest way that shows it, and why', async () => {
    show({ '12R': 500, '01R': 2000 });
    expect(await screen.findByText('With S1 worked: runs forward at 5.0 Hz instead of 3.0 Hz')).toBeTruthy();
    expect(screen.getByText(/^On A-2 this would mend it: 12R .*: 3\.00? Hz\.$/)).toBeTruthy();
    const rows = screen.getAllByRole('row').map(({ textContent }) => textContent);
    expect(rows).toContainEqual(expect.stringMatching(/Runs forward at 3\.0 HzRuns forward at 5\.0 Hz$/));
    const [replay] = screen
      .getAllByRole('link', { name: 'A-2 in the dry run' })
      .map((each) => each.getAttribute('href'));
    expect(replay).toMatch(/^\/positions\/A-2\/dry-run\?set=newest&do=/);
    expect(screen.getByText(/acceleration time: 5 Hz\/s and 2.5 Hz\/s/)).toBeTruthy();
  });

  it('names devices that only one of them has', async () => {
    show({}, [...RUN, ...CREEP, ...LINKS]);
    expect(await screen.findByText(/only one of them has it: S2 of A-2/)).toBeTruthy();
  });
});
