import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import type { DryRunView } from '@drive-keep/api';
import type { Event } from '@drive-keep/core/behaviour';
import { readVocabulary } from '@drive-keep/core/meanings';
import { defaultSet } from '@drive-keep/core/sets';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import fc from 'fast-check';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { showScreen, signedIn, type Answers } from '../testing/screen.tsx';
import { DryRunPage } from './dry-run-page.tsx';
import { fromAddress, toAddress } from './events-in-address.ts';

const dictionary = shippedDictionary();
const vocabulary = readVocabulary(
  readFileSync(join(import.meta.dirname, '../../../../packages/catalogue/meanings.yaml'), 'utf8'),
);
const outfit = { rating: 'HN64-15', region: '50-hz' };
const TAG = 'A-1';
const link = (a: string, b: string) => ['link', '', '', a, b, 'drive', ''];
const wire = (name: string, from: string, to: string) => ['wire', name, '', from, to, '', ''];
const WIRING = [
  ['contact', 'S1', '', '', '', 'contacts 13-14 closes', 'run'],
  ['contact', 'S5', '', '', '', 'contacts 13-14 closes; momentary', 'jog button'],
  [
    'selector',
    'S2',
    '',
    '',
    '',
    'contacts 13-14 closes, 23-24 closes; places 0: / 1: 13-14 / 2: 23-24; between open',
    'speed',
  ],
  ['potentiometer', 'R1', '', '', '', '4700 Ω', 'set-point'],
  ...[wire('1', '23', 'S1:14'), wire('2', 'S1:13', '20'), wire('3', '27', 'S5:14'), wire('4', 'S5:13', '20')],
  ...[wire('5', '25', 'S2:14'), wire('6', 'S2:13', '20'), wire('7', '26', 'S2:24'), wire('8', 'S2:23', '20')],
  ...[wire('9', '40', 'R1:1'), wire('10', '41', 'R1:2'), wire('11', 'R1:3', '42')],
  ...[link('30', '31'), link('32', '33'), link('21', '22')],
];
const VALUES: Readonly<Record<string, number>> = { '05C': 1, '07C': 0, '05T': 12, '06T': 0, '07T': 0 };

function show(values = VALUES, wiring: DryRunView['wiring'] = WIRING, query = '', more: Answers = {}) {
  const set = defaultSet(dictionary, outfit);
  const readings = new Map([...(set?.readings ?? []), ...Object.entries(values)] as [string, number][]);
  const view: DryRunView = {
    ...{
      tag: TAG,
      duty: 'Belt',
      title: 'Backup by T. Pellow',
      at: '2026-11-20T09:15:00',
      reference: 'newest',
      ...outfit,
    },
    ...{
      dictionary: dictionary.id,
      readings: [...readings],
      wiring,
      wiringRevision: wiring.length > 0 ? 1 : 0,
    },
  };
  const { entries, functions } = vocabulary;
  return showScreen(`/positions/${TAG}/dry-run${query}`, '/positions/:tag/dry-run', <DryRunPage />, {
    [`GET positions/${TAG}/dry-run`]: view,
    [`GET positions/${TAG}/history`]: { baselines: [], backups: [], wirings: [] },
    [`GET positions/${TAG}/decisions`]: { open: [], inForce: [], draft: null },
    [`GET dictionaries/${dictionary.id}`]: dictionary,
    'GET meanings': { entries, functions },
    'GET session': signedIn('viewer'),
    ...more,
  });
}
const answer = async () =>
  (await screen.findByRole('region', { name: 'What the drive does' })).querySelector('p')?.textContent;
const worked = (name: string) => {
  const device = screen.getByText(name).closest('li');
  if (!device) throw new Error(`no ${name}`);
  return within(device);
};

/** Server-sent events that never come. */
class QuietStream {
  addEventListener(): void {}
  close(): void {}
}

describe('a dry run', () => {
  it('answers what is done with the devices of the machine, and why', async () => {
    const { address } = show();
    expect(await answer()).toBe('Stopped');
    fireEvent.click(worked('S1').getByRole('button'));
    await waitFor(async () => expect(await answer()).toBe('Runs forward at 0.0 Hz'));
    fireEvent.change(screen.getByLabelText('R1, value'), { target: { value: '50' } });
    await waitFor(async () => expect(await answer()).toBe('Runs forward at 25.0 Hz'));
    fireEvent.click(worked('S2').getByRole('button', { name: '2' }));
    await waitFor(async () => expect(await answer()).toBe('Runs forward at 10.0 Hz'));
    expect(screen.getByText(/S2 \(speed\) → terminal 26 closed → preset contact 2/)).toBeTruthy();
    expect(screen.getByRole('link', { name: '11C' }).getAttribute('href')).toBe(
      `/positions/${TAG}/parameters/11C`,
    );
    expect(fromAddress(new URLSearchParams(address().split('?')[1]).get('do') ?? '')).toHaveLength(4);
  });

  it('tells what is asked for and ignored', async () => {
    show({ ...VALUES, '01C': 0 });
    await answer();
    fireEvent.pointerDown(screen.getByLabelText('S5, hold'));
    expect(
      await screen.findByText(/Terminal 27 asks for jog; ignored: commands come from elsewhere/),
    ).toBeTruthy();
  });

  it('takes a press and a release that come before the screen has drawn the press', async () => {
    show();
    await answer();
    const button = screen.getByLabelText('S5, hold');
    fireEvent.pointerDown(button);
    fireEvent.pointerUp(button);
    await waitFor(() => expect(screen.getByText(/S5 \(jog button\) let go/)).toBeTruthy());
    expect(screen.getByText(/S5 \(jog button\) pressed/)).toBeTruthy();
    expect(await answer()).toBe('Stopped');
  });

  it('is what its address says, and goes back step by step', async () => {
    const done: readonly Event[] = [
      { kind: 'supply', on: true },
      { kind: 'device', name: 'S1', to: 1 },
      { kind: 'break', what: 'link 0' },
    ];
    show(VALUES, WIRING, `?do=${encodeURIComponent(toAddress(done))}`);
    expect(await answer()).toBe('Safe torque off');
    fireEvent.click(screen.getByRole('button', { name: 'Take the last one back' }));
    await waitFor(async () => expect(await answer()).toBe('Runs forward at 0.0 Hz'));
  });

  it('says when its set was read, and reads the unit as it is now', async () => {
    Object.assign(globalThis, { EventSource: QuietStream });
    const item = { tag: TAG, duty: 'Belt', state: 'ended', done: 9, total: 9, backupId: null };
    const ended = { ...item, outcome: 'no-answer', text: 'It does not answer. Look at its supply.' };
    const answers = {
      'GET session': signedIn('technician'),
      [`GET positions/${TAG}`]: { unit: { line: { name: 'L1', address: 4 } }, retiredAt: null },
      'POST backups': { job: { id: 'j1' }, joined: false },
      'GET jobs/j1': { id: 'j1', state: 'done', items: [ended] },
    };
    const { sent, address } = show(VALUES, WIRING, '?set=baseline:1', answers);
    expect(await screen.findByText(/^Backup by T\. Pellow, 20 Nov 2026 09:15 \(/)).toBeTruthy();
    fireEvent.click(await screen.findByRole('button', { name: 'Back up now' }));
    expect(await screen.findByText(/^It does not answer\. Look at its supply\./)).toBeTruthy();
    expect(sent).toMatchObject([{ path: 'backups', body: { positions: [TAG] } }]);
    expect(address()).toContain('set=newest');
    show();
    await answer();
    expect(screen.queryByRole('button', { name: 'Back up now' })).toBeNull();
  });

  it('has a table of what each place does', async () => {
    show();
    const row = (await screen.findAllByRole('row')).map(({ textContent }) => textContent);
    expect(row).toContain('workedat 1Runs forward at 5.0 Hz');
    expect(row).toContain('as it restsat 1Stopped');
  });

  it('says that there is no wiring, and what its set does not tell', async () => {
    show({ ...VALUES, '01C': 99 }, []);
    expect(await screen.findByText(/No wiring was kept yet/)).toBeTruthy();
    expect(await answer()).toBe('Cannot be told');
  });
});

describe('events in an address', () => {
  const event: fc.Arbitrary<Event> = fc.oneof(
    fc.record({
      kind: fc.constant('device' as const),
      name: fc.string({ minLength: 1 }),
      to: fc.constantFrom(0, 1, 2, 0.25, -1),
    }),
    fc.record({ kind: fc.constant('supply' as const), on: fc.boolean() }),
    fc.constant({ kind: 'settle' as const }),
    fc.record({
      kind: fc.constant('key' as const),
      key: fc.constantFrom('run', 'stop', 'reset', 'hand', 'automatic'),
    }),
    fc.record({ kind: fc.constantFrom('break', 'mend'), what: fc.constantFrom('wire 3', 'link 12') }),
  );

  it('come back as they were, whatever the devices are called', () => {
    fc.assert(
      fc.property(fc.array(event, { maxLength: 30 }), (events) => {
        const search = new URLSearchParams({ do: toAddress(events) }).toString();
        expect(fromAddress(new URLSearchParams(search).get('do') ?? '')).toEqual(events);
      }),
      { seed: 640_712 },
    );
  });

  it('leave out what nobody understands', () => {
    expect(fromAddress('on.what.at~.key~dance.at~S1~x.break~all.%zz~%zz.fault~')).toEqual([
      { kind: 'supply', on: true },
    ]);
  });
});
