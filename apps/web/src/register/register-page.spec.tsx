import { beforeEach, describe, expect, it } from '@jest/globals';
import type { PositionView, RegisterOutline, RegisterPage as Part, Role } from '@drive-keep/api';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { RegisterPage } from './register-page.tsx';
import { useSelection } from './selection.ts';

const NOW = new Date().toISOString();

const position = (tag: string, change: Partial<PositionView> = {}): PositionView => ({
  ...{ tag, area: 'Kiln', machine: 'Rollers', duty: `Duty of ${tag}`, criticality: 'high', motor: '' },
  ...{
    retiredAt: null,
    motorId: null,
    drift: 0,
    tolerated: 0,
    damaged: false,
    newestBackup: NOW,
    newestIsOfUnit: true,
    findings: { stop: 0, look: 0 },
  },
  unit: {
    ...{ maker: 'Halvern', model: 'HN64', dictionary: 'h@1', rating: 'HN64-15', ratingName: '1.5 kW' },
    ...{ region: '50-hz', regionName: '50 Hz', serial: 1, firmware: '2.07' },
    line: { name: 'gateway-1', address: 1 },
  },
  baselineRevision: 1,
  lastTry: { outcome: 'kept', at: NOW, text: '', foundSerial: null },
  state: { kind: 'as-signed', attention: 'plain', text: 'As signed', short: 'As signed' },
  ...change,
});

const BY_HAND = position('A-4', { machine: 'Fan' });
const POSITIONS = [
  position('A-1'),
  position('A-2', {
    drift: 3,
    state: { kind: 'drift', attention: 'look', text: '3 differences', short: '3 differences' },
  }),
  position('A-3', {
    lastTry: { outcome: 'no-answer', at: NOW, text: 'silent', foundSerial: null },
    state: { kind: 'silent', attention: 'stop', text: 'Does not answer', short: 'No answer' },
  }),
  { ...BY_HAND, unit: { ...BY_HAND.unit, line: null } },
];
const PART: Part = {
  ...{ plant: 'P', all: 4, total: 4, onLine: 3, from: 0, positions: POSITIONS, withFindings: 0 },
  counts: { drift: 1, silent: 1, 'as-signed': 2 },
};
const OUTLINE: RegisterOutline = {
  areas: [{ name: 'Kiln', machines: [{ name: 'Rollers', positions: 3 }] }],
  models: [{ model: 'halvern-hn64', name: 'Halvern HN64', positions: 4 }],
  retired: 0,
};

const show = (address = '/', role: Role = 'technician', part = PART) =>
  showScreen(address, '/', <RegisterPage />, {
    'GET register': part,
    'GET register/outline': OUTLINE,
    'GET session': signedIn(role),
    'POST backups': { job: { id: 'job-1' }, joined: false },
  });

beforeEach(() => useSelection.getState().set([]));
const tile = async (tag: string) => (await screen.findByText(tag)).closest('[data-position]') as HTMLElement;

describe('the register', () => {
  it('shows each position with its state in words and shape, under its machine', async () => {
    show();
    expect((await tile('A-2')).textContent).toContain('◆3 differences');
    expect((await tile('A-3')).textContent).toContain('!No answer');
    expect((await tile('A-1')).textContent).toContain('✓As signed');
    expect(screen.getAllByText('Rollers')).toHaveLength(1);
    expect(screen.getByText('Fan')).toBeTruthy();
  });

  it('backs up all that have a line, and says who is left out', async () => {
    const { sent } = show();
    expect(await screen.findByText('without 1 keypad-only')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Back up all 3' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toEqual({ positions: ['A-1', 'A-2', 'A-3'], reason: 'Routine backup' });
  });

  it('backs up the chosen ones alone', async () => {
    const { sent } = show();
    fireEvent.click(await screen.findByLabelText('Choose A-2'));
    fireEvent.change(screen.getByLabelText('Reason'), { target: { value: 'Belt change' } });
    fireEvent.click(screen.getByRole('button', { name: 'Back up 1 chosen' }));
    await waitFor(() => expect(sent[0]?.body).toEqual({ positions: ['A-2'], reason: 'Belt change' }));
  });

  it('keeps state, filters and order in the address', async () => {
    const { address } = show();
    fireEvent.click(await screen.findByRole('button', { name: '1 with differences' }));
    await waitFor(() => expect(address()).toBe('/?state=drift'));
    fireEvent.change(screen.getByLabelText('Area'), { target: { value: 'Kiln' } });
    fireEvent.click(screen.getByRole('button', { name: 'Table' }));
    await waitFor(() => expect(address()).toBe('/?state=drift&area=Kiln&as=table'));
    fireEvent.click(screen.getByRole('button', { name: 'State' }));
    await waitFor(() => expect(address()).toContain('sort=state'));
    fireEvent.click(screen.getByRole('button', { name: /State/ }));
    await waitFor(() => expect(address()).toContain('backwards=yes'));
  });

  it('flags open findings, those to be mended by another shape, and shows them alone at a press', async () => {
    const flagged = [
      position('A-1', { findings: { stop: 1, look: 1 } }),
      position('A-2', { findings: { stop: 0, look: 3 } }),
      position('A-3', { findings: null }),
    ];
    const { address } = show('/', 'viewer', {
      ...PART,
      all: 3,
      total: 3,
      positions: flagged,
      withFindings: 2,
    });
    expect((await screen.findByTitle('The checks: 1 to mend, 1 to look at')).textContent).toBe(
      '⚑Findings: 2',
    );
    expect(screen.getByTitle('The checks: 3 to look at').textContent).toBe('⚐Findings: 3');
    expect(screen.getAllByTitle(/^The checks/)).toHaveLength(2);
    fireEvent.click(screen.getByRole('button', { name: '2 with findings' }));
    expect(address()).toBe('/?findings=open');
  });

  it('as a table says the same, one row a position', async () => {
    show('/?as=table');
    const rows = await screen.findAllByRole('row');
    expect(rows).toHaveLength(1 + POSITIONS.length);
    const second = rows.find((row) => row.dataset['position'] === 'A-2');
    expect(
      within(second as HTMLElement)
        .getAllByRole('cell')
        .map((cell) => cell.textContent),
    ).toEqual([
      ...['', 'A-2', 'Duty of A-2', 'Kiln, Rollers', 'HN64 HN64-15', 'high', '◆ 3 differences', 'just now'],
    ]);
  });

  it('lets a viewer look and not choose', async () => {
    show('/', 'viewer');
    await tile('A-1');
    expect(screen.queryByRole('checkbox')).toBeNull();
    expect(screen.queryByRole('button', { name: /Back up/ })).toBeNull();
  });

  it('says how the first positions come, and how to get all back', async () => {
    show('/', 'engineer', { ...PART, all: 0, total: 0, onLine: 0, positions: [], counts: {} });
    expect(await screen.findByText(/No positions yet/)).toBeTruthy();
    const { address } = show('/?find=nothing', 'engineer', { ...PART, total: 0, positions: [], counts: {} });
    fireEvent.click(await screen.findByRole('button', { name: 'Show all 4' }));
    await waitFor(() => expect(address()).toBe('/'));
  });
});
