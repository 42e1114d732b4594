import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { readVocabulary } from '@drive-keep/core/meanings';
import { defaultSet } from '@drive-keep/core/sets';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { ModelDryRunPage } from './model-dry-run-page.tsx';

const dictionary = shippedDictionary();
const { entries, functions } = readVocabulary(
  readFileSync(join(import.meta.dirname, '../../../../packages/catalogue/meanings.yaml'), 'utf8'),
);
const PATH = `dictionaries/${dictionary.id}/dry-run`;
const WIRING = [
  ['contact', 'S1', '', '', '', 'contacts 13-14 closes', 'run'],
  ['wire', '1', '', '23', 'S1:14', '', ''],
  ['wire', '2', '', 'S1:13', '20', '', ''],
  ...[['30', '31'] as const, ['32', '33'] as const, ['21', '22'] as const].map(([a, b]) => [
    ...['link', '', '', a, b, 'drive', ''],
  ]),
];
const readings = [
  ...(defaultSet(dictionary, { rating: 'HN64-15', region: '50-hz' })?.readings ?? []),
  ...Object.entries({ '05C': 1, '12R': 300 }),
];

const show = (answers: object, role: 'technician' | 'viewer' = 'technician') =>
  showScreen(`/models/${dictionary.id}/dry-run?rating=HN64-15`, '/models/:id/dry-run', <ModelDryRunPage />, {
    [`GET dictionaries/${dictionary.id}`]: dictionary,
    'GET meanings': { entries, functions },
    'GET session': signedIn(role),
    ...answers,
  });
const choose = async (label: string, name: string) =>
  fireEvent.change(await screen.findByLabelText(label), { target: { files: [new File(['x'], name)] } });
const answer = async () =>
  (await screen.findByRole('region', { name: 'What the drive does' })).querySelector('p')?.textContent;

describe('a dry run of a model', () => {
  it('begins with its defaults, which anybody may try', async () => {
    show({}, 'viewer');
    expect(await screen.findByText(/^Set: Defaults of the model\./)).toBeTruthy();
    expect(await answer()).toBeTruthy();
    expect(screen.queryByLabelText('File with a wiring')).toBeNull();
  });

  it('takes a set and a wiring out of files, for the rating that is chosen', async () => {
    const { sent } = show({
      [`POST ${PATH}/set`]: { title: 'belt.csv', acceptable: true, findings: [], readings },
      [`POST ${PATH}/wiring`]: { rows: WIRING, findings: [] },
    });
    await choose('File with a parameter set', 'belt.csv');
    expect(await screen.findByText(/^Set: belt\.csv\./)).toBeTruthy();
    expect((sent[0]?.body as FormData).get('rating')).toBe('HN64-15');
    await choose('File with a wiring', 'wires.csv');
    await screen.findByText('S1');
    fireEvent.click(screen.getByText('S1').closest('li')?.querySelector('button') as Element);
    await waitFor(async () => expect(await answer()).toBe('Runs forward at 3.0 Hz'));
    const [code] = screen.getAllByRole('link', { name: /^\d\d[A-Z]$/ });
    expect(code?.getAttribute('href')).toBe(`/models/${dictionary.id}?find=${code?.textContent}`);
  });

  it('shows nothing in the place of a file that is not understood', async () => {
    const finding = { code: 'x', attention: 'stop', line: 3, text: 'Line 3: half a value.' };
    show({
      [`POST ${PATH}/set`]: { title: 'belt.csv', acceptable: false, findings: [finding], readings: [] },
    });
    await choose('File with a parameter set', 'belt.csv');
    expect(await screen.findByText(/has to be mended in the file first/)).toBeTruthy();
    expect(screen.getByText(/half a value/)).toBeTruthy();
    expect(screen.queryByRole('region', { name: 'What the drive does' })).toBeNull();
  });

  it('says why a file was refused, and shows no other wiring for it', async () => {
    show({});
    await choose('File with a wiring', 'wires.csv');
    expect(await screen.findByText(/is not answered/)).toBeTruthy();
    expect(screen.queryByRole('region', { name: 'What the drive does' })).toBeNull();
  });
});
