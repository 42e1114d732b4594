import { describe, expect, it } from '@jest/globals';
import type { PositionDetailView, Role } from '@drive-keep/api';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { linesNamed, showScreen, signedIn } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { RecordPage } from './record-page.tsx';

const dictionary = shippedDictionary();
const POSITION = {
  ...{ tag: 'A-1', area: 'Kiln', machine: 'Rollers', duty: 'Roller 1', criticality: 'high', motor: 'M 1' },
  ...{
    motorId: null,
    retiredAt: null,
    isAxis: false,
    retiredWhy: '',
    drift: 0,
    tolerated: 0,
    damaged: false,
    version: 3,
    unitVersion: 2,
    newestBackup: null,
  },
  ...{ newestIsOfUnit: true, baselineRevision: 1, lastTry: null, findings: null },
  state: { kind: 'overdue', attention: 'look', text: 'No backup yet', short: 'No backup' },
  unit: {
    ...{ maker: 'Halvern', model: 'HN64', dictionary: dictionary.id, rating: 'HN64-15', ratingName: '' },
    ...{ region: '50-hz', regionName: '', serial: 77, firmware: '2.07' },
    line: { name: 'gateway-2', address: 7 },
  },
  formerUnits: [
    {
      ...{ model: 'Halvern HN20', rating: 'HN20-15', serial: 12, firmware: '1.4' },
      ...{ installedAt: '2020-01-01T00:00:00Z', removedAt: '2024-01-01T00:00:00Z', why: 'Obsolete' },
    },
  ],
} as PositionDetailView;

const show = (role: Role, position = POSITION, address = '/positions/A-1/record') =>
  showScreen(address, '/positions/:tag/record', <RecordPage />, {
    'GET positions/A-1': position,
    'GET session': signedIn(role),
    'GET register/outline': { areas: [], models: [], retired: 0 },
    'GET dictionaries': [
      { id: dictionary.id, maker: 'Halvern', name: 'HN64', firmware: { from: '2.00', to: '2.99' } },
    ],
    [`GET dictionaries/${dictionary.id}`]: dictionary,
    'GET lines': linesNamed('gateway-1', 'gateway-2'),
    'GET motors': [{ id: 'motor-1', name: 'Roller motor' }],
    'PATCH positions/A-1': position,
    'PUT positions/A-1/unit': position,
    'PUT positions/A-1/motor': [],
    'POST positions/A-1/swap': position,
    'POST register/retire': { retired: ['A-1'] },
    'DELETE positions/A-1/retirement': { ...position, retiredAt: null },
  });

describe('the record of a position', () => {
  it('sends what was changed about the place', async () => {
    const { sent } = show('engineer');
    fireEvent.change(await screen.findByLabelText('Duty'), { target: { value: 'Roller 1, slow' } });
    fireEvent.click(screen.getByRole('button', { name: 'Keep these changes' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      method: 'PATCH',
      body: { tag: 'A-1', duty: 'Roller 1, slow', machine: 'Rollers' },
    });
  });

  it('shows the line that the unit has, whenever the lists arrive, and sends the unit as a whole', async () => {
    const { sent } = show('engineer');
    await screen.findByRole('option', { name: 'gateway-2' });
    await waitFor(() => expect(screen.getByLabelText<HTMLSelectElement>('Line').value).toBe('gateway-2'));
    fireEvent.change(screen.getByLabelText('Firmware'), { target: { value: '2.09' } });
    fireEvent.click(screen.getByRole('button', { name: 'Keep what is said of the unit' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toEqual({
      ...{ dictionary: dictionary.id, rating: 'HN64-15', region: '50-hz', serial: 77, firmware: '2.09' },
      ...{ line: 'gateway-2', lineAddress: 7, version: 2 },
    });
  });

  it('records a swap with its reason, filled in from what answered on the line', async () => {
    const found = `/positions/A-1/record?serial=99&firmware=2.11&dictionary=${dictionary.id}&rating=HN64-15`;
    const { sent } = show('technician', POSITION, found);
    expect(await screen.findByText(/Filled in from what answered/)).toBeTruthy();
    await waitFor(() => expect(screen.getByLabelText('Serial number')).toHaveProperty('value', '99'));
    fireEvent.change(screen.getByLabelText('Reason, for the record'), { target: { value: ' Failed ' } });
    fireEvent.click(screen.getByRole('button', { name: 'Swap the unit of A-1' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({ serial: 99, firmware: '2.11', reason: 'Failed' });
  });

  it('gives a motor of the library', async () => {
    const { sent } = show('technician');
    await screen.findByRole('option', { name: 'Roller motor' });
    fireEvent.change(screen.getByLabelText('Motor of the library'), { target: { value: 'motor-1' } });
    await waitFor(() => expect(sent[0]?.body).toEqual({ motor: 'motor-1' }));
  });

  it('retires with a reason, and brings back what was retired', async () => {
    const { sent } = show('engineer');
    fireEvent.change(await screen.findByLabelText('Reason, for the record'), { target: { value: 'Gone' } });
    fireEvent.click(screen.getByRole('button', { name: 'Retire A-1' }));
    await waitFor(() => expect(sent[0]?.body).toEqual({ positions: ['A-1'], reason: 'Gone' }));
    const back = show('engineer', { ...POSITION, retiredAt: '2026-01-01T00:00:00Z', retiredWhy: 'Gone' });
    expect((await screen.findByRole('alert')).textContent).toContain('Retired on 1 Jan 2026: Gone');
    fireEvent.click(screen.getByRole('button', { name: 'Bring A-1 back' }));
    await waitFor(() => expect(back.sent[0]?.method).toBe('DELETE'));
  });

  it('shows everybody who sat there before, and lets a viewer change nothing', async () => {
    show('viewer');
    expect((await screen.findByText(/Obsolete/)).closest('li')?.textContent).toBe(
      'Halvern HN20 HN20-15, serial 12, firmware 1.4 · from 1 Jan 2020 to 1 Jan 2024 · Obsolete',
    );
    expect(screen.queryByRole('button')).toBeNull();
  });
});
