import { beforeEach, describe, expect, it } from '@jest/globals';
import type { ExpectedView, PositionDetailView, WatchEvent } from '@drive-keep/api';
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { IdentifyPage } from './identify-page.tsx';
import { LivePage } from './live-page.tsx';

const dictionary = shippedDictionary();
const POSITION = {
  ...{ tag: 'A-1', area: 'Kiln', machine: 'Rollers', duty: 'Roller 1', criticality: 'high', motor: 'M 1' },
  ...{ motorId: null, retiredAt: null, isAxis: false, retiredWhy: '', drift: 0, tolerated: 0 },
  ...{ damaged: false, version: 1, unitVersion: 1, newestBackup: new Date().toISOString() },
  ...{ newestIsOfUnit: true, baselineRevision: 1, lastTry: null, findings: null, formerUnits: [] },
  state: { kind: 'as-signed', attention: 'plain', text: 'As signed', short: 'As signed' },
  unit: {
    ...{ maker: 'Halvern', model: 'HN64', dictionary: dictionary.id, rating: 'HN64-15', ratingName: '' },
    ...{ region: '50-hz', regionName: '', serial: 77, firmware: '2.07' },
    line: { name: 'gateway-2', address: 7 },
  },
} as unknown as PositionDetailView;

/** The one stream of the screen; it tells what a test lets it tell. */
class Stream {
  static last: Stream | undefined;
  closed = false;
  private readonly listeners = new Map<string, (event: { data: string }) => void>();
  constructor(readonly url: string) {
    Stream.last = this;
  }
  addEventListener(name: string, listener: (event: { data: string }) => void): void {
    this.listeners.set(name, listener);
  }
  close(): void {
    this.closed = true;
  }
  tell(event: WatchEvent): void {
    act(() => this.listeners.get('now')?.({ data: JSON.stringify(event) }));
  }
}

const codeOf = (meaning: string): string =>
  dictionary.parameters.find((each) => each.meaning === meaning)?.code ?? meaning;
const sample = (values: Readonly<Record<string, number>>, runs = true): WatchEvent => ({
  ...{ kind: 'sample', at: Date.now(), runs, faulty: false },
  values: Object.fromEntries(Object.entries(values).map(([meaning, raw]) => [codeOf(meaning), raw])),
});
const expected = (change: Partial<ExpectedView>): WatchEvent => ({
  kind: 'expected',
  expected: {
    by: { title: 'Backup by Nightly round', at: null, wiringRevision: 2 },
    ...{ inputs: [], outputs: [], agrees: true },
    outcomes: [{ headline: 'Runs forward at 34.5 Hz', reasons: ['S1 (run) → terminal 23 closed'] }],
    ...change,
  },
});

function show(page = <LivePage />, route = 'now') {
  return showScreen(`/positions/A-1/${route}`, `/positions/:tag/${route}`, page, {
    'GET positions/A-1': POSITION,
    'GET session': signedIn('technician'),
    'GET motors': [],
    'GET positions/A-1/dry-run': { readings: [['21M', 4200]], at: '2026-11-26T02:00:00Z' },
    [`GET dictionaries/${dictionary.id}`]: dictionary,
    'POST positions/A-1/write-plans': { id: 'plan-1' },
  });
}
const stream = async (): Promise<Stream> => {
  await waitFor(() => expect(Stream.last).toBeDefined());
  return Stream.last as Stream;
};

beforeEach(() => {
  Stream.last = undefined;
  Object.assign(globalThis, { EventSource: Stream });
});

describe('the live view', () => {
  it('shows values by what they are, and what it should do beside what it does', async () => {
    show();
    const told = await stream();
    told.tell(sample({ 'monitor.frequency': 3450, 'monitor.current': 247, 'monitor.fault': 0 }));
    told.tell(expected({}));
    expect(screen.getByText('Runs, 34.50 Hz')).toBeTruthy();
    expect(within(screen.getByRole('row', { name: /^Current/ })).getByText('2.47')).toBeTruthy();
    expect(screen.getByText('Runs forward at 34.5 Hz')).toBeTruthy();
    expect(screen.getByText('No fault is active.')).toBeTruthy();
    told.tell(expected({ agrees: false }));
    expect(screen.getByText('That is not what its inputs ask for.')).toBeTruthy();
  });

  it('takes values away when none has come for two seconds, and says why', async () => {
    show();
    const told = await stream();
    told.tell(sample({ 'monitor.frequency': 3450 }));
    told.tell({ kind: 'silent', text: 'A-1 did not answer within 1 s.' });
    expect(screen.getByText('Runs, 34.50 Hz')).toBeTruthy();
    await waitFor(() => expect(screen.getByText(/A-1 did not answer within 1 s\./)).toBeTruthy(), {
      timeout: 4000,
    });
    expect(screen.queryByText('Runs, 34.50 Hz')).toBeNull();
    expect(within(screen.getByRole('row', { name: /^Output frequency/ })).getByText('–')).toBeTruthy();
    expect(screen.getByText('Not known now.')).toBeTruthy();
  });

  it('points at an input that should be on, and names a fault that the model knows and one that it does not', async () => {
    show();
    const told = await stream();
    const known = dictionary.faults.find(({ kind }) => kind === 'earth');
    told.tell(sample({ 'monitor.fault': known?.number ?? 0, 'monitor.faultHistory.1': 98 }, false));
    const input = { number: '3', terminal: '25', devices: ['S0'], rests: true, can: 'both' as const };
    told.tell(
      expected({
        inputs: [{ ...input, seen: false, odd: 'worked', does: 'stop', named: 'S0 (stop button)' }],
      }),
    );
    expect(screen.getByText(/It should be on while nothing is worked: S0 \(stop button\)/)).toBeTruthy();
    expect(screen.getByText(`Fault ${known?.shown}: ${known?.name}`)).toBeTruthy();
    expect(screen.getByText(known?.check[0] ?? '')).toBeTruthy();
    expect(screen.getByText(/do not have this number/)).toBeTruthy();
  });
});

describe('the identification sheet', () => {
  it('asks for it by a plan, waits, and says that what was measured is not used yet', async () => {
    const { sent, address } = show(<IdentifyPage />, 'identify');
    const told = await stream();
    expect(decodeURIComponent(told.url)).toContain('also=19M,20M,21M');
    const values = (start: number, resistance: number) => ({
      ...{
        'identify.start': start,
        'identify.use': 0,
        'motor.statorResistance': resistance,
        'monitor.fault': 0,
      },
    });
    told.tell(sample(values(0, 4200), false));
    expect(screen.getByText('nothing is asked for')).toBeTruthy();
    expect(screen.getByText('not used yet')).toBeTruthy();
    told.tell(sample(values(1, 4200), false));
    expect(screen.getByText('waits for the run command')).toBeTruthy();
    told.tell(sample(values(1, 4200), true));
    expect(screen.getByText('it goes on')).toBeTruthy();
    told.tell(sample(values(0, 4549), false));
    expect(within(screen.getByRole('row', { name: /^21M/ })).getByText('4.549 Ω')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Plan: 20M to identified' }));
    await waitFor(() => expect(address()).toBe('/write-plans/plan-1'));
    expect(sent).toEqual([
      { method: 'POST', path: 'positions/A-1/write-plans', body: { target: 'values:20M=1', codes: ['20M'] } },
    ]);
  });

  it('says nothing of a unit that does not answer', async () => {
    show(<IdentifyPage />, 'identify');
    const told = await stream();
    told.tell({ kind: 'silent', text: 'A-1 did not answer within 1 s.' });
    expect(screen.getByText(/What it holds now is not known/)).toBeTruthy();
    expect(screen.getAllByText('not known').length).toBeGreaterThan(2);
  });
});
