import { beforeEach, describe, expect, it } from '@jest/globals';
import type { KeyInSheetView, PositionDetailView } from '@drive-keep/api';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { KeyInPage } from './key-in-page.tsx';
import { useKeyInStore } from './key-in-store.ts';

const dictionary = shippedDictionary();
const POSITION = {
  ...{ tag: 'A-1', duty: 'Belt' },
  unit: { dictionary: dictionary.id, rating: 'HN64-15', region: '50-hz', serial: 77 },
} as unknown as PositionDetailView;
const line = (place: number, code: string, from: number | null, to: number) => ({
  ...{ place, code, from, to, kind: from === to ? ('check' as const) : ('change' as const) },
  ...{ reason: { kind: 'asked' as const }, stopped: code === '13R', way: 3, edit: 4 },
});
const SHEET: KeyInSheetView = {
  ...{ id: 'sheet-1', tag: 'A-1', duty: 'Belt', dictionary: dictionary.id, model: 'Halvern HN64' },
  ...{ rating: 'HN64-15', serial: 77, target: 'Baseline', madeBy: 'P', madeAt: '2026-11-25T08:00:00Z' },
  ...{ state: 'open', finishedBy: null, finishedAt: null, presses: 28, plainPresses: 35, marks: [] },
  first: ['Hold the stop key for five seconds'],
  afterwards: ['Press enter for long'],
  lines: [
    line(0, '13R', 5000, 6000),
    line(1, '01R', null, 800),
    line(2, '10U', 3, 1),
    line(3, '02R', 1000, 1000),
  ],
  unreachable: [{ code: '77X', text: '77X is not a parameter of HN64.' }],
};

const show = (sheet: Partial<KeyInSheetView> = {}, role = 'technician') => {
  const told = { ...SHEET, ...sheet };
  return showScreen('/key-in/sheet-1', '/key-in/:id', <KeyInPage />, {
    'GET session': signedIn(role),
    'GET key-in-sheets/sheet-1': told,
    'GET positions/A-1': POSITION,
    [`GET dictionaries/${dictionary.id}`]: dictionary,
    'PUT key-in-sheets/sheet-1/marks': told,
    'POST key-in-sheets/sheet-1/finish': {
      ...told,
      state: 'finished',
      finishedBy: 'P',
      finishedAt: '2026-11-25T09:00:00Z',
    },
  });
};
const at = (code: string): HTMLElement => {
  const found = document.querySelector<HTMLElement>(`[data-code="${code}"]`);
  if (!found) throw new Error(code);
  return found;
};

beforeEach(() => {
  useKeyInStore.setState({ byId: {} });
});

describe('a key-in sheet', () => {
  it('tells its keys, what each line holds and gets, and how far it is', async () => {
    show();
    expect(await screen.findByText('28')).toBeTruthy();
    expect(screen.getByText(/7 fewer than in the order of the plan/)).toBeTruthy();
    expect(at('13R').textContent).toContain('50.00 Hz → 60.00 Hz');
    expect(at('13R').textContent).toContain('3 keys to it, 4 to change it · only while it stands');
    expect(at('01R').textContent).toContain('not known → 8.00 s');
    expect(screen.getByText('77X is not a parameter of HN64.')).toBeTruthy();
    const headings = screen.getAllByRole('heading', { level: 2 }).map((each) => each.textContent);
    expect(headings.map((each) => each?.split(' ')[0])).toEqual(['First', 'Change', 'Afterwards', 'Not']);
    expect(screen.getByText('of 3', { exact: false })).toBeTruthy();
  });

  it('shows a bit word as the bits that are turned', async () => {
    show();
    await screen.findByText('28');
    const bits = at('10U').textContent;
    expect(bits).toContain('bit 1 capacitors: off');
    expect(bits).not.toContain('bit 0');
  });

  it('keeps what is only looked at apart from what is changed', async () => {
    show();
    const check = (await screen.findByText('Check only')).closest('details');
    expect(check && within(check).getByText('02R')).toBeTruthy();
    expect(check && within(check).queryByText('13R')).toBeNull();
  });

  it('ticks a line off in one touch, and takes it back in another', async () => {
    const { sent } = show();
    fireEvent.click(await screen.findByRole('button', { name: '13R is keyed in' }));
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({ marks: [{ place: 0, state: 'done', found: null }] }),
    );
    fireEvent.click(screen.getByRole('button', { name: '13R is keyed in' }));
    await waitFor(() => expect(sent.at(-1)?.body).toMatchObject({ marks: [{ place: 0, state: null }] }));
  });

  it('takes the value that was found instead, and none that the drive cannot hold', async () => {
    const { sent } = show();
    fireEvent.click(await screen.findByRole('button', { name: 'Another value was found at 10U' }));
    expect(within(at('10U')).getByText(/before anything is changed/)).toBeTruthy();
    const pad = within(at('10U'));
    fireEvent.click(pad.getByRole('button', { name: /Enter/ }));
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ marks: [{ place: 2, state: 'other-found' }] }));
    expect(at('10U').textContent).toContain('Found');
  });

  it('shows what somebody else said of a line where that is something else, and asks to look', async () => {
    const other = {
      by: 'R. Ashgrove',
      state: 'other-found' as const,
      found: 4500,
      note: '',
      at: SHEET.madeAt,
    };
    const kept = { place: 0, state: 'done' as const, found: null, note: '', at: SHEET.madeAt, by: 'P' };
    show({
      marks: [
        { ...kept, other },
        { ...kept, place: 1, other: null },
      ],
    });
    await screen.findByText('28');
    await waitFor(() =>
      expect(at('13R').textContent).toMatch(/R\. Ashgrove says something else.*found 45\.00 Hz\. *Look/),
    );
    expect(at('01R').textContent).not.toContain('something else');
  });

  it('is finished when it has been sent, and then only shown', async () => {
    show();
    fireEvent.click(await screen.findByRole('button', { name: 'Finish the sheet' }));
    expect(await screen.findByText(/Finished by P/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /is keyed in/ })).toBeNull();
  });

  it('lets a viewer look and mark nothing', async () => {
    show({}, 'viewer');
    await screen.findByText('28');
    expect(screen.queryByRole('button', { name: /keyed in|Finish/ })).toBeNull();
  });
});
