import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import type { DryRunView } from '@drive-keep/api';
import { readVocabulary } from '@drive-keep/core/meanings';
import { defaultSet } from '@drive-keep/core/sets';
import { fireEvent, screen } from '@testing-library/react';
import { shippedDictionary, shippedReference } from '../testing/shipped-dictionary.ts';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { SuccessorPage } from './successor-page.tsx';

const { entries, functions } = readVocabulary(
  readFileSync(join(import.meta.dirname, '../../../../packages/catalogue/meanings.yaml'), 'utf8'),
);
const [c1, c7] = [shippedDictionary('toreka-c1'), shippedDictionary('toreka-c7')];
const outfit = { rating: 'C1-10', region: '50-hz' };
const wire = (name: string, from: string, to: string) => ['wire', name, '', from, to, '', ''];
const WIRING = [
  ['contact', 'S1', '', '', '', 'contacts 13-14 closes', 'run'],
  ['potentiometer', 'R1', '', '', '', '5000 Ω', 'speed'],
  ...[wire('1', 'R1', 'S1:14'), wire('2', 'P', 'S1:13')],
  ...[wire('3', 'P', 'R1:1'), wire('4', 'VI', 'R1:2'), wire('5', 'CM', 'R1:3')],
];
const view: DryRunView = {
  ...{ tag: 'A-1', duty: 'Belt', title: 'Backup', at: null, reference: 'newest', ...outfit },
  dictionary: c1.id,
  readings: [
    ...new Map([...(defaultSet(c1, outfit)?.readings ?? []), ['SA', 1], ['SB', 1]] as [string, number][]),
  ],
  ...{ wiring: WIRING, wiringRevision: 1 },
};
const listing = ({ id, model, version, maker, name }: typeof c7) => ({ id, model, version, maker, name });

const show = (reference: string | null, own: DryRunView = view, role = 'viewer') =>
  showScreen(`/positions/A-1/successor?model=${c7.id}`, '/positions/:tag/successor', <SuccessorPage />, {
    'GET positions/A-1': { tag: 'A-1', duty: 'Belt', unit: { line: null } },
    'GET positions/A-1/dry-run': own,
    'GET dictionaries': [c1, c7].map(listing),
    [`GET dictionaries/${c1.id}`]: c1,
    [`GET dictionaries/${c7.id}`]: c7,
    'GET cross-references/toreka-c1/toreka-c7': {
      ...{ old: c1.model, fresh: c7.model, text: reference, revision: 0, revisions: [] },
    },
    'GET positions/A-1/site': { supply: null, cabinet: { name: 'K1', ambient: 35 } },
    'GET replacements?tag=A-1': [],
    'GET positions/A-1/history': {
      newest: 'x',
      lastThatDiffered: null,
      backups: [],
      baselines: [],
      wirings: [],
    },
    'POST positions/A-1/replacements': { id: 'r1' },
    'GET meanings': { entries, functions },
    'GET session': signedIn(role),
  });

describe('a successor of another model', () => {
  it('says what fits, what waits and what would move, and keeps nothing', async () => {
    const { sent } = show(shippedReference('toreka-c1', 'toreka-c7'));
    expect(await screen.findByText(/things are open; it does/)).toBeTruthy();
    const rows = screen.getAllByRole('row').map((row) => row.textContent);
    expect(rows).toContainEqual(expect.stringMatching(/^Current of the motor.*fits$/));
    expect(rows).toContainEqual(expect.stringMatching(/^1.*S1:14.*input 1.*R1.*21$/));
    expect(screen.getByText(/R?P \(supply for a potentiometer.*the successor has one for each/)).toBeTruthy();
    expect(screen.getByText('Not answered yet.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /Begin to replace/ })).toBeNull();
    expect(sent).toEqual([]);
  });

  it('begins a replacement with its reason, from the set that is chosen', async () => {
    const { sent } = show(shippedReference('toreka-c1', 'toreka-c7'), view, 'technician');
    fireEvent.change(await screen.findByLabelText('Why it is replaced'), { target: { value: 'worn out' } });
    fireEvent.click(screen.getByRole('button', { name: /Begin to replace C1 by C7/ }));
    await screen.findByText('elsewhere');
    expect(sent).toEqual([
      {
        ...{ method: 'POST', path: 'positions/A-1/replacements' },
        body: { dictionary: c7.id, region: '50-hz', rating: null, source: 'newest', why: 'worn out' },
      },
    ]);
  });

  it('without a cross-reference says how much is unproven', async () => {
    show(null);
    expect(
      await screen.findByText(/the bridge alone carries, and \d+ of \d+ lines are unproven/),
    ).toBeTruthy();
  });

  it('leaves a cross-reference with faults aside and says each with its line', async () => {
    show(
      'old: toreka-c1\nnew: toreka-c7\nversion: 1\nsettings: []\nsuccessor:\n  - { new: XX9, does: stays, why: x }',
    );
    expect(await screen.findByText(/Line 6: toreka-c7 has no XX9/)).toBeTruthy();
  });

  it('says that nothing is known of the wires where none was kept', async () => {
    show(null, { ...view, wiring: [], wiringRevision: 0 });
    expect(await screen.findByText(/No wiring of this position is kept/)).toBeTruthy();
  });
});
