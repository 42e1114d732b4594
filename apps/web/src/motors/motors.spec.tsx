import { describe, expect, it } from '@jest/globals';
import type { MotorArrival, MotorView, Role } from '@drive-keep/api';
import { writePlate, type MotorPlate } from '@drive-keep/core/motor';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { MotorPage } from './motor-page.tsx';
import { MotorsPage } from './motors-page.tsx';

const PLATE: MotorPlate = {
  ratings: [{ voltage: 400, connection: 'star', power: 750, current: 1.9 }],
  resistance: 9.8,
  brake: { releaseDelay: 0.09 },
};
const motor = (name: string, change: Partial<MotorView> = {}): MotorView => ({
  ...{ id: name, name, plate: PLATE, text: writePlate(PLATE), line: '400 V star, 1.9 A', startedFrom: '' },
  ...{ positions: ['B-1', 'B-2'], version: 1, changedBy: 'P', changedAt: '2026-01-01T12:00:00Z', twins: [] },
  ...change,
});
const ARRIVAL: MotorArrival = {
  ...{ tag: 'B-2', duty: 'Belt 2', kind: 'other-numbers', name: 'Belt motor', line: '0.75 kW' },
  against: { id: 'Belt motor', name: 'Belt motor' },
  fields: [
    { key: 'power', name: 'Power', plate: 750, told: 750, clashes: false },
    { key: 'resistance', name: 'Winding resistance', plate: 9.8, told: 13.1, clashes: true },
    { key: 'poles', name: 'Poles', plate: null, told: 4, clashes: false },
  ],
  backupAt: '2026-11-25T02:00:00Z',
  fingerprint: 'f1',
};

const ANSWERS = (role: Role, arrivals: readonly MotorArrival[]) => ({
  'GET motors': [motor('Belt motor'), motor('Disc motor', { positions: [], twins: ['Belt motor'] })],
  'GET motor-arrivals': arrivals,
  'GET session': signedIn(role),
  'POST motor-arrivals/B-2': { id: 'x' },
  'POST motor-arrivals/B-2/leave': [],
  'PUT positions/B-2/motor': [],
  'POST motors': { id: 'x' },
  'PUT motors/Belt motor': [],
  'DELETE motors/Belt motor': [],
});
const showList = (role: Role = 'technician', arrivals: readonly MotorArrival[] = [ARRIVAL]) =>
  showScreen('/motors', '/motors', <MotorsPage />, ANSWERS(role, arrivals));
const showMotor = (address: string, role: Role = 'engineer') =>
  showScreen(address, '/motors/:id', <MotorPage />, ANSWERS(role, []));

describe('the motor library', () => {
  it('says how many positions have a motor, and who has the same numbers', async () => {
    showList('viewer', []);
    const rows = await screen.findAllByRole('row');
    expect(rows.map((row) => row.textContent).slice(1)).toEqual([
      'Belt motor400 V star, 1.9 A9.8 Ω2 B-1, B-2',
      'Disc motor◆ same numbers as Belt motor400 V star, 1.9 A9.8 Ωnone',
    ]);
    expect(screen.queryByRole('link', { name: 'Add a motor' })).toBeNull();
  });

  it('shows a clash field by field, and what one side does not tell as not told', async () => {
    showList();
    const section = await screen.findByRole('region', { name: 'From backups' });
    const rows = within(section)
      .getAllByRole('row')
      .map((row) => row.textContent);
    expect(rows.slice(1)).toEqual([
      'Power0.75 kW0.75 kW',
      '◆ Winding resistance9.8 Ω13.1 Ω',
      'Polesnot told4',
    ]);
  });

  it('takes another motor in under a name of its own, or leaves it', async () => {
    const { sent } = showList();
    const name = await screen.findByLabelText(/give it a name of its own/);
    const take = screen.getByRole<HTMLButtonElement>('button', { name: 'Take it into the library' });
    expect(take.disabled).toBe(true);
    fireEvent.change(name, { target: { value: 'Belt motor, rewound' } });
    fireEvent.click(take);
    await waitFor(() => expect(sent[0]?.body).toEqual({ name: 'Belt motor, rewound' }));
    fireEvent.click(screen.getByRole('button', { name: 'Leave it as it is' }));
    await waitFor(() => expect(sent[1]?.body).toEqual({ fingerprint: 'f1' }));
  });

  it('offers a motor that has these numbers already', async () => {
    const { sent } = showList('technician', [{ ...ARRIVAL, kind: 'known-numbers' }]);
    fireEvent.click(await screen.findByRole('button', { name: 'It is Belt motor' }));
    await waitFor(() => expect(sent[0]).toMatchObject({ method: 'PUT', body: { motor: 'Belt motor' } }));
  });

  it('lets a viewer look', async () => {
    showList('viewer');
    await screen.findByRole('region', { name: 'From backups' });
    expect(screen.queryByRole('button', { name: 'Leave it as it is' })).toBeNull();
  });
});

describe('a motor', () => {
  it('starts from the plate of another one and gets a name of its own', async () => {
    const { sent } = showMotor('/motors/new?from=Belt%20motor', 'technician');
    expect(await screen.findByText(/Started from the plate of Belt motor/)).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Name, one motor each').value).toBe('');
    fireEvent.change(screen.getByLabelText('Name, one motor each'), { target: { value: 'Belt motor 2' } });
    fireEvent.change(screen.getByLabelText('Power, kW'), { target: { value: '1 hp' } });
    fireEvent.click(screen.getByRole('button', { name: 'Add the motor' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({
      name: 'Belt motor 2',
      startedFrom: 'Belt motor',
      plate: {
        ratings: [{ voltage: '400 V', power: '1 hp', connection: 'star' }],
        brake: { releaseDelay: '90 ms' },
      },
    });
  });

  it('has one line for each supply', async () => {
    const { sent } = showMotor('/motors/Belt%20motor');
    fireEvent.click(await screen.findByRole('button', { name: 'Another supply' }));
    expect(screen.getAllByLabelText('Voltage, V')).toHaveLength(2);
    fireEvent.change(screen.getAllByLabelText('Voltage, V')[1] as HTMLElement, { target: { value: '230' } });
    fireEvent.click(await screen.findByRole('button', { name: 'Keep the changes' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect((sent[0]?.body as { plate: { ratings: object[] } }).plate.ratings).toHaveLength(2);
  });

  it('is changed by an engineer', async () => {
    showMotor('/motors/Belt%20motor', 'technician');
    expect(await screen.findByText('An engineer changes motors of the library.')).toBeTruthy();
    expect(screen.getByRole<HTMLFieldSetElement>('group').disabled).toBe(true);
  });
});
