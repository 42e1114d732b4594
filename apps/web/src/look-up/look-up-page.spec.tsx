import { describe, expect, it } from '@jest/globals';
import type { FaultHitView, LookUpView, SameMeaningView } from '@drive-keep/api';
import { findParameter } from '@drive-keep/core/dictionary';
import { fireEvent, screen, within } from '@testing-library/react';
import { showScreen } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { LookUpPage } from './look-up-page.tsx';

const dictionary = shippedDictionary();

function hit(code: string, change: Partial<LookUpView> = {}): LookUpView {
  const parameter = findParameter(dictionary, code);
  if (!parameter) throw new Error(code);
  return {
    dictionary: dictionary.id,
    model: 'Halvern HN64',
    parameter,
    range: '0.00 s to 600.00 s',
    default: '10.00 s',
    present: null,
    presentText: '',
    carrying: [],
    ...change,
  };
}

const SAME: readonly SameMeaningView[] = [
  { countsOtherwise: false, hit: hit('02R', { model: 'Toreka C7' }) },
  { countsOtherwise: true, hit: hit('03R', { model: 'Toreka F3' }) },
];
const REGISTER = { plant: 'P', all: 0, total: 0, onLine: 0, from: 0, counts: {}, positions: [] };

const show = (address: string, hits: readonly LookUpView[], faults: readonly FaultHitView[] = []) =>
  showScreen(address, '/look-up', <LookUpPage />, {
    'GET register': REGISTER,
    'GET look-up': hits,
    'GET look-up/faults': faults,
    'GET look-up/same-meaning': SAME,
  });

describe('the look-up', () => {
  it('shows range, default, options and the description on the spot', async () => {
    show('/look-up?find=stop', [hit('24R', { range: '', default: '0 ramp' })]);
    expect(await screen.findByText('Stop mode')).toBeTruthy();
    expect(screen.getByText('default 0 ramp')).toBeTruthy();
    expect(screen.getByText('1 coast')).toBeTruthy();
  });

  it('marks the options that are what was asked for', async () => {
    show('/look-up?find=coast', [hit('24R', { range: '', carrying: [1] })]);
    expect((await screen.findByText('1 coast')).tagName).toBe('MARK');
    expect(screen.getByText('0 ramp').tagName).toBe('SPAN');
  });

  it('marks the option that a position holds now, and says its value', async () => {
    show('/look-up?find=stop&position=KL1-RD-07', [
      hit('24R', { range: '', present: 1, presentText: '1 coast' }),
    ]);
    expect(await screen.findByText('now 1 coast')).toBeTruthy();
    const option = screen.getAllByText('1 coast').find((each) => each.className.includes('font-semibold'));
    expect(option).toBeTruthy();
  });

  it('opens what the other models call it, and keeps apart what counts another way', async () => {
    show('/look-up?find=01R', [hit('01R')]);
    fireEvent.click(await screen.findByRole('button', { name: '01R' }));
    expect(await screen.findByText('Toreka C7')).toBeTruthy();
    const note = screen.getByText(/counted another way/);
    expect(note.compareDocumentPosition(screen.getByText('Toreka F3'))).toBe(
      Node.DOCUMENT_POSITION_FOLLOWING,
    );
    expect(note.compareDocumentPosition(screen.getByText('Toreka C7'))).toBe(
      Node.DOCUMENT_POSITION_PRECEDING,
    );
  });

  it('coming from a model shows that model first and open', async () => {
    const other = { ...hit('01R', { model: 'Other' }), dictionary: 'other@1' };
    show(`/look-up?find=01R&in=${dictionary.id}`, [other, hit('01R')]);
    const [first] = await screen.findAllByRole('listitem');
    expect(first && within(first).getByText('Halvern HN64')).toBeTruthy();
    expect(first && (await within(first).findByText('Toreka C7'))).toBeTruthy();
  });

  it('shows a fault with what it means, and opens its causes and what to check', async () => {
    const fault = dictionary.faults.find(({ kind }) => kind === 'overvoltage');
    if (!fault) throw new Error('no overvoltage');
    const facts = { dictionary: dictionary.id, model: 'Halvern HN64', fault };
    show('/look-up?find=fault+2', [], [{ ...facts, parameters: [{ code: '02R', name: 'Ramp down' }] }]);
    expect(await screen.findByText(fault.meaning)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: fault.shown }));
    for (const text of [...fault.causes, ...fault.check]) expect(screen.getByText(text)).toBeTruthy();
    expect(screen.getByRole('link', { name: '02R Ramp down' }).getAttribute('href')).toContain('find=02R');
    expect(screen.queryByText(/No model has/)).toBeNull();
  });

  it('says what to type, and that nothing has it in it', async () => {
    show('/look-up', []);
    expect(await screen.findByText(/Type a code as the keypad shows it/)).toBeTruthy();
    show('/look-up?find=zz', []);
    expect(await screen.findByText('No model has “zz” in it.')).toBeTruthy();
  });
});
