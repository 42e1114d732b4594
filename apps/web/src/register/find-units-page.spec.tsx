import { describe, expect, it } from '@jest/globals';
import type { FoundUnitView, Role, ScanView } from '@drive-keep/api';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { linesNamed, showScreen, signedIn } from '../testing/screen.tsx';
import { FindUnitsPage } from './find-units-page.tsx';

const unit = (address: number, change: Partial<FoundUnitView>): FoundUnitView => ({
  ...{ address, found: 'known', tag: null, dictionary: 'h@1', model: 'Halvern HN64', rating: 'HN64-15' },
  ...{ firmware: '2.07', serial: 6_000_000 + address, text: '' },
  ...change,
});
const SCAN: ScanView = {
  ...{ id: 'scan-1', line: 'gateway-1', from: 1, to: 20, state: 'done', startedBy: 'P', asked: 20, text: '' },
  startedAt: new Date().toISOString(),
  units: [
    unit(1, { tag: 'A-1' }),
    unit(2, { found: 'unknown', text: 'Not in the register.' }),
    unit(3, { found: 'other-serial', tag: 'A-3', text: 'Swapped without a record?' }),
    unit(4, { found: 'silent', tag: 'A-4', model: '', serial: null, text: 'A-4 does not answer.' }),
  ],
};

const show = (role: Role = 'engineer', scan = SCAN) =>
  showScreen('/find', '/find', <FindUnitsPage />, {
    'GET scans': [scan],
    'GET scans/scan-1': scan,
    'GET lines': linesNamed('gateway-1', 'gateway-2'),
    'GET session': signedIn(role),
    'POST scans': { ...scan, id: 'scan-1' },
    'POST scans/scan-1/stop': { ...scan, state: 'stopped' },
  });

describe('units found on a line', () => {
  it('come with what needs somebody first', async () => {
    show();
    await screen.findByText('20 of 20 asked, 4 found, 1 as registered');
    const order = [...document.querySelectorAll('[data-address]')].map((line) =>
      line.getAttribute('data-address'),
    );
    expect(order).toEqual(['3', '4', '2', '1']);
  });

  it('lead to the register with all that they told', async () => {
    show();
    const take = await screen.findByRole('link', { name: 'Take into the register' });
    expect(take.getAttribute('href')).toBe(
      '/positions/new?dictionary=h%401&rating=HN64-15&serial=6000002&firmware=2.07&line=gateway-1&lineAddress=2',
    );
    const swap = screen.getByRole('link', { name: 'Record a swap' });
    expect(swap.getAttribute('href')).toMatch(/^\/positions\/A-3\/record\?.*serial=6000003/);
  });

  it('offer nothing that the role may not do', async () => {
    show('technician');
    await screen.findByRole('link', { name: 'Record a swap' });
    expect(screen.queryByRole('link', { name: 'Take into the register' })).toBeNull();
    show('viewer');
    await screen.findByText(/20 of 20 asked/);
    expect(screen.queryByRole('link', { name: 'Record a swap' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Search this line' })).toBeNull();
  });

  it('are searched for on the line and addresses that were given', async () => {
    const { sent } = show();
    await screen.findByRole('option', { name: 'gateway-2' });
    fireEvent.change(screen.getByLabelText('Line'), { target: { value: 'gateway-2' } });
    fireEvent.change(screen.getByLabelText('Last address'), { target: { value: '99' } });
    fireEvent.click(screen.getByRole('button', { name: 'Search this line' }));
    await waitFor(() => expect(sent[0]?.body).toEqual({ line: 'gateway-2', from: 1, to: 99 }));
  });

  it('may be stopped while the search goes on, and say why it ended early', async () => {
    const { sent } = show('technician', { ...SCAN, state: 'running', asked: 7 });
    fireEvent.click(await screen.findByRole('button', { name: 'Stop' }));
    await waitFor(() => expect(sent.map(({ path }) => path)).toEqual(['scans/scan-1/stop']));
    show('technician', { ...SCAN, state: 'stopped', text: 'The gateway does not accept a connection.' });
    expect((await screen.findByRole('alert')).textContent).toContain('does not accept a connection');
  });
});
