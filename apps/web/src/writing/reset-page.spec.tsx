import { describe, expect, it } from '@jest/globals';
import type { ResetView } from '@drive-keep/api';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { ResetPage } from './reset-page.tsx';

const dictionary = shippedDictionary();
const RESET: ResetView = {
  ...{ tag: 'A-1', dictionary: dictionary.id, region: '50-hz', scope: 0, overLine: true, revision: 3 },
  regions: [
    { id: '50-hz', name: '50 Hz, metric' },
    { id: '60-hz', name: '60 Hz, imperial' },
  ],
  scopes: [
    { raw: 0, name: 'all' },
    { raw: 1, name: 'all but the motor' },
  ],
  steps: ['Choose the region', 'Write the trigger'],
  losses: [
    { code: '01R', now: 800, after: 1000, baseline: 800 },
    { code: '02R', now: 500, after: 1000, baseline: 1000 },
    { code: '10C', now: 700, after: 500, baseline: null },
  ],
  keeps: ['01N', '02U'],
  newestAt: '2026-11-25T02:00:00Z',
  otherRegion: null,
  notAtDefault: ['01R', '02R', '10C'],
};

const show = (reset: Partial<ResetView> = {}, role = 'technician') =>
  showScreen('/positions/A-1/reset', '/positions/:tag/reset', <ResetPage />, {
    'GET session': signedIn(role),
    'GET positions/A-1/reset?': { ...RESET, ...reset },
    'GET positions/A-1/reset?region=60-hz': { ...RESET, ...reset, region: '60-hz' },
    [`GET dictionaries/${dictionary.id}`]: dictionary,
    'POST positions/A-1/reset-plans': { id: 'plan-1' },
  });

describe('a reset', () => {
  it('marks what the baseline wants and the reset would not leave, and nothing else', async () => {
    show();
    expect(await screen.findByLabelText('Put back 01R')).toHaveProperty('checked', true);
    expect(screen.getByLabelText('Put back 02R')).toHaveProperty('checked', false);
    expect(screen.getByLabelText('Put back 10C')).toHaveProperty('checked', false);
    expect(screen.getByText(/to what revision 3 of the baseline wants/)).toBeTruthy();
  });

  it('plans with the lines that are marked, for the region and scope that are chosen', async () => {
    const { sent, address } = show();
    fireEvent.click(await screen.findByLabelText('Put back 10C'));
    fireEvent.click(screen.getByRole('button', { name: 'Plan the reset with 2 lines put back' }));
    await waitFor(() => expect(address()).toBe('/write-plans/plan-1'));
    expect(sent[0]?.body).toEqual({ region: '50-hz', scope: 0, putBack: ['01R', '10C'] });
  });

  it('shows another region at once, in the address, too', async () => {
    const { address } = show();
    fireEvent.click(await screen.findByLabelText('60 Hz, imperial'));
    await waitFor(() => expect(address()).toBe('/positions/A-1/reset?region=60-hz'));
    expect(screen.getByLabelText('60 Hz, imperial')).toHaveProperty('checked', true);
  });

  it('says that the unit was reset for the wrong region', async () => {
    show({ otherRegion: { name: '60 Hz, imperial', codes: ['04M', '05M'] } });
    expect(await screen.findByText(/holds the defaults of the other region, 60 Hz, imperial/)).toBeTruthy();
  });

  it('at the keypad is told by its steps and proven by the next backup', async () => {
    show({ overLine: false, notAtDefault: [] });
    expect(await screen.findByText(/By the newest backup this unit holds its defaults/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Plan the reset/ })).toBeNull();
  });

  it('is planned by nobody who may only look', async () => {
    show({}, 'viewer');
    await screen.findByLabelText('Put back 01R');
    expect(screen.queryByRole('button', { name: /^Plan the reset/ })).toBeNull();
  });
});
