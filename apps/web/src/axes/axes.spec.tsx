import { describe, expect, it } from '@jest/globals';
import type { AxisLoadView, AxisMachineView, HistoryView, WritePlanView } from '@drive-keep/api';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { AxesPage } from './axes-page.tsx';
import { AxisLoadPage } from './axis-load-page.tsx';

const axis = (tag: string, serial: number) => ({
  tag,
  duty: 'Axis',
  model: 'Quenby S4',
  rating: 'S4-12',
  serial,
});
const MACHINE: AxisMachineView = {
  ...{ area: 'Packing', machine: 'Stacker', axes: [axis('X-1', 11), axis('X-2', 22)] },
  loads: [{ id: 'load-0', madeAt: '2026-11-24T08:00:00Z', madeBy: 'P', state: 'done' }],
};
const HISTORY = {
  parts: [],
  baselines: [{ revision: 2, signedAt: '2026-01-01T08:00:00Z', signedBy: 'E', reason: '', hash: 'h' }],
  backups: [
    {
      id: 'b-1',
      takenAt: '2026-11-20T08:00:00Z',
      takenBy: 'P',
      how: 'imported',
      reason: 'File',
      sameAsBefore: false,
    },
  ],
} as unknown as HistoryView;
const plan = (tag: string, more: Partial<WritePlanView> = {}) =>
  ({
    ...{ id: `plan-${tag}`, tag, dictionary: 'd', target: 'Baseline', state: 'planned', text: '', holds: '' },
    ...{ steps: [], unreachable: [], cutOffs: [] },
    ...more,
  }) as unknown as WritePlanView;
const LOAD: AxisLoadView = {
  ...{ id: 'load-1', area: 'Packing', machine: 'Stacker', state: 'planned', onFailure: 'back', madeBy: 'P' },
  ...{ madeAt: '2026-11-25T08:00:00Z', release: null, text: '', jobId: null, mayBeReleased: true },
  plans: [plan('X-1'), plan('X-2')],
};

const showMachine = (role = 'technician', controller = 'runs') =>
  showScreen('/positions/X-1/axes', '/positions/:tag/axes', <AxesPage />, {
    'GET session': signedIn(role),
    'GET positions/X-1/axes': MACHINE,
    'GET positions/X-1/controller': { state: controller },
    'POST positions/X-1/controller': { state: controller === 'held' ? 'runs' : 'held' },
    'GET positions/X-1/history': HISTORY,
    'GET positions/X-2/history': HISTORY,
    'POST positions/X-1/axis-loads': LOAD,
  });
describe('the controller of a machine', () => {
  it('is held when that was asked for and confirmed once', async () => {
    const { sent } = showMachine();
    fireEvent.click(await screen.findByRole('button', { name: 'Hold Stacker' }));
    expect(sent).toEqual([]);
    fireEvent.click(screen.getByRole('button', { name: 'Hold it now' }));
    await waitFor(() => expect(sent[0]?.body).toEqual({ command: 'hold', everybodyClear: true }));
  });

  it('that is held is said to be, and can be started again; a viewer can do neither', async () => {
    const { sent } = showMachine('technician', 'held');
    expect(await screen.findByText(/Stacker is held/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Start Stacker again' }));
    expect(screen.getByText(/Everybody must be clear of the machine/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Start it now' }));
    await waitFor(() => expect(sent[0]?.body).toEqual({ command: 'start', everybodyClear: true }));
  });

  it.each(['runs', 'held', 'not-ready', 'silent'])('%s: only looked at by a viewer', async (state) => {
    showMachine('viewer', state);
    await screen.findByText('Controller');
    expect(screen.queryByRole('button', { name: /Hold|Start/ })).toBeNull();
  });
});

const showLoad = (load: Partial<AxisLoadView> = {}, role = 'technician') => {
  const told = { ...LOAD, ...load };
  return showScreen('/axis-loads/load-1', '/axis-loads/:id', <AxisLoadPage />, {
    'GET session': signedIn(role),
    'GET axis-loads/load-1': told,
    'POST axis-loads/load-1/release': {
      ...told,
      state: 'released',
      release: { by: 'P', until: new Date(Date.now() + 600_000).toISOString() },
    },
    'POST axis-loads/load-1/carry-out': { ...told, state: 'loading' },
  });
};

describe('the axes of a machine', () => {
  it('each get a set of their own, and what happens when one fails is chosen before', async () => {
    const { sent, address } = showMachine();
    fireEvent.change(await screen.findByLabelText('Set for X-2'), { target: { value: 'backup:b-1' } });
    fireEvent.click(screen.getByLabelText(/^Go back/));
    fireEvent.click(screen.getByRole('button', { name: 'Plan the load of 2 axes' }));
    await waitFor(() => expect(address()).toBe('/axis-loads/load-1'));
    expect(sent[0]?.body).toEqual({ targets: [{ tag: 'X-2', target: 'backup:b-1' }], onFailure: 'back' });
  });

  it('stand with the loads made before; a viewer plans none', async () => {
    showMachine('viewer');
    expect((await screen.findByText(/done · P/)).closest('li')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Plan/ })).toBeNull();
  });
});

describe('a load of all axes', () => {
  it('is released by a statement before it can be started', async () => {
    const { sent } = showLoad();
    expect(await screen.findByRole('button', { name: 'Load 2 axes' })).toHaveProperty('disabled', true);
    fireEvent.click(await screen.findByRole('button', { name: /Stacker is stopped and safe/ }));
    await waitFor(() => expect(sent[0]?.body).toEqual({ stoppedAndSafe: true }));
  });

  it('asks once before it starts', async () => {
    const { sent } = showLoad({
      state: 'released',
      release: { by: 'P', until: new Date(Date.now() + 600_000).toISOString() },
    });
    await waitFor(() =>
      expect(screen.getByRole('button', { name: 'Load 2 axes' })).toHaveProperty('disabled', false),
    );
    fireEvent.click(screen.getByRole('button', { name: 'Load 2 axes' }));
    const asked = await screen.findByRole('alertdialog');
    fireEvent.click(within(asked).getByRole('button', { name: 'Load them now' }));
    await waitFor(() => expect(sent[0]?.path).toBe('axis-loads/load-1/carry-out'));
  });

  it('that failed says how each axis fared', async () => {
    showLoad({
      ...{ state: 'failed', text: 'X-2: broke off. The machine is held.' },
      plans: [
        plan('X-1', {
          state: 'failed',
          text: 'Went back to the values before, saved.',
          holds: 'It holds what it held before.',
        }),
        plan('X-2', { state: 'failed', text: '2021:01 was not written.', holds: 'Nothing was written.' }),
      ],
    });
    expect((await screen.findByRole('alert')).textContent).toContain('The machine is held');
    expect(
      screen.getByText(/Went back to the values before, saved. It holds what it held before./),
    ).toBeTruthy();
    expect(screen.getByText(/2021:01 was not written/)).toBeTruthy();
  });
});
