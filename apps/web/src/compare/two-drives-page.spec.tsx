import { describe, expect, it } from '@jest/globals';
import type { AcrossView } from '@drive-keep/api';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { showScreen } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { TwoDrivesPage } from './two-drives-page.tsx';

const dictionary = shippedDictionary();
const side = (tag: string) => ({
  ...{ tag, duty: `Duty of ${tag}`, model: 'Halvern HN64', dictionary: dictionary.id, title: 'Backup' },
  at: new Date().toISOString(),
});
const DATA: AcrossView = {
  a: side('A-1'),
  b: side('B-1'),
  same: 40,
  withoutMeaning: { a: 2, b: 0 },
  rows: [
    {
      meaning: 'ramp.up',
      a: { code: '01R', reading: 1200 },
      b: { code: '01R', reading: 2000 },
      difference: { kind: 'greater', by: 8 },
      countsTo: { a: 60, b: 50 },
    },
    {
      meaning: 'stop.mode',
      a: { code: '24R', reading: 0 },
      b: { code: '24R', reading: { unreadable: 'refused' } },
      difference: { kind: 'unreadable' },
      countsTo: null,
    },
    {
      meaning: 'loop.gain',
      a: { code: '07L', reading: 100 },
      b: { code: '08L', reading: 100 },
      difference: { kind: 'counts-otherwise' },
      countsTo: null,
    },
    {
      meaning: 'jog.speed',
      a: { code: '17C', reading: 500 },
      b: null,
      difference: { kind: 'only-a' },
      countsTo: null,
    },
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
  it('differ in words, with the speeds to which each counts', async () => {
    show();
    await screen.findAllByText('Acceleration time');
    expect(line('ramp.up')).toBe(
      '01R Acceleration time12.00 s▲20.00 s01R Acceleration time+8 s; A counts to 60 Hz, B to 50 Hz',
    );
    expect(line('stop.mode')).toContain('? unreadable');
    expect(line('loop.gain')).toContain('counted in another way: compare by hand');
    expect(screen.getByText(/40 mean the same; 2 of A and 0 of B are the maker’s own/)).toBeTruthy();
  });

  it('keep what only one of them has aside, until it is wanted', async () => {
    const { address } = show();
    await screen.findAllByText('Acceleration time');
    expect(line('jog.speed')).toBeUndefined();
    fireEvent.click(screen.getByLabelText('what only one of them has'));
    await waitFor(() => expect(line('jog.speed')).toContain('not on this model'));
    expect(address()).toContain('alone=yes');
  });

  it('are filtered by code and name of either', async () => {
    show();
    await screen.findAllByText('Acceleration time');
    fireEvent.change(screen.getByLabelText('Filter rows'), { target: { value: '08l' } });
    await waitFor(() => expect(document.querySelectorAll('[data-meaning]')).toHaveLength(1));
    expect(line('loop.gain')).toBeTruthy();
  });

  it('are chosen by a tag that was typed to its end', async () => {
    const { address } = show('/two');
    expect(await screen.findByText(/Choose two drives/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText('A'), { target: { value: 'c-1' } });
    await waitFor(() => expect(address()).toBe('/two?a=C-1'));
  });
});
