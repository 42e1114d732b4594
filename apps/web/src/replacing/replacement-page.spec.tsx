import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from '@jest/globals';
import type { NewSaying, ReplacementView, SayingView } from '@drive-keep/api';
import { readVocabulary } from '@drive-keep/core/meanings';
import { defaultSet } from '@drive-keep/core/sets';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { queryClient } from '../api/queries.ts';
import { shippedDictionary, shippedReference } from '../testing/shipped-dictionary.ts';
import { linesNamed, showScreen, signedIn } from '../testing/screen.tsx';
import { ReplacementPage } from './replacement-page.tsx';
import { WireSheetPage } from './wire-sheet-page.tsx';
import { useWireSheets } from './wire-sheet-store.ts';

const { entries, functions } = readVocabulary(
  readFileSync(join(import.meta.dirname, '../../../../packages/catalogue/meanings.yaml'), 'utf8'),
);
const [c1, c7] = [shippedDictionary('toreka-c1'), shippedDictionary('toreka-c7')];
const outfit = { rating: 'C1-10', region: '50-hz' };
const wire = (name: string, from: string, to: string) => ['wire', name, '', from, to, '', ''];
const word = (
  part: SayingView['part'],
  line: string,
  value: SayingView['value'],
  more: Partial<SayingView> = {},
): SayingView => ({
  ...{ id: '7', part, line, value, by: 'R. Ashgrove', other: null },
  ...{ at: '2026-11-26T08:00:00Z', toldAt: '2026-11-26T08:00:00Z', ...more },
});
const accepted = (reason: string) => ({ kind: 'accepted' as const, reason });

const VIEW: ReplacementView = {
  ...{ id: 'r1', tag: 'A-1', duty: 'Belt', state: 'open', version: 3, why: 'worn out', ended: null },
  ...{ startedBy: 'P', startedAt: '2026-11-25T08:00:00Z', oldDictionary: c1.id, ambient: null },
  old: { dictionary: c1.id, model: 'Toreka C1', ...outfit, serial: 1234, firmware: '1.00', line: null },
  source: { reference: 'backup:b1', title: 'Backup by Nightly round', at: '2026-11-24T02:00:00Z' },
  readings: [
    ...new Map([...(defaultSet(c1, outfit)?.readings ?? []), ['SA', 1], ['SB', 1]] as [string, number][]),
  ],
  wiring: [
    ['contact', 'S1', '', '', '', 'contacts 13-14 closes', 'run'],
    ['potentiometer', 'R1', '', '', '', '5000 Ω', 'speed'],
    ...[wire('1', 'R1', 'S1:14'), wire('2', 'P', 'S1:13')],
    ...[wire('3', 'P', 'R1:1'), wire('4', 'VI', 'R1:2'), wire('5', 'CM', 'R1:3')],
  ],
  wiringRevision: 1,
  fresh: { dictionary: c7.id, region: '50-hz', rating: null },
  cross: { revision: 0, text: shippedReference('toreka-c1', 'toreka-c7'), newest: 0 },
  ...{ sayings: [], earlier: [] },
  doing: {
    ...{
      swap: null,
      asFound: null,
      plan: null,
      sheet: null,
      planOutdated: false,
      readBack: null,
      draft: null,
    },
  },
};

const show = (
  told: Partial<ReplacementView> = {},
  { role = 'technician', wires = false, more = {} } = {},
) => {
  const view = { ...VIEW, ...told };
  const [address, route, page] = wires
    ? ['/replacements/r1/wires', '/replacements/:id/wires', <WireSheetPage key="wires" />]
    : ['/replacements/r1', '/replacements/:id', <ReplacementPage key="sheet" />];
  return showScreen(address, route, page, {
    'GET session': signedIn(role),
    'GET replacements/r1': view,
    'PUT replacements/r1/sayings': view,
    [`GET dictionaries/${c1.id}`]: c1,
    [`GET dictionaries/${c7.id}`]: c7,
    'GET dictionaries': [c7],
    'GET meanings': { entries, functions },
    'GET lines': linesNamed('line-1'),
    'GET positions/A-1/history': {
      newest: 'x',
      lastThatDiffered: null,
      backups: [],
      baselines: [],
      wirings: [],
    },
    ...more,
  });
};
const sayings = (sent: readonly { body: unknown }[]) =>
  sent.flatMap(({ body }) => (body as { sayings?: NewSaying[] }).sayings ?? []);

beforeEach(() => {
  queryClient.clear();
  useWireSheets.setState({ byId: {} });
});

describe('the sheet of a replacement', () => {
  it('says what is open, keeps an answer with the word that it answers, and says by whom it was kept', async () => {
    const caution = 'caution contactor';
    const { sent } = show({ sayings: [word('point', caution, accepted('none there'))] });
    expect(await screen.findByText(/things are open/)).toBeTruthy();
    const field = await screen.findByLabelText<HTMLInputElement>(/What was found: Is there a contactor/);
    expect(field.value).toBe('none there');
    expect(field.closest('li')?.textContent).toContain('R. Ashgrove');
    fireEvent.change(field, { target: { value: 'one behind it' } });
    fireEvent.blur(field);
    await waitFor(() =>
      expect(sayings(sent)).toMatchObject([
        { part: 'point', line: caution, value: accepted('one behind it'), seen: '7' },
      ]),
    );
    // A reason that is deleted is taken back; one too short says nothing.
    fireEvent.change(field, { target: { value: 'no' } });
    fireEvent.blur(field);
    await waitFor(() => expect(sayings(sent).at(-1)).toMatchObject({ line: caution, value: null }));
  });

  it('answers a question of the cross-reference, and offers what was answered elsewhere', async () => {
    const earlier = [
      {
        part: 'setting' as const,
        line: 'new CA6',
        value: { kind: 'choice' as const, at: 0 },
        tag: 'B-2',
        by: 'T. Pellow',
        at: '2026-05-01T08:00:00Z',
      },
    ];
    const { sent } = show({ earlier });
    await screen.findByText(/things are open/);
    const row = document.querySelector<HTMLElement>('[data-line="new CA6"]');
    if (!row) throw new Error('no line');
    expect(row.textContent).toContain('B-2, T. Pellow: “It waits after both');
    fireEvent.click(await within(row).findByRole('button', { name: 'The same here' }));
    await waitFor(() =>
      expect(sayings(sent)).toMatchObject([
        { part: 'setting', line: 'new CA6', value: { kind: 'choice', at: 0 }, seen: null },
      ]),
    );
  });

  it('takes a value of one’s own only with a reason, and none that the successor cannot hold', async () => {
    const { sent } = show();
    await screen.findByText(/things are open/);
    fireEvent.click(screen.getByText('Carried as it is'));
    fireEvent.click(await screen.findByRole('button', { name: 'Own value for AC' }));
    const form = screen.getByLabelText('Setting of the successor').closest('form');
    if (!form) throw new Error('no form');
    const of = within(form);
    fireEvent.change(of.getByLabelText('Value'), { target: { value: '12,3x' } });
    expect(of.getByText(/cannot hold/)).toBeTruthy();
    fireEvent.change(of.getByLabelText('Value'), { target: { value: '12.5' } });
    expect(of.getByRole<HTMLButtonElement>('button', { name: 'Keep' }).disabled).toBe(true);
    fireEvent.change(of.getByLabelText('Why'), { target: { value: 'as the machine wants it' } });
    fireEvent.click(of.getByRole('button', { name: 'Keep' }));
    await waitFor(() =>
      expect(sayings(sent)).toMatchObject([
        { part: 'setting', value: { kind: 'own', reason: 'as the machine wants it' } },
      ]),
    );
  });

  it('moves a wire by keyboard, and what it does goes with it', async () => {
    const { sent } = show();
    await screen.findByText(/things are open/);
    fireEvent.click(screen.getByText('Every end'));
    fireEvent.change(await screen.findByLabelText('New terminal for R1, wire 1'), {
      target: { value: '24' },
    });
    await waitFor(() =>
      expect(sayings(sent)).toMatchObject([
        { part: 'terminal', line: 'R1', value: { kind: 'to', terminal: '24' } },
      ]),
    );
  });

  it('lets nobody put a unit in while the wires are not decided, and a viewer say nothing', async () => {
    show({}, { role: 'viewer' });
    await screen.findByText(/things are open/);
    expect(screen.getByText(/First decide what is open about the wires/)).toBeTruthy();
    expect(screen.queryAllByRole('button', { name: /Own value|Close|Give/ })).toEqual([]);
    expect(screen.queryByLabelText(/What was found/)).toBeNull();
  });

  it('says that what was refused is not kept', async () => {
    const { sent } = show({}, { more: { 'PUT replacements/r1/sayings': undefined } });
    await screen.findByText(/things are open/);
    const field = await screen.findByLabelText(/What was found: Is there a contactor/);
    fireEvent.change(field, { target: { value: 'none there' } });
    fireEvent.blur(field);
    expect((await screen.findByRole('alert')).textContent).toContain('is not answered');
    expect(sayings(sent).length).toBe(1);
    // It is still there to be said again.
    expect((field as HTMLInputElement).value).toBe('none there');
  });
});

describe('the wire sheet', () => {
  it('has what must be dead first, and ticks each line by name', async () => {
    const { sent } = show({}, { wires: true });
    await screen.findByText('Before a hand goes in');
    const headings = screen.getAllByRole('heading', { level: 2 }).map((each) => each.textContent);
    expect(headings[0]).toMatch(/^Before a hand goes in/);
    expect(screen.getByText(/no hand goes in before it is proved dead/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: /^Switch the supply off and lock it off: done/ }));
    await waitFor(() =>
      expect(sayings(sent)).toMatchObject([
        { part: 'task', line: 'before lock', value: { kind: 'done', note: '' } },
      ]),
    );
  });

  it('counts no tick of a wire that goes to another terminal now', async () => {
    const done = { kind: 'done' as const, note: '' };
    show(
      {
        sayings: [
          word('task', 'on 0 21', done, { id: '8' }),
          word('terminal', 'R1', { kind: 'to', terminal: '24' }, { id: '9' }),
        ],
      },
      { wires: true },
    );
    await screen.findByText('On the new unit');
    const row = document.querySelector('[data-task="on 0 24"]');
    expect(row?.textContent).toContain('to 24');
    expect(row?.querySelector('[aria-pressed="true"]')).toBeNull();
    expect(screen.getByText('0', { selector: 'b' })).toBeTruthy();
  });
});
