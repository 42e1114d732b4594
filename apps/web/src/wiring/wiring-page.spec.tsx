import { beforeEach, describe, expect, it } from '@jest/globals';
import type { WiringView } from '@drive-keep/api';
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { WiringPage } from './wiring-page.tsx';

const dictionary = shippedDictionary();
const TAG = 'A-1';
const LINKS = (dictionary.terminals?.links ?? [])
  .filter(({ factory }) => factory)
  .map(({ between: [from, to] }) => ['link', '', '', from, to, 'drive', '']);
const NEWEST: WiringView = {
  tag: TAG,
  dictionary: dictionary.id,
  madeFor: dictionary.id,
  revision: 1,
  rows: LINKS,
  findings: [],
  revisions: [{ revision: 1, savedAt: new Date().toISOString(), savedBy: 'T. Pellow', why: 'As found' }],
  elsewhere: [{ tag: 'A-2', name: 'S1', kind: 'contact', facts: 'contacts 13-14 closes', what: 'run' }],
};

const BASELINES = [
  { revision: 3, wiring: 1, signedBy: 'R. Ashgrove', signedAt: new Date().toISOString(), reason: 'x' },
];
const PHOTOS = [
  {
    ...{ id: 'p-1', revision: 1, caption: 'Upper strip', width: 2000, height: 1500 },
    ...{ addedAt: new Date().toISOString(), addedBy: 'T. Pellow' },
  },
];

beforeEach(() => sessionStorage.clear());

function show(role = 'technician', view = NEWEST) {
  return showScreen(`/positions/${TAG}/wiring`, '/positions/:tag/wiring', <WiringPage />, {
    [`GET positions/${TAG}/wiring`]: view,
    [`GET positions/${TAG}`]: { tag: TAG, duty: 'Belt', retiredAt: null },
    [`GET dictionaries/${dictionary.id}`]: dictionary,
    'GET session': signedIn(role),
    [`GET positions/${TAG}/history`]: { baselines: BASELINES, backups: [], wirings: [] },
    [`GET positions/${TAG}/decisions`]: { open: [], inForce: [], draft: null },
    [`GET positions/${TAG}/wiring/photos`]: PHOTOS,
    [`POST positions/${TAG}/wiring/baseline-draft`]: {},
    [`POST positions/${TAG}/wiring/photos/p-1/withdraw`]: [],
    [`PUT positions/${TAG}/wiring`]: { ...view, revision: 2 },
  });
}
const cell = (name: string) => screen.getByLabelText<HTMLInputElement>(name);
const type = (name: string, value: string) => fireEvent.change(cell(name), { target: { value } });

async function typeRunContact() {
  await screen.findByText('Wires');
  fireEvent.click(screen.getByRole('button', { name: 'S1 of A-2' }));
  fireEvent.click(screen.getByRole('button', { name: 'Add a wire' }));
  type('Wires, row 1, Number', '17');
  type('Wires, row 1, From', '23');
  type('Wires, row 1, To', 'S1:13');
}

describe('the wiring of a position', () => {
  it('is checked at every keystroke, row by row and as a whole', async () => {
    show();
    await typeRunContact();
    expect(await screen.findByText(/Input 23 is wired to something that leads to no supply/)).toBeTruthy();
    fireEvent.keyDown(cell('Wires, row 1, To'), { key: 'Enter' });
    type('Wires, row 2, From', 'S1:14');
    type('Wires, row 2, To', '99');
    expect(screen.getByText(/The drive has no terminal 99/)).toBeTruthy();
    type('Wires, row 2, To', '20');
    await waitFor(() => expect(screen.queryByText(/no terminal|leads to no supply/)).toBeNull());
    expect(screen.getByText(/Nothing of it is against chart or electricity/)).toBeTruthy();
    expect(screen.getByRole('img', { name: /1 devices, 2 wires/ })).toBeTruthy();
  });

  it('is kept only with a reason, and only where every row is understood', async () => {
    const { sent } = show();
    await typeRunContact();
    const keep = screen.getByRole<HTMLButtonElement>('button', { name: 'Keep as revision 2' });
    expect(keep.disabled).toBe(true);
    type('Why it is another than before', 'A run contact was fitted');
    expect(keep.disabled).toBe(false);
    type('Devices, row 1, Contacts, place by place, or electrical facts', 'contacts 13');
    expect(keep.disabled).toBe(true);
    type('Devices, row 1, Contacts, place by place, or electrical facts', 'contacts 13-14 closes');
    fireEvent.click(keep);
    fireEvent.click(keep);
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({
      seen: 1,
      why: 'A run contact was fitted',
      rows: [
        ...LINKS,
        ['contact', 'S1', '', '', '', 'contacts 13-14 closes', 'run'],
        ['wire', '17', '', '23', 'S1:13', '', ''],
      ],
    });
  });

  it('stays over a reload until it is kept or given up', async () => {
    show();
    await typeRunContact();
    cleanup();
    show();
    await waitFor(() => expect(cell('Wires, row 1, Number').value).toBe('17'));
    fireEvent.click(screen.getByRole('button', { name: 'Give the changes up' }));
    expect(screen.queryByLabelText('Wires, row 1, Number')).toBeNull();
  });

  it('says where a device of the machine stands otherwise', async () => {
    show('technician', {
      ...NEWEST,
      rows: [...LINKS, ['contact', 'S1', '', '', '', 'contacts 21-22 opens', '']],
    });
    expect(await screen.findByText(/S1 stands otherwise in the wiring of A-2/)).toBeTruthy();
  });

  it('says of a lamp with an open end that there is something to look at, and offers its connections', async () => {
    show('technician', { ...NEWEST, rows: [...LINKS, ['load', 'H1', '', '', '', '24 V; 80 mA', '']] });
    await screen.findByText('Wires');
    fireEvent.click(screen.getByRole('button', { name: 'Add a wire' }));
    // A row that is half typed takes no offers away.
    type('Wires, row 1, Number', '7');
    expect(
      [...document.querySelectorAll<HTMLOptionElement>('#wire-ends option')].map(({ value }) => value),
    ).toEqual(expect.arrayContaining(['20', 'H1:A1', 'H1:A2']));
    type('Wires, row 1, From', 'H1:A1');
    type('Wires, row 1, To', '51');
    expect(screen.getByText(/1 to look at/)).toBeTruthy();
    expect(screen.getByRole('alert').textContent).toContain('H1 has nothing at A2');
    expect(screen.queryByText(/Nothing of it is against/)).toBeNull();
  });

  it('is read by a viewer and typed by nobody of them', async () => {
    show('viewer');
    await screen.findByText('Wires');
    expect(screen.queryByRole('button', { name: /Add|Keep as/ })).toBeNull();
  });
});

describe('what belongs to a wiring', () => {
  it('is signed with the baseline of its time; a later wiring is proposed for a signature', async () => {
    show();
    expect(
      await screen.findByText(/Revision 1 is signed: it belongs to revision 3 of the baseline/),
    ).toBeTruthy();
    cleanup();
    const revisions = [{ ...NEWEST.revisions[0], revision: 2, why: 'New lamp' }, ...NEWEST.revisions];
    const { sent } = show('technician', { ...NEWEST, revision: 2, revisions } as WiringView);
    expect(await screen.findByText(/Revision 2 of the wiring is not signed/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Propose it for signature' }));
    await waitFor(() => expect(sent.map(({ body }) => body)).toContainEqual({ reason: 'New lamp' }));
  });

  it('are photographs, added after a word of what they show and withdrawn with a reason', async () => {
    const { sent } = show();
    expect((await screen.findByAltText('Upper strip')).getAttribute('src')).toContain('/wiring/photos/p-1');
    expect(screen.getByText(/at wiring revision 1/)).toBeTruthy();
    const take = screen.getByRole<HTMLButtonElement>('button', { name: 'Take or choose a photograph' });
    expect(take.disabled).toBe(true);
    type('What the next photograph shows', 'Lower strip');
    expect(take.disabled).toBe(false);
    fireEvent.click(screen.getByRole('button', { name: 'Withdraw' }));
    type('Why Upper strip is withdrawn', 'Rewired');
    fireEvent.click(screen.getByRole('button', { name: 'Withdraw it' }));
    await waitFor(() => expect(screen.queryByAltText('Upper strip')).toBeNull());
    expect(sent.map(({ body }) => body)).toContainEqual({ why: 'Rewired' });
    cleanup();
    show('viewer');
    await screen.findByAltText('Upper strip');
    expect(screen.queryByRole('button', { name: 'Withdraw' })).toBeNull();
  });
});
