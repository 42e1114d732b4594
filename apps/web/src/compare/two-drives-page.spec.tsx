import { describe, expect, it } from '@jest/globals';
import type { AcrossValueView, AcrossView } from '@drive-keep/api';
import type { Code } from '@drive-keep/core/dictionary';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { showScreen } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { TwoDrivesPage } from './two-drives-page.tsx';

const dictionary = shippedDictionary();
const side = (tag: string) => ({
  ...{ tag, duty: `Duty of ${tag}`, model: 'Halvern HN64', dictionary: dictionary.id, title: 'Backup' },
  at: new Date().toISOString(),
});
const code = (text: string) => text as Code;
const ramp = (reading: number, value: number, to: number): AcrossValueView => ({
  meaning: 'ramp.up',
  holds: [{ code: '01R', reading }],
  plain: {
    ...{ kind: 'number', value, unit: 's/Hz', step: 0.0002, codes: [code('01R')] },
    how: {
      conversion: 'reference',
      own: { value: reading / 100, unit: 's' },
      facts: [{ what: 'motor.baseFrequency', code: code('04M'), value: to, unit: 'Hz' }],
    },
  },
});
const limit = (value: number): AcrossValueView => ({
  meaning: 'limit.current',
  holds: [{ code: '19R', reading: 150 }],
  plain: {
    ...{ kind: 'number', value, unit: 'A', step: 0.04, codes: [code('19R')] },
    how: {
      conversion: 'reference',
      own: { value: 150, unit: '%' },
      facts: [{ what: 'unit.current', code: null, value: 4.1, unit: 'A' }],
    },
  },
});
const percent = (text: string): AcrossValueView => ({
  meaning: 'motor.damping',
  holds: [{ code: text, reading: 40 }],
  plain: { kind: 'number', value: 40, unit: '%', step: 1, codes: [code(text)], how: null },
});
const DATA: AcrossView = {
  a: side('A-1'),
  b: side('B-1'),
  same: 40,
  withoutMeaning: { a: 2, b: 0 },
  terms: {
    'ramp.up': 'acceleration time',
    'stop.mode': 'stop mode',
    'motor.damping': 'damping',
    'limit.current': 'current limit',
    'jog.speed': 'jog speed',
    'motor.baseFrequency': 'base frequency',
    'unit.current': 'rated current of the unit',
  },
  rows: [
    {
      meaning: 'ramp.up',
      purpose: 'ramps',
      a: ramp(1200, 0.2, 60),
      b: ramp(2000, 0.4, 50),
      difference: { kind: 'greater', by: 0.2, at: null },
    },
    {
      meaning: 'stop.mode',
      purpose: 'ramps',
      a: {
        meaning: 'stop.mode',
        holds: [{ code: '24R', reading: 0 }],
        plain: { kind: 'choice', option: 'ramp', codes: [code('24R')], how: null },
      },
      b: {
        meaning: 'stop.mode',
        holds: [{ code: '24R', reading: { unreadable: 'refused' } }],
        plain: { kind: 'nothing', why: { code: 'unreadable' }, codes: [code('24R')] },
      },
      difference: { kind: 'unreadable' },
    },
    {
      meaning: 'motor.damping',
      purpose: 'motor',
      a: percent('17M'),
      b: percent('17M'),
      difference: { kind: 'cannot-be-told', why: { code: 'maker-scale' } },
    },
    {
      meaning: 'limit.current',
      purpose: 'ramps',
      a: limit(6.15),
      b: limit(6.2),
      difference: { kind: 'rounding', by: 0.05, at: null },
    },
    { meaning: 'jog.speed', purpose: 'commands', a: percent('17C'), b: null, difference: { kind: 'only-a' } },
  ],
};

const show = (address = '/two?a=A-1&b=B-1') =>
  showScreen(address, '/two', <TwoDrivesPage />, {
    'GET across-models': DATA,
    [`GET dictionaries/${dictionary.id}`]: dictionary,
    'GET register': {
      plant: 'P',
      all: 1,
      total: 1,
      onLine: 1,
      from: 0,
      counts: {},
      positions: [{ tag: 'C-1', duty: 'x' }],
    },
  });
const line = (meaning: string) => document.querySelector(`[data-meaning="${meaning}"]`)?.textContent;

describe('two drives by what their parameters mean', () => {
  it('differ in plain values, ramps by the time to the speed to which A counts', async () => {
    show();
    await screen.findByText('acceleration time');
    expect(line('ramp.up')).toBe('▸acceleration time5 Hz/s01R▲01R2.5 Hz/s+12 s to 60 Hz');
    expect(line('stop.mode')).toContain('could not be read');
    expect(line('motor.damping')).toContain('cannot be told: each maker has a scale of its own');
    expect(
      screen.getByText(/40 say the same, 1 within rounding; 2 of A and 0 of B are the maker’s own/),
    ).toBeTruthy();
  });

  it('tell on request how a value was told', async () => {
    show();
    fireEvent.click(await screen.findByRole('button', { name: /acceleration time/, expanded: false }));
    expect(line('ramp.up')).toContain(
      '01R Acceleration time: 12.00 s — 12 s to base frequency 60 Hz (04M) is 5 Hz/s',
    );
    expect(screen.getByRole('button', { name: /acceleration time/, expanded: true })).toBeTruthy();
  });

  it('keep rounding and what only one of them has aside, until they are wanted', async () => {
    const { address } = show();
    await screen.findByText('acceleration time');
    expect([line('jog.speed'), line('limit.current')]).toEqual([undefined, undefined]);
    fireEvent.click(screen.getByLabelText('rounding, and what only one of them has'));
    await waitFor(() => expect(line('jog.speed')).toContain('not on this model'));
    expect(line('limit.current')).toContain('no more than rounding: +0.05 A');
    expect(address()).toContain('alone=yes');
  });

  it('are filtered by code, name and the word of the trade', async () => {
    show();
    await screen.findByText('acceleration time');
    fireEvent.change(screen.getByLabelText('Filter rows'), { target: { value: '24r' } });
    await waitFor(() => expect(document.querySelectorAll('[data-meaning]')).toHaveLength(1));
    expect(line('stop.mode')).toBeTruthy();
  });

  it('are chosen by a tag that was typed to its end', async () => {
    const { address } = show('/two');
    expect(await screen.findByText(/Choose two drives/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText('A'), { target: { value: 'c-1' } });
    await waitFor(() => expect(address()).toBe('/two?a=C-1'));
  });
});
