import { describe, expect, it } from '@jest/globals';
import type { CheckFindingView, ChecksView, PositionDetailView, Role } from '@drive-keep/api';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { ChecksPage } from './checks-page.tsx';

const dictionary = shippedDictionary();
const POSITION = {
  ...{ tag: 'A-1', area: 'Kiln', machine: 'Rollers', duty: 'Roller 1', criticality: 'high', motor: 'M 1' },
  ...{ motorId: null, retiredAt: null, isAxis: false, retiredWhy: '', drift: 0, tolerated: 0 },
  ...{ damaged: false, version: 1, unitVersion: 1, newestBackup: new Date().toISOString() },
  ...{
    newestIsOfUnit: true,
    baselineRevision: 1,
    lastTry: null,
    findings: { stop: 1, look: 1 },
    formerUnits: [],
  },
  state: { kind: 'as-signed', attention: 'plain', text: 'As signed', short: 'As signed' },
  unit: {
    ...{ maker: 'Halvern', model: 'HN64', dictionary: dictionary.id, rating: 'HN64-15', ratingName: '' },
    ...{ region: '50-hz', regionName: '', serial: 77, firmware: '2.07' },
    line: { name: 'gateway-2', address: 7 },
  },
} as PositionDetailView;

const finding = (change: Partial<CheckFindingView>): CheckFindingView => ({
  ...{ identity: 'overload-over-plate', signature: 's1', check: 'overload-over-plate', attention: 'stop' },
  ...{ name: 'Overload level against the plate', why: 'It does not protect.', since: null },
  text: 'The overload level is 6.30 A, and the motor bears 3.6 A for ever: 175 %.',
  values: [{ code: '02P', reading: 630 }],
  mends: [[{ code: '02P', raw: 360 }]],
  ...{ accepted: null, lapsed: null },
  ...change,
});
const ACCEPTANCE = {
  id: 'a1',
  reason: 'fenced',
  until: '2027-01-31',
  person: 'R',
  at: '2026-01-01T00:00:00Z',
};
const UNREAD = finding({
  ...{ identity: 'start-at-power-up', signature: 's2', check: 'start-at-power-up', attention: 'look' },
  ...{ name: 'Start at power-up', text: 'S1 at 23 stays closed.', lapsed: ACCEPTANCE },
  values: [{ code: '07C', reading: { unreadable: 'refused' } }],
  mends: [],
});
const VIEW: ChecksView = {
  ...{ tag: 'A-1', dictionary: dictionary.id, reference: 'newest', title: 'As it was last seen' },
  ...{ at: '2026-11-26T02:00:00Z', checkedAt: '2026-11-26T02:01:00Z', looked: 63, against: null },
  findings: [
    finding({}),
    UNREAD,
    finding({ identity: 'restart', text: 'It restarts.', accepted: ACCEPTANCE, mends: [] }),
  ],
  untold: [{ check: 'maximum-over-motor', name: 'Maximum frequency', missing: ['the plate tells no speed'] }],
  with: { motor: true, wiring: 2, supply: false, cabinet: false, peers: 11 },
};

const show = (role: Role, view = VIEW, position = POSITION, address = '/positions/A-1/checks') =>
  showScreen(address, '/positions/:tag/checks', <ChecksPage />, {
    'GET positions/A-1': position,
    'GET positions/A-1/checks': view,
    'GET session': signedIn(role),
    [`GET dictionaries/${dictionary.id}`]: dictionary,
    'POST positions/A-1/write-plans': { id: 'plan-1' },
    'POST positions/A-1/key-in-sheets': { id: 'sheet-1' },
    'POST positions/A-1/accepted-findings': { ...VIEW, findings: [] },
    'DELETE positions/A-1/accepted-findings/a1': VIEW,
  });

describe('the checks of a position on the screen', () => {
  it('say what has to be mended first, what was known, and what could not be told', async () => {
    show('viewer');
    expect(await screen.findByText('1 to mend, 1 to look at')).toBeTruthy();
    expect(
      screen.getByText(/63 checks concern this drive.*1 of them could not be told/).textContent,
    ).toContain('Checked with motor plate, wiring revision 2, 11 peers. Not known: supply, cabinet.');
    expect(screen.getByText('the plate tells no speed')).toBeTruthy();
    // What could not be read is no value, and what lapsed says so.
    expect(screen.getByText('could not be read')).toBeTruthy();
    expect(
      screen.getByText(/Was accepted until 31 Jan 2027 by R \(fenced\), with the values of then/),
    ).toBeTruthy();
    expect(screen.getByText(/Accepted until 31 Jan 2027 by R: fenced/)).toBeTruthy();
    // A viewer looks on.
    expect(screen.queryByRole('button', { name: /^Plan|Accept/ })).toBeNull();
  });

  it('stand under the head line of the position, whose ways lead from here as from everywhere', async () => {
    show('technician');
    await screen.findByText('1 to mend, 1 to look at');
    const ways = screen.getAllByRole('link', { name: /^(Wiring|Dry run|Set values|Record)$/ });
    expect(ways.map((way) => way.getAttribute('href')).sort()).toEqual([
      '/positions/A-1/dry-run',
      '/positions/A-1/record',
      '/positions/A-1/set',
      '/positions/A-1/wiring',
    ]);
  });

  it('plan what would mend it with one click, or make a sheet where the unit has no line', async () => {
    const { sent, address } = show('technician');
    fireEvent.click(await screen.findByRole('button', { name: 'Plan: 02P to 3.60 A' }));
    await waitFor(() => expect(address()).toBe('/write-plans/plan-1'));
    expect(sent).toEqual([
      {
        ...{ method: 'POST', path: 'positions/A-1/write-plans' },
        body: { target: 'values:02P=360', codes: ['02P'] },
      },
    ]);
    const keypad = { ...POSITION, unit: { ...POSITION.unit, line: null } };
    const other = show('technician', VIEW, keypad);
    fireEvent.click(await screen.findByRole('button', { name: 'Key-in sheet: 02P to 3.60 A' }));
    await waitFor(() => expect(other.address()).toBe('/key-in/sheet-1'));
  });

  it('are accepted by an engineer with a reason and a day, and no longer', async () => {
    const { sent } = show('engineer');
    fireEvent.click(await screen.findByRole('button', { name: /^Accept: The overload level/ }));
    fireEvent.change(screen.getByLabelText('Why it may stay so'), { target: { value: 'Agreed' } });
    fireEvent.change(screen.getByLabelText('Until'), { target: { value: '2027-02-01' } });
    fireEvent.click(screen.getByRole('button', { name: 'Accept' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toEqual({
      ...{ identity: 'overload-over-plate', signature: 's1', reason: 'Agreed', until: '2027-02-01' },
    });
    const again = show('engineer');
    fireEvent.click(await screen.findByRole('button', { name: 'Accept no longer' }));
    await waitFor(() => expect(again.sent[0]?.path).toBe('positions/A-1/accepted-findings/a1'));
  });

  it('of another set say what it changes, and offer nothing to be done', async () => {
    const against = { fewer: [finding({})], more: [] };
    const planned = { ...VIEW, reference: 'plan:1', title: 'What the write plan leads to', against };
    show('engineer', planned, POSITION, '/positions/A-1/checks?set=plan:1');
    expect(await screen.findByText(/1 finding fewer, none new/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Plan:|^Accept/ })).toBeNull();
  });

  it('never call it clean where nothing could be told', async () => {
    show('viewer', { ...VIEW, findings: [] });
    expect(await screen.findByText('Nothing open in what could be checked')).toBeTruthy();
    expect(screen.getByText(/That is not the same as nothing wrong/)).toBeTruthy();
  });
});
