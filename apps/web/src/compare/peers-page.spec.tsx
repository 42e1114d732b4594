import { describe, expect, it } from '@jest/globals';
import type { PeerGroup, PeersView } from '@drive-keep/api';
import { comparePeers } from '@drive-keep/core/compare';
import { defaultSet } from '@drive-keep/core/sets';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { showScreen } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { PeersPage } from './peers-page.tsx';

const dictionary = shippedDictionary();
const defaults = defaultSet(dictionary, { rating: 'HN64-15', region: '50-hz' });
if (!defaults) throw new Error('no defaults');
const TAGS = ['A-1', 'A-2', 'A-3'];

/** Three units of which the last has another ramp and did not tell its stop mode. */
function peers(): PeersView {
  const odd = new Map(defaults?.readings);
  odd.set('01R' as never, 2000);
  odd.set('24R' as never, { unreadable: 'refused' });
  const sets = [defaults, defaults, { dictionary: dictionary.id, readings: odd }].flatMap((set) =>
    set ? [set] : [],
  );
  const { rows, agreed, leftOut } = comparePeers(dictionary, sets);
  return {
    dictionary: dictionary.id,
    columns: TAGS.map((tag) => ({ tag, duty: `Duty of ${tag}`, at: '2026-11-25T02:00:00' })),
    versions: [dictionary.id],
    withoutBackup: ['A-4'],
    rows: rows.map((row) => ({
      ...row,
      readings: row.readings.map((reading) => reading ?? null),
      usual: row.usual ?? null,
    })),
    agreed,
    leftOut,
  };
}

const GROUPS: readonly PeerGroup[] = [
  { name: 'Kiln, Rollers (HN64)', tags: TAGS },
  { name: 'Kiln, Rollers (C7)', tags: ['B-1', 'B-2'] },
];

const show = (address = '/compare') =>
  showScreen(address, '/compare', <PeersPage />, {
    'GET peers/groups': GROUPS,
    'GET peers': peers(),
    [`GET dictionaries/${dictionary.id}`]: dictionary,
  });

describe('peers side by side', () => {
  it('fold agreement away, mark the odd one out with its shape and put it first', async () => {
    show();
    const ramp = (await screen.findByText('Acceleration time')).closest('[role=row]');
    const cells = within(ramp as HTMLElement)
      .getAllByRole('cell')
      .map((cell) => cell.textContent);
    expect(cells).toEqual(['10.00 s', '◆ 20.00 s', '10.00 s', '10.00 s']);
    expect(screen.getAllByRole('row').filter((row) => /^\d\d[A-Z]/.test(row.textContent ?? ''))).toHaveLength(
      2,
    );
    expect(screen.getByRole('columnheader', { name: /A-3/ }).textContent).toContain('◆ 2 odd');
    expect(screen.getByRole('columnheader', { name: /A-1/ }).textContent).toContain('✓');
  });

  it('never show what could not be read as a value', async () => {
    show();
    const stop = (await screen.findByText('Stop mode')).closest('[role=row]');
    expect(stop?.textContent).toContain('? unreadable');
  });

  it('name those without a backup', async () => {
    show();
    expect(await screen.findByText('Without a backup: A-4.')).toBeTruthy();
  });

  it('offer the groups of one machine and one model, each by its own address', async () => {
    const { address } = show();
    const choice = await screen.findByLabelText('Drives of the same duty');
    await waitFor(() =>
      expect(
        within(choice)
          .getAllByRole('option')
          .map((each) => each.textContent),
      ).toEqual(['Kiln, Rollers (HN64)', 'Kiln, Rollers (C7)']),
    );
    fireEvent.change(choice, { target: { value: 'Kiln, Rollers (C7)' } });
    await waitFor(() => expect(address()).toBe('/compare?positions=B-1%2CB-2'));
  });
});
