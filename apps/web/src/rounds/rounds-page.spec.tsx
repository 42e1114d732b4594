import { describe, expect, it } from '@jest/globals';
import type { RoundRunView, RoundView } from '@drive-keep/api';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { RoundsPage } from './rounds-page.tsx';

const RUN: RoundRunView = {
  id: '1',
  dueAt: '2026-11-25T02:00:00',
  state: 'done',
  tries: 2,
  jobId: 'job-1',
  kept: 36,
  changed: ['GL-PU-01'],
  failed: [
    { tag: 'KL1-RD-12', text: 'KL1-RD-12 did not answer within 1 s. Is its supply on? Nothing was kept.' },
  ],
};
const ROUND: RoundView = {
  id: 'round-1',
  version: 1,
  name: 'Nightly round',
  at: '02:00',
  days: [1, 2, 3, 4, 5],
  scope: { areas: ['Kiln 1'], models: [], criticalities: ['high'] },
  retries: 2,
  quiet: { from: '05:30', to: '06:30' },
  enabled: true,
  positions: 15,
  next: '2026-11-26T02:00:00',
  runs: [RUN],
};

const show = (role: string, rounds: readonly RoundView[] = [ROUND]) =>
  showScreen('/rounds', '/rounds', <RoundsPage />, {
    'GET session': signedIn(role),
    'GET plant': { nightlyAt: '02:00' },
    'GET rounds': rounds,
    'GET register/outline': { plant: 'P', areas: [{ name: 'Kiln 1', machines: [] }] },
    'GET dictionaries': [],
    'PUT rounds/round-1': ROUND,
    'POST rounds': ROUND,
  });

describe('the rounds', () => {
  it('say when, which, how often again, when it is quiet, and when next', async () => {
    show('viewer');
    const text =
      'Mon, Tue, Wed, Thu, Fri at 02:00 · 15 units (Kiln 1, high criticality) · 2 retries · quiet from 05:30 to 06:30 · next 26 Nov 2026 02:00';
    expect(await screen.findByText(text)).toBeTruthy();
  });

  it('say of each run what changed, what failed and why, and how many tries it took', async () => {
    show('viewer');
    expect(await screen.findByText(/36 kept, 2 tries/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'GL-PU-01' }).getAttribute('href')).toBe('/positions/GL-PU-01');
    expect(screen.getByText(/did not answer within 1 s/)).toBeTruthy();
    expect(screen.getByRole('link', { name: '25 Nov 2026 02:00' }).getAttribute('href')).toBe('/jobs/job-1');
  });

  it('never say all is well while something failed', async () => {
    show('viewer');
    await screen.findByText(/36 kept/);
    expect(screen.queryByLabelText('done')).toBeNull();
    show('viewer', [{ ...ROUND, runs: [{ ...RUN, failed: [], changed: [] }] }]);
    expect(await screen.findByLabelText('done')).toBeTruthy();
    expect(screen.getByText('nothing changed')).toBeTruthy();
  });

  it('are changed by an engineer alone, with all that was set kept', async () => {
    show('technician');
    await screen.findByText('Nightly round');
    expect(screen.queryByRole('button', { name: 'Change' })).toBeNull();
    const { sent } = show('engineer');
    fireEvent.click(await screen.findByRole('button', { name: 'Change' }));
    await screen.findByRole('option', { name: 'Kiln 1' });
    fireEvent.change(screen.getByLabelText('At'), { target: { value: '03:15' } });
    fireEvent.click(screen.getByRole('button', { name: 'Keep the changes' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      method: 'PUT',
      path: 'rounds/round-1',
      body: {
        name: 'Nightly round',
        at: '03:15',
        days: [1, 2, 3, 4, 5],
        retries: 2,
        quiet: ROUND.quiet,
        enabled: true,
      },
    });
  });

  it('that cover several areas stay so when something else is changed, and half of a quiet time is no none', async () => {
    const wide = { ...ROUND, scope: { areas: ['Kiln 1', 'Drying'], models: ['a', 'b'], criticalities: [] } };
    const { sent } = show('engineer', [wide]);
    fireEvent.click(await screen.findByRole('button', { name: 'Change' }));
    await screen.findByRole('option', { name: 'Kiln 1, Drying' });
    fireEvent.change(screen.getByLabelText('Quiet to'), { target: { value: '' } });
    fireEvent.click(screen.getByRole('button', { name: 'Keep the changes' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({ scope: wide.scope, quiet: { from: '05:30', to: '' } });
  });

  it('say what will be there when there is none', async () => {
    show('engineer', []);
    expect(await screen.findByText(/A round backs up many units at a set time/)).toBeTruthy();
  });
});
