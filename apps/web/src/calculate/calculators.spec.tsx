import { describe, expect, it } from '@jest/globals';
import type { MotorView } from '@drive-keep/api';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { writeDecimalsWith } from '@drive-keep/core/values';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { MotorCalculatorPage } from './motor-calculator-page.tsx';
import { SignalCalculatorPage } from './signal-calculator-page.tsx';

const MOTOR = {
  ...{ id: 'm1', name: 'Roller motor', line: '', startedFrom: '', positions: [], version: 1, twins: [] },
  plate: {
    ratings: [{ power: 1500, voltage: 400, current: 3.6, frequency: 50, speed: 1410, powerFactor: 0.79 }],
  },
} as unknown as MotorView;
const ANSWERS = {
  'GET session': signedIn('technician'),
  'GET motors': [MOTOR],
  'GET register': { positions: [] },
  'GET meanings': { entries: [], functions: [] },
};
const motor = (query = '') => showScreen(`/m${query}`, '/m', <MotorCalculatorPage />, ANSWERS);
const signal = (query = '') => showScreen(`/s${query}`, '/s', <SignalCalculatorPage />, ANSWERS);
const field = (label: string) => screen.getByLabelText<HTMLInputElement>(new RegExp(`^${label}`));
const type = (label: string, value: string) => fireEvent.change(field(label), { target: { value } });
const row = (name: string) => screen.getByRole('rowheader', { name }).closest('tr')?.textContent ?? '';

describe('the motor calculator', () => {
  it('shows each line with its formula and the numbers put in, from a motor of the library', async () => {
    motor('?motor=m1');
    await waitFor(() => expect(field('Power').value).toBe('1.5'));
    expect(row('Rated torque')).toContain('10.16 Nm');
    expect(row('Rated torque')).toContain('60 · 1500 / (2π · 1410)');
    expect(row('Shortest ramp up')).toContain('needs rotor inertia, current limit, load torque');
  });

  it('computes on while one types, keeps it in the address, and marks what is not of the plate', async () => {
    const { address } = motor('?motor=m1');
    await waitFor(() => expect(field('Speed').value).toBe('1410'));
    type('Speed', '2800');
    expect(row('Poles')).toContain('2');
    expect(address()).toContain('speed=2800');
    expect(screen.getByText(/· typed/).closest('label')?.textContent).toBe('Speed · typed');
    type('Current$', '1.2');
    expect(row('Efficiency')).toContain('would give more than it takes');
  });

  it('reads and writes with the mark of the plant', async () => {
    writeDecimalsWith('comma');
    try {
      motor('?motor=m1');
      await waitFor(() => expect(field('Power').value).toBe('1,5'));
      type('Power', '2,2');
      expect(row('Horsepower')).toContain('2,95 hp');
      type('Power', '2.2');
      expect(screen.getByRole('alert').textContent).toBe('No number');
    } finally {
      writeDecimalsWith('point');
    }
  });

  it('says that a motor has gone from the library, and keeps asking while it does not know', async () => {
    motor('?motor=m2');
    expect(screen.queryByText(/not in the library/)).toBeNull();
    await waitFor(() => expect(screen.getByText(/not in the library any more/)).toBeTruthy());
  });

  it('takes no half of a number', async () => {
    motor('?motor=m1');
    await waitFor(() => expect(field('Power').value).toBe('1.5'));
    type('Power', '1,5 or so');
    expect(screen.getByRole('alert').textContent).toBe('No number');
    expect(row('Rated torque')).toContain('needs power');
  });
});

describe('the signal calculator', () => {
  it('goes from any field to all others', () => {
    const { address } = signal();
    // The middle of 4 to 20 mA across 250 Ω, of 0 to 50 Hz.
    expect(['Sender gives', 'Across 250', 'Asks for'].map((label) => lastField(label))).toEqual([
      '12',
      '3',
      '25',
    ]);
    type('Measured', '30');
    expect(lastField('Sender gives')).toBe('8.8');
    fireEvent.change(screen.getByLabelText('Across 250 Ω'), { target: { value: '5' } });
    expect(address()).toContain('is-shunt=5');
    expect(field('Measured').value).toBe('100');
    fireEvent.change(lastOf('Asks for'), { target: { value: '12.5' } });
    expect(field('Measured').value).toBe('25');
  });

  it('says where a voltage goes into a current, and where a current needs a resistance', () => {
    signal('?sent=0-10-v&read=4-20-ma');
    expect(screen.getByRole('alert').textContent).toContain('A voltage goes into an input');
    signal('?sent=4-20-ma&read=0-10-v');
    // 12 mA across 250 Ω are 3 V of 10.
    expect(field('Drive sees').value).toBe('30');
  });

  it('tells what a meter should read, also with a broken wire', () => {
    signal('?low=-100&high=0');
    expect(row('Start of the range')).toContain('−100');
    expect(row('Start of the range')).toContain('4 mA');
    expect(row('Wire broken, or input shorted the drive cannot tell it from a signal')).toContain('0 mA');
    expect(screen.getByRole('img').getAttribute('aria-label')).toContain('From −100 to 0');
  });

  it('says what no signal gives', () => {
    signal('?is-hertz=80');
    expect(screen.getByRole('alert').textContent).toBe('No signal gives this number here.');
  });
});

const lastOf = (label: string): HTMLInputElement => {
  const found = screen.getAllByLabelText<HTMLInputElement>(new RegExp(`^${label}`));
  const last = found.filter((each) => each instanceof HTMLInputElement).at(-1);
  if (!last) throw new Error(label);
  return last;
};
const lastField = (label: string): string => lastOf(label).value;
