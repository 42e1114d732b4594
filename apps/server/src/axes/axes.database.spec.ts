import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type {
  AxisLoadView,
  AxisMachineView,
  ComparisonView,
  ControllerView,
  HistoryView,
  LogbookPage,
  Problem,
  ResetView,
  WritePlanView,
} from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { LineTurns } from '../lines/line-turns.ts';
import { RunningPlant, until, type Caller } from '../testing/running-plant.ts';

const [LIFT, SLEW, GRIP] = ['SP-ST-01', 'SP-ST-02', 'SP-ST-03'] as const;
const AXES = [LIFT, SLEW, GRIP];
/** Gain and integral time of the speed loop. */
const GAIN = '2021:01';
const TIME = '2021:02';

let plant: RunningPlant;
let technician: Caller;
const held = new Map<string, Record<string, number>>();

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
  for (const tag of AXES) held.set(tag, plant.unit(tag).memory.snapshot());
});
afterAll(() => plant.stop());

const controller = () => {
  const [found] = plant.plant.controllers;
  if (!found) throw new Error('no controller');
  return found;
};

/** Every axis differs from its baseline in two values, saved; the controller runs. */
beforeEach(async () => {
  controller().state = 1;
  controller().stuck = false;
  for (const [at, tag] of AXES.entries()) {
    const unit = plant.unit(tag);
    unit.setMischief({ silent: false, breakAfter: 0, swap: null, event: null });
    for (const [code, raw] of Object.entries(held.get(tag) ?? {})) unit.memory.force(code, raw);
    unit.memory.force(GAIN, 300 + at);
    unit.memory.force(TIME, 250 + at);
  }
  await plant.backUp(technician, ...AXES);
});

const gains = () => AXES.map((tag) => plant.unit(tag).memory.get(GAIN));
const NOW = [300, 301, 302];

async function plan(
  targets: readonly { tag: string; target: string }[] = [],
  onFailure = 'stay',
): Promise<AxisLoadView> {
  const { status, body } = await technician.post<AxisLoadView>(`positions/${LIFT}/axis-loads`, {
    targets,
    onFailure,
  });
  expect(status).toBe(201);
  return body;
}

async function carryOut({ id }: AxisLoadView): Promise<AxisLoadView> {
  await technician.post(`axis-loads/${id}/release`, { stoppedAndSafe: true });
  expect((await technician.post(`axis-loads/${id}/carry-out`)).status).toBe(202);
  return until(async () => {
    const { body } = await technician.get<AxisLoadView>(`axis-loads/${id}`);
    return body.state === 'loading' ? undefined : body;
  });
}

const wantedGains = (load: AxisLoadView) =>
  load.plans.map(({ steps }) => steps.find(({ code }) => code === GAIN)?.to);

describe('tuning that was tried out and never saved', () => {
  it('stands in the newest backups of lift and slew, and a power cycle would take it', async () => {
    const fresh = await RunningPlant.start();
    const caller = await fresh.signIn('technician');
    for (const [tag, tuned] of [
      [LIFT, 480],
      [SLEW, 700],
    ] as const) {
      const { body } = await caller.get<ComparisonView>(`positions/${tag}/comparison?a=baseline&b=newest`);
      expect(body.rows.find(({ code }) => code === GAIN)?.b).toBe(tuned);
      expect(fresh.unit(tag).memory.get(GAIN)).toBe(tuned);
      expect(Object.keys(fresh.unit(tag).memory.unsaved())).toHaveLength(2);
    }
    // Loaded with what it holds, an axis has nothing to be written, and is saved.
    const newest = async (tag: string) => {
      const { backups } = (await caller.get<HistoryView>(`positions/${tag}/history`)).body;
      return { tag, target: `backup:${backups.at(-1)?.id ?? ''}` };
    };
    const targets = await Promise.all([LIFT, SLEW].map(newest));
    const asked = { targets, onFailure: 'stay' };
    const { body: load } = await caller.post<AxisLoadView>(`positions/${LIFT}/axis-loads`, asked);
    expect(load.plans.map(({ steps }) => steps.length)).toEqual([0, 0, 0]);
    await caller.post(`axis-loads/${load.id}/release`, { stoppedAndSafe: true });
    await caller.post(`axis-loads/${load.id}/carry-out`);
    const done = await until(async () => {
      const { body } = await caller.get<AxisLoadView>(`axis-loads/${load.id}`);
      return body.state === 'loading' ? undefined : body;
    });
    expect(done.state).toBe('done');
    for (const tag of [LIFT, SLEW]) expect(fresh.unit(tag).memory.unsaved()).toEqual({});
    await fresh.stop();
  }, 60_000);
});

describe('a machine of several axes', () => {
  it('is known by any of its positions, with its axes; another machine has no controller', async () => {
    const { body } = await technician.get<AxisMachineView>(`positions/${SLEW}/axes`);
    expect([body.machine, body.axes.map(({ tag }) => tag)]).toEqual(['Stacker', AXES]);
    const other = await technician.get<Problem>('positions/KL1-RD-01/axes');
    expect([other.status, other.body.detail]).toEqual([404, expect.stringContaining('has no controller')]);
  });

  it('is not written to axis by axis while its controller runs', async () => {
    const { body } = await technician.post<{ id: string }>(`positions/${LIFT}/write-plans`, {
      target: 'baseline',
    });
    await technician.post(`write-plans/${body.id}/release`, { stoppedAndSafe: true });
    await technician.post(`write-plans/${body.id}/carry-out`);
    const ended = await plant.planEnd(technician, body.id);
    expect([ended.state, ended.text]).toEqual(['refused', expect.stringContaining('is running')]);
  });
});

describe('the controller by itself', () => {
  const command = (wanted: string, caller = technician, more: object = { everybodyClear: true }) =>
    caller.post<ControllerView & Problem>(`positions/${LIFT}/controller`, { command: wanted, ...more });

  it('is held for a reset of one axis, which then gets back what its baseline wants, and started again', async () => {
    const { body: reset } = await technician.get<ResetView>(`positions/${SLEW}/reset`);
    expect([reset.overLine, reset.regions.length]).toEqual([true, 1]);
    const putBack = reset.losses.filter(({ baseline }) => baseline !== null).map(({ code }) => code);
    const { body: made } = await technician.post<WritePlanView>(`positions/${SLEW}/reset-plans`, { putBack });
    expect((await command('hold')).body.state).toBe('held');
    await technician.post(`write-plans/${made.id}/release`, { stoppedAndSafe: true });
    await technician.post(`write-plans/${made.id}/carry-out`);
    const early = await command('start');
    expect([early.status, early.body.detail]).toEqual([409, expect.stringContaining('is being written to')]);
    const done = await plant.planEnd(technician, made.id);
    expect([done.state, done.text]).toEqual(['done', expect.stringContaining('Reset, defaults proven.')]);
    expect(plant.unit(SLEW).memory.get('2012:01')).toBe(held.get(SLEW)?.['2012:01']);
    expect((await command('start')).body.state).toBe('runs');
    const { body } = await technician.get<LogbookPage>(`logbook?tag=${LIFT}&find=Stacker`);
    expect(body.entries.map(({ text }) => text).slice(0, 2)).toEqual([
      'Started Stacker again; all axes are ready.',
      'Held Stacker.',
    ]);
  }, 60_000);

  it('follows nobody who looks on, and no word that nobody is near it', async () => {
    expect((await command('hold', await plant.signIn('viewer'))).status).toBe(403);
    expect((await command('hold', technician, {})).status).toBe(400);
    expect((await command('spin')).status).toBe(400);
    expect(controller().runs).toBe(true);
    expect((await technician.get('positions/KL1-RD-01/controller')).status).toBe(404);
  });

  it('is not started when something else was done at the machine while its line was waited for', async () => {
    await command('hold');
    const before = await plan();
    const [line] = await plant.app
      .get(DataSource)
      .query<{ id: string }[]>(`select id from line where name = 'gateway-3'`);
    const turn = await plant.app.get(LineTurns).take(line?.id ?? '', 'write');
    const starting = command('start');
    await new Promise((resolve) => setTimeout(resolve, 300));
    await technician.post(`axis-loads/${before.id}/release`, { stoppedAndSafe: true });
    await turn.release();
    const { status, body } = await starting;
    expect([status, body.detail]).toEqual([409, expect.stringContaining('was done at Stacker meanwhile')]);
    expect(controller().runs).toBe(false);
  });

  it('that is not ready after its start is told in words', async () => {
    await command('hold');
    controller().stuck = true;
    const stuck = await command('start');
    expect([stuck.status, stuck.body.detail]).toEqual([502, expect.stringContaining('is not ready')]);
    controller().stuck = false;
  }, 30_000);
});

describe('loading all axes', () => {
  it('holds the controller, writes and saves each with its own set, restarts it and proves them', async () => {
    const load = await plan();
    const wanted = wantedGains(load);
    expect(new Set(wanted).size).toBe(3);
    const done = await carryOut(load);
    expect([done.state, done.text]).toEqual(['done', expect.stringContaining('the controller is ready')]);
    expect(done.plans.map(({ state, saved }) => [state, saved])).toEqual(AXES.map(() => ['done', true]));
    expect(gains()).toEqual(wanted);
    expect(controller().runs).toBe(true);
    for (const tag of AXES) plant.unit(tag).memory.recall();
    expect(gains()).toEqual(wanted);
    const { body } = await technician.get<LogbookPage>('logbook?find=axes+are+written');
    expect(body.entries[0]?.person).toBe('T. Pellow');
  });

  it('refuses the set of another axis with the reason, and plans nothing then', async () => {
    const { backups } = (await technician.get<HistoryView>(`positions/${SLEW}/history`)).body;
    const swapped = await technician.post<Problem>(`positions/${LIFT}/axis-loads`, {
      targets: [{ tag: LIFT, target: `backup:${backups.at(-1)?.id ?? ''}` }],
      onFailure: 'stay',
    });
    expect([swapped.status, swapped.body.detail]).toEqual([
      422,
      expect.stringContaining(`belongs to ${SLEW}`),
    ]);
    const stranger = await technician.post<Problem>(`positions/${LIFT}/axis-loads`, {
      targets: [{ tag: 'KL1-RD-01', target: 'baseline' }],
      onFailure: 'stay',
    });
    expect([stranger.status, stranger.body.detail]).toEqual([
      422,
      expect.stringContaining('is no axis of Stacker'),
    ]);
  });

  it('writes nothing when one axis does not answer, and lets the machine go on', async () => {
    const load = await plan();
    plant.unit(GRIP).setMischief({ silent: true });
    const ended = await carryOut(load);
    expect([ended.state, ended.text]).toEqual(['refused', expect.stringContaining(`${GRIP}: `)]);
    plant.unit(GRIP).setMischief({ silent: false });
    expect(gains()).toEqual(NOW);
    expect(controller().runs).toBe(true);
  });

  it('without a release, or by a viewer, is not begun', async () => {
    const load = await plan();
    const early = await technician.post<Problem>(`axis-loads/${load.id}/carry-out`);
    expect([early.status, early.body.type]).toEqual([409, 'urn:drive-keep:not-released']);
    const viewer = await plant.signIn('viewer');
    expect((await viewer.post(`axis-loads/${load.id}/release`, { stoppedAndSafe: true })).status).toBe(403);
  });
});

/** Requests of one backup of this model, and of one step: who it is (two), whether it stands, the write, the read-back. */
describe('when the second axis fails in the middle', () => {
  const breakSlew = async (onFailure: 'stay' | 'back'): Promise<AxisLoadView> => {
    const load = await plan([], onFailure);
    plant.unit(SLEW).setMischief({ swap: { after: 9, serial: 4711 } });
    const ended = await carryOut(load);
    plant.unit(SLEW).setMischief({ swap: null });
    plant.unit(SLEW).serial = plant.unit(SLEW).description.serial;
    return ended;
  };

  it('the first stays with its new values, saved, if that was chosen; the machine stays held', async () => {
    const ended = await breakSlew('stay');
    expect([ended.state, ended.text]).toEqual(['failed', expect.stringContaining('The machine is held')]);
    expect(ended.text).toContain(`${LIFT}: Stays with the new values, saved and proven.`);
    expect(ended.text).toContain(`${GRIP}: Nothing was written.`);
    const [first] = wantedGains(ended);
    plant.unit(LIFT).memory.recall();
    expect([gains()[0], gains()[2]]).toEqual([first, 302]);
    expect(controller().runs).toBe(false);
    expect(ended.plans[1]?.followUps).toEqual(['resume', 'undo']);
    expect([ended.plans[2]?.state, ended.plans[2]?.text]).toEqual(['refused', 'Nothing was written.']);
  });

  it('another load that is refused does not start the machine; one that comes to its end does', async () => {
    await breakSlew('stay');
    await plant.backUp(technician, ...AXES);
    const second = await plan();
    plant.unit(GRIP).setMischief({ silent: true });
    const refused = await carryOut(second);
    plant.unit(GRIP).setMischief({ silent: false });
    expect([refused.state, refused.text]).toEqual([
      'refused',
      expect.stringContaining('The machine stays held'),
    ]);
    expect(controller().runs).toBe(false);
    const done = await carryOut(await plan());
    expect([done.state, controller().runs]).toEqual(['done', true]);
    // Nothing is left to be written to any of them.
    await plant.backUp(technician, ...AXES);
    expect((await plan()).plans.map(({ steps }) => steps.length)).toEqual([0, 0, 0]);
  }, 60_000);

  it('the first goes back to its values before, if that was chosen', async () => {
    const ended = await breakSlew('back');
    expect(ended.text).toContain(`${LIFT}: Went back to the values before, saved.`);
    plant.unit(LIFT).memory.recall();
    expect([gains()[0], gains()[2]]).toEqual([300, 302]);
    expect(ended.plans[0]?.holds).toBe('It holds what it held before.');
    expect(controller().runs).toBe(false);
  });

  it('that the controller is not ready after its restart is said, with all axes proven', async () => {
    controller().stuck = true;
    const ended = await carryOut(await plan());
    expect([ended.state, ended.text]).toEqual([
      'failed',
      expect.stringContaining('is not ready after its restart'),
    ]);
    expect(ended.plans.map(({ state }) => state)).toEqual(['done', 'done', 'done']);
  }, 60_000);
});
