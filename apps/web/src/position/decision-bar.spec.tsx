import { afterEach, describe, expect, it } from '@jest/globals';
import type { DecisionsView, DecisionView } from '@drive-keep/api';
import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { useChosenRows } from './chosen-rows.ts';
import { DecisionBar } from './decision-bar.tsx';
import { DraftNotice } from './draft-notice.tsx';
import { useDeciding } from './use-deciding.ts';

const TAG = 'KL1-RD-07';

function Bar() {
  return <DecisionBar tag={TAG} deciding={useDeciding(TAG)} />;
}

const decision = (code: string, kind: DecisionView['kind']): DecisionView => ({
  id: code,
  code,
  kind,
  reason: '',
  until: null,
  person: 'T. Pellow',
  madeAt: '2026-11-25T08:00:00Z',
  wanted: 1,
  found: 2,
});

const NOTHING: DecisionsView = { open: [], inForce: [], draft: null };

const show = (view: DecisionsView, finished: object = {}) =>
  showScreen(`/positions/${TAG}`, '/positions/:tag', <Bar />, {
    [`GET positions/${TAG}/decisions`]: view,
    [`PUT positions/${TAG}/decisions`]: NOTHING,
    [`POST positions/${TAG}/decisions/withdraw`]: NOTHING,
    [`POST positions/${TAG}/decisions/finish`]: {
      writePlanId: null,
      keyInSheetId: null,
      draftId: null,
      tolerated: 0,
      later: 0,
      ...finished,
    },
  });

const choose = (...codes: string[]) => act(() => useChosenRows.getState().set(TAG, codes));
afterEach(() => choose());

describe('deciding about chosen differences', () => {
  it('asks nothing where no reason is wanted, and is about all that were chosen', async () => {
    const { sent } = show(NOTHING);
    choose('01R', '24R');
    fireEvent.click(await screen.findByRole('button', { name: /Put back/ }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toEqual({ codes: ['01R', '24R'], kind: 'put-back' });
    expect(screen.queryByText('2 chosen')).toBeNull();
  });

  it('keeps the next question open when the answer to the one before comes late', async () => {
    const { sent } = show(NOTHING);
    choose('01R');
    fireEvent.click(await screen.findByRole('button', { name: /Take in/ }));
    fireEvent.change(screen.getByLabelText(/Take in 01R/), { target: { value: 'Shorter cycle' } });
    fireEvent.click(screen.getByRole('button', { name: 'Decide' }));
    // Before the server has answered, the next one is asked for.
    choose('24R');
    fireEvent.click(screen.getByRole('button', { name: /Tolerate/ }));
    await waitFor(() => expect(sent).toHaveLength(1));
    await act(() => new Promise((resolve) => setTimeout(resolve, 50)));
    expect(screen.getByLabelText(/Tolerate 24R/)).toBeTruthy();
  });

  it('asks why, and until when, before it tolerates', async () => {
    const { sent } = show(NOTHING);
    choose('01R');
    fireEvent.click(await screen.findByRole('button', { name: /Tolerate/ }));
    expect(sent).toEqual([]);
    fireEvent.change(screen.getByLabelText(/Tolerate/), {
      target: { value: 'Until the rollers are coated' },
    });
    fireEvent.change(screen.getByLabelText('until and with'), { target: { value: '2027-02-01' } });
    fireEvent.click(screen.getByRole('button', { name: 'Decide' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toEqual({
      codes: ['01R'],
      kind: 'tolerate',
      reason: 'Until the rollers are coated',
      until: '2027-02-01',
    });
  });

  it('asks for no day where there is none', async () => {
    show(NOTHING);
    choose('01R');
    fireEvent.click(await screen.findByRole('button', { name: /Take in/ }));
    expect(screen.queryByLabelText('until and with')).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Not now' }));
    expect(screen.queryByRole('button', { name: 'Decide' })).toBeNull();
  });
});

describe('finishing', () => {
  const open = [decision('01R', 'put-back'), decision('24R', 'put-back'), decision('02P', 'later')];

  it('sums up what was decided and leads to the write plan', async () => {
    const { address } = show({ ...NOTHING, open }, { writePlanId: 'plan-1' });
    expect(await screen.findByText(/2 goes back, 1 look later/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Finish these decisions' }));
    await waitFor(() => expect(address()).toBe('/write-plans/plan-1'));
  });

  it('takes all of them back at once', async () => {
    const { sent } = show({ ...NOTHING, open });
    fireEvent.click(await screen.findByRole('button', { name: 'Take them back' }));
    await waitFor(() => expect(sent[0]?.body).toEqual({ codes: ['01R', '24R', '02P'] }));
  });
});

describe('a draft that waits for its signature', () => {
  const draft = {
    ...{ proof: null, of: 'differences' as const, wiring: null },
    id: 'draft-1',
    revision: 4,
    codes: ['RA1'],
    reason: 'Nozzles',
    madeBy: 'R. Ashgrove',
    madeAt: '2026-11-25T08:00:00Z',
    secondPerson: false,
  };
  const notice = (change: Partial<typeof draft>, role: string, person = 'R. Ashgrove') =>
    showScreen('/x', '/x', <DraftNotice tag="GL-PU-01" draft={{ ...draft, ...change }} />, {
      'GET session': signedIn(role, person),
      'POST baseline-drafts/draft-1/refuse': {},
    });

  it('is signed by an engineer, by another one where the plant wants a second person', async () => {
    notice({}, 'technician', 'T. Pellow');
    expect(await screen.findByText(/Revision 4 of the baseline waits/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /Sign/ })).toBeNull();
    notice({}, 'engineer');
    expect(await screen.findByRole('button', { name: 'Sign revision 4' })).toBeTruthy();
    notice({ secondPerson: true }, 'engineer');
    expect(await screen.findByText('A second person has to sign it.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /Sign/ })).toBeNull();
    notice({ secondPerson: true }, 'engineer', 'E. Other');
    expect(await screen.findByRole('button', { name: 'Sign revision 4' })).toBeTruthy();
  });

  it('is refused with a reason', async () => {
    const { sent } = notice({}, 'engineer');
    fireEvent.click(await screen.findByRole('button', { name: 'Do not sign' }));
    fireEvent.change(screen.getByLabelText('Why it is not signed'), { target: { value: 'Wrong nozzle' } });
    fireEvent.click(screen.getByRole('button', { name: 'Refuse it' }));
    await waitFor(() => expect(sent[0]?.body).toEqual({ reason: 'Wrong nozzle' }));
  });
});
