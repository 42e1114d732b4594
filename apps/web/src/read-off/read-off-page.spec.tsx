import { beforeEach, describe, expect, it } from '@jest/globals';
import type { PositionDetailView, ReadOffView } from '@drive-keep/api';
import { isNoise } from '@drive-keep/core/dictionary';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { showScreen } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { ReadOffPage } from './read-off-page.tsx';
import { useReadOffStore } from './read-off-store.ts';

const dictionary = shippedDictionary();
const settings = dictionary.parameters.filter((parameter) => !isNoise(parameter));
const POSITION = {
  ...{ tag: 'A-1', duty: 'Belt', formerUnits: [] },
  unit: {
    ...{ maker: 'Halvern', model: 'HN64', dictionary: dictionary.id, rating: 'HN64-15', region: '50-hz' },
    ...{ serial: 77, firmware: '2.07', line: null },
  },
} as unknown as PositionDetailView;
const readOff = (entries: Record<string, number>): ReadOffView => ({
  ...{ tag: 'A-1', dictionary: dictionary.id, serial: 77, startedBy: 'P', startedAt: '2026-11-25T08:00:00Z' },
  entries: Object.entries(entries).map(([code, raw]) => ({ code, raw, by: 'P', at: '2026-11-25T08:00:00Z' })),
});

const show = (answers: Record<string, unknown> = {}) =>
  showScreen('/positions/A-1/read-off', '/positions/:tag/read-off', <ReadOffPage />, {
    'GET positions/A-1': POSITION,
    [`GET dictionaries/${dictionary.id}`]: dictionary,
    'GET positions/A-1/read-off': { readOff: null },
    'PUT positions/A-1/read-off': { readOff: readOff({ '01M': 1500 }), conflicts: [] },
    'POST positions/A-1/read-off/keep': { backupId: 'b-1', hash: 'h', sameAs: null },
    ...answers,
  });
const line = (code: string) => document.querySelector(`[data-code="${code}"]`) as HTMLElement;
const open = (code: string) => fireEvent.click(within(line(code)).getAllByRole('button')[0] ?? line(code));
/** Keys of the pad that is open at a line. */
const press = (code: string, ...keys: string[]) => {
  for (const name of keys) fireEvent.click(within(line(code)).getByRole('button', { name }));
};

beforeEach(() => useReadOffStore.getState().forget('A-1'));

describe('reading off at the keypad', () => {
  it('goes in the order of the menus, with every default in sight', async () => {
    show();
    expect(await screen.findByText(`of ${settings.length}`, { exact: false })).toBeTruthy();
    const codes = [...document.querySelectorAll('[data-code]')].map((each) => each.getAttribute('data-code'));
    expect(codes).toEqual(settings.map(({ code }) => code));
    expect(line('01R').textContent).toContain('default 10.00 s');
  });

  it('takes the default in one touch, for a line and for the rest of a group', async () => {
    const { sent } = show();
    fireEvent.click(await screen.findByRole('button', { name: '01M as default' }));
    expect(line('01M').textContent).toContain('✓ 1500 W (default)');
    await waitFor(() => expect(sent[0]).toMatchObject({ method: 'PUT', body: { serial: 77 } }));
    const group = line('01M').closest('section') as HTMLElement;
    fireEvent.click(within(group).getByRole('button', { name: /^The other \d+ as default$/ }));
    expect(within(group).queryByRole('button', { name: /as default$/ })).toBeNull();
  });

  it('takes a number from its pad, and none that the drive cannot hold', async () => {
    show();
    await screen.findByText('Read off', { exact: false });
    await waitFor(() => expect(line('01R')).toBeTruthy());
    open('01R');
    press('01R', '9', '9', '9', '9', 'Enter');
    expect(within(line('01R')).getByRole('alert').textContent).toContain('above the maximum value');
    press(
      '01R',
      'Delete the last digit',
      'Delete the last digit',
      'Delete the last digit',
      'Delete the last digit',
    );
    press('01R', '1', '2', '.', '3', '4', '5', 'Enter');
    expect(within(line('01R')).getAllByRole('alert')[0]?.textContent).toContain('Steps are 0.01 s');
    press('01R', 'Delete the last digit', 'Enter');
    expect(line('01R').textContent).toContain('✓ 12.34 s');
    expect(useReadOffStore.getState().byTag['A-1']?.entries['01R']?.raw).toBe(1234);
  });

  it('takes an option from a list, and opens what comes next', async () => {
    show();
    await waitFor(() => expect(line('24R')).toBeTruthy());
    open('24R');
    expect(within(line('24R')).queryByRole('button', { pressed: true })).toBeNull();
    fireEvent.click(within(line('24R')).getByRole('button', { name: /1 coast/ }));
    expect(line('24R').textContent).toContain('✓ 1 coast');
    expect(within(line('25R')).getByLabelText('Value of 25R')).toBeTruthy();
  });

  it('goes on from what the server has, and asks where two people differ', async () => {
    const theirs = { code: '01R', raw: 900, by: 'R. A.', at: '2026-11-25T08:00:00Z' };
    show({
      'GET positions/A-1/read-off': { readOff: readOff({ '02R': 600 }) },
      'PUT positions/A-1/read-off': {
        readOff: readOff({ '01R': 900, '02R': 600 }),
        conflicts: [{ code: '01R', mine: 1000, theirs }],
      },
    });
    await waitFor(() => expect(line('02R')?.textContent).toContain('✓ 6.00 s'));
    fireEvent.click(screen.getByRole('button', { name: '01R as default' }));
    expect(await screen.findByText(/Two people have entered different values/)).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Keep \d+ values/ }).disabled).toBe(true);
    fireEvent.click(screen.getByRole('button', { name: 'R. A.: 9.00 s' }));
    expect(line('01R').textContent).toContain('✓ 9.00 s');
  });

  it('goes on without a network, and says what is on this device alone', async () => {
    show({ 'PUT positions/A-1/read-off': undefined });
    await waitFor(() => expect(line('01M')).toBeTruthy());
    const answered = globalThis.fetch;
    globalThis.fetch = () => Promise.reject(new TypeError('no network'));
    fireEvent.click(screen.getByRole('button', { name: '01M as default' }));
    expect(await screen.findByText(/No network: 1 on this device only/)).toBeTruthy();
    expect(line('01M').textContent).toContain('✓ 1500 W');
    globalThis.fetch = answered;
  });
});
