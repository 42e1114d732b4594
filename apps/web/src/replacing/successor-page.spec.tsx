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

const show = (reference: string | null, own: DryRunView = view) =>
  showScreen(`/positions/A-1/successor?model=${c7.id}`, '/positions/:tag/successor', <SuccessorPage />, {
    'GET positions/A-1': { tag: 'A-1', duty: 'Belt', unit: { line: null } },
    'GET positions/A-1/dry-run': own,
    'GET dictionaries': [c1, c7].map(listing),
    [`GET dictionaries/${c1.id}`]: c1,
    [`GET dictionaries/${c7.id}`]: c7,
    'GET cross-references/toreka-c1/toreka-c7': { old: c1.model, fresh: c7.model, text: reference },
    'GET meanings': { entries, functions },
    'GET session': signedIn('viewer'),
  });

describe('a successor of another model', () => {
  it('says what fits, asks what nobody can know, and moves each wire by what it does', async () => {
    show(shippedReference('toreka-c1', 'toreka-c7'));
    expect(await screen.findByText(/^One line is open/)).toBeTruthy();
    const rows = screen.getAllByRole('row').map((row) => row.textContent);
    expect(rows).toContainEqual(expect.stringMatching(/^1.*S1:14.*input 1.*R1/));
    expect(screen.getByLabelText<HTMLSelectElement>('New terminal for R1, wire 1').value).toBe('21');
    // One terminal fed contacts and potentiometer.
    expect(rows).toContainEqual(expect.stringMatching(/^3.*R1:1.*P.*one for each/));
    expect(rows).toContainEqual(expect.stringMatching(/^Current of the motor.*fits$/));
    // A wire goes to another input, and what it does goes with it.
    fireEvent.change(screen.getByLabelText('New terminal for R1, wire 1'), { target: { value: '24' } });
    expect(await screen.findByText(/IA4 Input 4 function: 1 run forward/)).toBeTruthy();
    const answer = screen.getByLabelText('Answer for CA6');
    // To wait after both is not what this one did after the supply: that stays open, in its own line.
    fireEvent.change(answer, { target: { value: '0' } });
    expect(
      await screen.findByText(/start lock at power-up: start wanted, wait is what it can be/),
    ).toBeTruthy();
    fireEvent.change(screen.getByLabelText('Answer for CA6'), { target: { value: '1' } });
    expect(await screen.findByText(/^Nothing is open/)).toBeTruthy();
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
    expect(await screen.findByText(/No wiring of this position was kept yet/)).toBeTruthy();
  });
});
