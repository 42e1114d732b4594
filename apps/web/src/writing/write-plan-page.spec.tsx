import { describe, expect, it } from '@jest/globals';
import type { WritePlanView, WriteStepView } from '@drive-keep/api';
import type { Code } from '@drive-keep/core/dictionary';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { shippedDictionary } from '../testing/shipped-dictionary.ts';
import { WritePlanPage } from './write-plan-page.tsx';

const dictionary = shippedDictionary();
const step = (code: string, to: number, more: Partial<WriteStepView> = {}): WriteStepView => ({
  ...{ code, to, from: 0, phase: 'settings', reason: { kind: 'asked' }, busyMs: 0, stopped: false },
  ...{ restart: false, state: 'planned', readBack: null, text: '' },
  ...more,
});
const PLAN: WritePlanView = {
  ...{ id: 'plan-1', tag: 'A-1', dictionary: dictionary.id, kind: 'write', follows: null, state: 'planned' },
  ...{ target: 'Baseline', plannedBy: 'P', plannedAt: '2026-11-25T08:00:00Z', unreachable: [] },
  ...{ alreadyThere: ['02R', '03R'], idle: [], release: null, restartCheck: false, followUps: [] },
  ...{
    text: '',
    holds: '',
    saved: false,
    jobId: null,
    mayBeReleased: true,
    cutOffs: [],
    backupBefore: null,
    backupAfter: null,
  },
  steps: [
    step('03U', 2, { phase: 'structure', stopped: true }),
    step('01C', 1, { reason: { kind: 'put-back-by', by: '03U' as Code } }),
    step('21M', 9800, { phase: 'measured' }),
  ],
};
const LATER = new Date(Date.now() + 600_000).toISOString();
const RELEASE = { by: 'P', at: '2026-11-25T08:00:00Z', until: LATER };
const RUN_OUT = { ...RELEASE, until: '2026-11-25T08:15:00Z' };

const show = (plan: Partial<WritePlanView> = {}, role = 'technician') => {
  const told = { ...PLAN, ...plan };
  return showScreen('/write-plans/plan-1', '/write-plans/:id', <WritePlanPage />, {
    'GET session': signedIn(role),
    'GET write-plans/plan-1': told,
    [`GET dictionaries/${dictionary.id}`]: dictionary,
    'POST write-plans/plan-1/release': { ...told, state: 'released', release: RELEASE },
    'POST write-plans/plan-1/carry-out': { ...told, state: 'writing' },
    'POST write-plans/plan-1/follow-ups': { ...told, id: 'plan-2' },
  });
};

describe('a write plan', () => {
  it('stands in its phases, with why each line is written', async () => {
    show({ idle: [{ code: '21M', by: '20M' }] });
    const heads = (await screen.findAllByRole('rowheader')).map((each) => each.textContent);
    expect(heads).toEqual(['What decides over others 1', 'Settings 1', 'Measured on the motor 1']);
    expect(screen.getByText(/changed by the write of 03U/)).toBeTruthy();
    expect(screen.getByText('Does nothing until 20M says so.')).toBeTruthy();
    expect(screen.getByText('2 values are there already')).toBeTruthy();
  });

  it('is released by a statement before it can be carried out', async () => {
    const { sent } = show();
    expect(await screen.findByRole('button', { name: 'Write 3 values to A-1' })).toHaveProperty(
      'disabled',
      true,
    );
    fireEvent.click(await screen.findByRole('button', { name: /A-1 is stopped and safe/ }));
    await waitFor(() => expect(sent[0]?.body).toEqual({ stoppedAndSafe: true }));
  });

  it('asks once before it writes, with a restart check if that is wanted', async () => {
    const { sent } = show({ state: 'released', release: RELEASE });
    fireEvent.click(await screen.findByLabelText(/Restart the unit after the save/));
    fireEvent.click(screen.getByRole('button', { name: 'Write 3 values to A-1' }));
    const asked = await screen.findByRole('alertdialog');
    expect(asked.textContent).toContain('Write 3 values to A-1?');
    fireEvent.click(within(asked).getByRole('button', { name: 'Write now' }));
    await waitFor(() => expect(sent[0]?.path).toBe('write-plans/plan-1/carry-out'));
    expect(sent[0]?.body).toEqual({ restartCheck: true, cutOffKnown: false });
  });

  it('that may cut the unit off is not carried out before somebody states that it is known', async () => {
    const cutOffs = [
      { code: '02N', text: '02N = 38400: after its next restart the unit answers at this speed only.' },
    ];
    const { sent } = show({ state: 'released', release: RELEASE, cutOffs });
    expect(await screen.findByText(/answers at this speed only/)).toBeTruthy();
    const write = screen.getByRole('button', { name: /^Write 3 values/ });
    expect(write).toHaveProperty('disabled', true);
    fireEvent.click(screen.getByLabelText(/^I know what this means for the line/));
    fireEvent.click(write);
    fireEvent.click(
      within(await screen.findByRole('alertdialog')).getByRole('button', { name: 'Write now' }),
    );
    await waitFor(() => expect(sent[0]?.body).toEqual({ restartCheck: false, cutOffKnown: true }));
  });

  it('whose release has run out says so, and asks for it again', async () => {
    const { sent } = show({ state: 'released', release: RUN_OUT });
    expect(await screen.findByText(/has run out: nothing is written on it any more/)).toBeTruthy();
    fireEvent.click(await screen.findByRole('button', { name: /is stopped and safe to write to/ }));
    await waitFor(() => expect(sent[0]?.path).toBe('write-plans/plan-1/release'));
  });

  it('that broke off says what the unit holds, and offers the rest and the way back', async () => {
    const { sent, address } = show({
      ...{ state: 'failed', text: '01C was not written.', holds: '1 of 3 writes are in the working memory.' },
      followUps: ['resume', 'undo'],
    });
    expect((await screen.findByRole('alert')).textContent).toContain(
      '1 of 3 writes are in the working memory.',
    );
    fireEvent.click(await screen.findByRole('button', { name: 'Plan the rest' }));
    await waitFor(() => expect(address()).toBe('/write-plans/plan-2'));
    expect(sent[0]?.body).toEqual({ kind: 'resume' });
  });

  it('that is done can be taken back, but has no rest', async () => {
    show({ state: 'done', text: '3 values written.', followUps: ['undo'] });
    expect(await screen.findByRole('button', { name: 'Plan the way back' })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Plan the rest' })).toBeNull();
  });

  it('whose rest is nothing but saving says so', async () => {
    show({ kind: 'resume', follows: 'plan-0', steps: [], state: 'released', release: RELEASE });
    // The button waits until it is known who looks at it.
    const save = await screen.findByRole('button', { name: 'Save A-1 permanently' });
    await waitFor(() => expect(save).toHaveProperty('disabled', false));
    expect(screen.getByRole('link', { name: 'the plan before' }).getAttribute('href')).toBe(
      '/write-plans/plan-0',
    );
  });

  it('of a reset says what its procedure does, and how many values go back', async () => {
    const trigger = step('04U', 618, {
      phase: 'reset',
      busyMs: 2500,
      reason: { kind: 'procedure', text: 'Trigger' },
    });
    show({ kind: 'reset', steps: [trigger, ...PLAN.steps], state: 'released', release: RELEASE });
    expect(await screen.findByRole('button', { name: 'Reset A-1 and write 3 values' })).toBeTruthy();
    expect(screen.getByText(/Trigger.*takes 2.5 s/)).toBeTruthy();
  });

  it('may be looked at by a viewer, and nothing more', async () => {
    show({ state: 'failed', followUps: ['resume', 'undo'] }, 'viewer');
    expect(await screen.findByText('Carry out')).toBeTruthy();
    for (const name of [/^Plan the/, /is stopped and safe/])
      expect(screen.queryByRole('button', { name })).toBeNull();
  });
});
