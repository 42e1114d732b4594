import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { readModel, type Dictionary } from '@drive-keep/core/dictionary';
import { fireEvent, screen, within } from '@testing-library/react';
import { showScreen } from '../testing/screen.tsx';
import { ModelPage } from './model-page.tsx';

const FOLDER = join(import.meta.dirname, '../../../../packages/catalogue/models');

function shipped(name: string): Dictionary {
  const file = (each: string) => readFileSync(join(FOLDER, name, each), 'utf8');
  const read = readModel({
    model: file('model.yaml'),
    parameters: file('parameters.csv'),
    terminals: file('terminals.yaml'),
  });
  if (!read.ok) throw new Error(name);
  return read.value;
}

const c7 = shipped('toreka-c7');

const show = (query: string, dictionary: Dictionary = c7) =>
  showScreen(`/models/${dictionary.id}${query}`, '/models/:id', <ModelPage />, {
    [`GET dictionaries/${dictionary.id}`]: dictionary,
  });

const rowWith = async (text: string) => {
  const cell = await screen.findByText(text, { selector: 'td *' });
  return within(cell.closest('tr') as HTMLElement);
};

describe('the terminals of a model', () => {
  it('are told with both numberings, what they do as delivered, what sets them, and who owns them', async () => {
    show('?part=terminals');
    const row = await rowWith('23');
    const cells = row.getAllByRole('cell').map((cell) => cell.textContent);
    expect(cells).toEqual([
      '23 Input 3',
      'digital input',
      '24 V, 5 mA',
      'preset bit 0',
      'IA3',
      'IA7 bit 2',
      'IA8',
      'X2',
      'drive, or program by UA2 bit 2',
    ]);
  });

  it('lead to the parameter that sets them', async () => {
    show('?part=terminals');
    const link = (await rowWith('23')).getByRole('link', { name: 'IA3' });
    expect(link.getAttribute('href')).toBe(`/models/${c7.id}?find=IA3`);
  });

  it('say which links stay, how contacts are fed, and which switch must agree with which parameter', async () => {
    show('?part=terminals');
    const item = (text: string) => screen.getByText(text).closest('li')?.textContent ?? '';
    await screen.findByText('All terminals');
    expect(item('28 – 30')).toContain('(as delivered): Without a safety circuit the link stays');
    expect(item('Sourcing, internal 24 V')).toContain('(as delivered)');
    expect(item('S1')).toContain('Must agree with IB1');
  });

  it('have no column for a user program where the model has none', async () => {
    show('?part=terminals', shipped('halvern-hn64'));
    await screen.findByText('All terminals');
    expect(screen.queryByText('In the user program')).toBeNull();
  });
});

describe('the parameters of a model', () => {
  it('follow rating and region', async () => {
    const hn64 = shipped('halvern-hn64');
    show('?find=03M', hn64);
    expect(await screen.findByText('default 1.90 A')).toBeTruthy();
    fireEvent.change(screen.getByLabelText('Rating'), { target: { value: 'HN64-75' } });
    expect(await screen.findByText('default 15.30 A')).toBeTruthy();
    expect(screen.getByText('0.20 A to 45.00 A')).toBeTruthy();
  });

  it('are found by option, name or word, and sorted by menu or by purpose', async () => {
    show('?find=belt');
    expect(await screen.findByText('Underload')).toBeTruthy();
    expect(screen.getByText(/ shown$/).textContent).toBe('1 shown');
    show('?by=purpose');
    const heads = (await screen.findAllByRole('heading', { level: 2 })).map((each) => each.textContent);
    expect(heads[0]).toMatch(/^Motor \d+$/);
    expect(heads.at(-1)).toMatch(/^Monitors and counters \d+$/);
  });

  it('warn where a write puts others back, and name them', async () => {
    show('?find=MC1');
    const warning = await screen.findByText(/A change of the control method puts/);
    expect(warning.textContent).toContain('Puts back to default: MC4, MC5');
  });

  it('say so when nothing fits', async () => {
    show('?find=warpdrive');
    expect(await screen.findByText('No parameter of C7 has that in it.')).toBeTruthy();
  });
});

describe('how a model works', () => {
  it('is told with its conventions, procedures and what a reset leaves', async () => {
    show('?part=ways');
    expect(await screen.findByText('percent of base frequency')).toBeTruthy();
    const reset = screen.getByRole('heading', { name: 'Reset' }).closest('section');
    expect(reset?.textContent).toContain('Write 1907; the display counts down (XA4 to 1907) Takes 3 s.');
    expect(reset?.textContent).toContain('Stays as it is: NA1, XA1');
  });

  it('comes with ratings and what heat and carrier take from them', async () => {
    show('?part=ratings');
    const row = await rowWith('C7-75').catch(async () =>
      within((await screen.findByText('C7-75')).closest('tr') as HTMLElement),
    );
    expect(row.getAllByRole('cell').map((cell) => cell.textContent)).toEqual([
      'C7-75',
      '7.5 kW, 17.5 A',
      '17.50',
      '22.00',
      '3',
      '150 × 300 × 208',
      '100',
      '32',
      '22',
      '10',
      'built in',
      '245',
    ]);
    expect(screen.getByText('Current left by carrier frequency')).toBeTruthy();
  });
});
