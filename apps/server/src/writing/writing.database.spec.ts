import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { ComparisonView, HistoryView, LogbookPage, Problem, WritePlanView } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

const TAG = 'KL1-RD-07';
const CHANGED = ['ramp.up', 'stop.mode', 'preset.3', 'protect.overloadCurrent'];

let plant: RunningPlant;
let technician: Caller;
let viewer: Caller;
const held = new Map<string, number>();

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
  viewer = await plant.signIn('viewer');
  for (const code of Object.keys(plant.unit(TAG).memory.snapshot()))
    held.set(code, plant.unit(TAG).memory.get(code));
});
afterAll(() => plant.stop());

/** The unit as the story has it, standing, with a fresh backup. */
beforeEach(async () => {
  const unit = plant.unit(TAG);
  unit.runContact = false;
  unit.serial = unit.description.serial;
  unit.setMischief({ silent: false, breakAfter: 0, refuse: [], corrupt: null, swap: null });
  for (const [code, raw] of held) unit.memory.force(code, raw);
  await plant.backUp(technician, TAG);
});

const drift = async (a = 'baseline', b = 'newest') =>
  (await technician.get<ComparisonView>(`positions/${TAG}/comparison?a=${a}&b=${b}`)).body.rows;

async function makePlan(meanings: readonly string[] = CHANGED, target = 'baseline'): Promise<WritePlanView> {
  const codes = meanings.map((meaning) => plant.code(meaning));
  const { status, body } = await technician.post<WritePlanView>(`positions/${TAG}/write-plans`, {
    target,
    codes,
  });
  expect(status).toBe(201);
  return body;
}

async function carryOut(plan: WritePlanView): Promise<WritePlanView> {
  await technician.post(`write-plans/${plan.id}/release`, { stoppedAndSafe: true });
  const begun = await technician.post<WritePlanView>(`write-plans/${plan.id}/carry-out`);
  expect(begun.status).toBe(202);
  return plant.planEnd(technician, plan.id);
}

describe('putting back', () => {
  it('writes the marked differences, reads them back, saves them, and the drift is gone', async () => {
    expect((await drift()).map((row) => row.code)).toEqual(CHANGED.map((meaning) => plant.code(meaning)));
    const plan = await makePlan();
    expect(plan.steps.map(({ from, to }) => [from, to])).toEqual([
      [2000, 800],
      [1, 0],
      [900, 1200],
      [630, 360],
    ]);
    const done = await carryOut(plan);
    expect([done.state, done.saved]).toEqual(['done', true]);
    expect(done.steps.map(({ state, to, readBack }) => [state, readBack === to])).toEqual(
      CHANGED.map(() => ['written', true]),
    );
    expect(await drift()).toEqual([]);
    // Saved permanently: a power cycle does not bring the old values back.
    plant.unit(TAG).memory.recall();
    expect(plant.unit(TAG).memory.get(plant.code('ramp.up'))).toBe(800);
  });

  it('leaves what was not marked', async () => {
    await carryOut(await makePlan(['protect.overloadCurrent']));
    expect((await drift()).map((row) => row.code)).toEqual(
      ['ramp.up', 'stop.mode', 'preset.3'].map((m) => plant.code(m)),
    );
  });

  it('takes a backup before and after, and writes it all into the logbook', async () => {
    const done = await carryOut(await makePlan());
    const { backups } = (await technician.get<HistoryView>(`positions/${TAG}/history`)).body;
    const how = (id: string | null) => backups.find((backup) => backup.id === id)?.how;
    expect([how(done.backupBefore), how(done.backupAfter)]).toEqual(['before-write', 'after-write']);
    const { entries } = (await technician.get<LogbookPage>(`logbook?tag=${TAG}&most=5`)).body;
    const actions = entries.map((entry) => [entry.action, entry.person]);
    expect(actions).toEqual(
      expect.arrayContaining(
        ['written', 'write-started', 'released', 'write-planned'].map((action) => [action, 'T. Pellow']),
      ),
    );
  });

  it('follows what a structural write puts back on the way', async () => {
    const unit = plant.unit(TAG);
    const method = plant.code('unit.controlMethod');
    unit.memory.force(method, 2);
    await plant.backUp(technician, TAG);
    const plan = await makePlan(['unit.controlMethod']);
    expect(plan.steps[0]).toMatchObject({
      code: method,
      to: 0,
      phase: 'structure',
      reason: { kind: 'asked' },
    });
    expect(plan.steps.slice(1).every(({ reason }) => reason.kind === 'put-back-by')).toBe(true);
    const done = await carryOut(plan);
    expect(done.state).toBe('done');
    // Whatever the write of the method put back has its former value again.
    for (const [code, raw] of held)
      if (code !== method) expect([code, unit.memory.get(code)]).toEqual([code, raw]);
  });

  it('can go back to an older backup and to the defaults, too', async () => {
    const { backups } = (await technician.get<HistoryView>(`positions/${TAG}/history`)).body;
    const first = backups[0]?.id ?? '';
    const toFirst = await makePlan(['preset.1'], `backup:${first}`);
    expect(toFirst.steps.map((step) => step.to)).toEqual([3000]);
    const toDefault = await makePlan(['preset.1'], 'default');
    expect(toDefault.steps.map((step) => step.to)).toEqual([500]);
  });
});

describe('a write is refused, with the reason and without a trace in the unit,', () => {
  const untouched = () => {
    for (const meaning of CHANGED) {
      const code = plant.code(meaning);
      expect([code, plant.unit(TAG).memory.get(code)]).toEqual([code, held.get(code)]);
    }
  };

  it('while the unit runs', async () => {
    const plan = await makePlan();
    plant.unit(TAG).runContact = true;
    const ended = await carryOut(plan);
    expect(ended.state).toBe('refused');
    expect(ended.text).toMatch(/is running\. Stop the machine.*Nothing was written/);
    expect(ended.steps.every((step) => step.state === 'planned')).toBe(true);
    plant.unit(TAG).runContact = false;
    untouched();
  });

  it('for another serial number', async () => {
    const plan = await makePlan();
    plant.unit(TAG).serial = 1234;
    const ended = await carryOut(plan);
    expect([ended.state, ended.text]).toEqual([
      'refused',
      expect.stringMatching(/Serial number 1234 answers.*Nothing was written/),
    ]);
    untouched();
  });

  it('when the unit holds other values than when it was planned', async () => {
    const plan = await makePlan();
    plant.unit(TAG).memory.force(plant.code('ramp.down'), 777);
    const ended = await carryOut(plan);
    expect([ended.state, ended.text]).toEqual(['refused', expect.stringContaining(plant.code('ramp.down'))]);
    untouched();
  });

  it('when nothing answers', async () => {
    const plan = await makePlan();
    plant.unit(TAG).setMischief({ silent: true });
    const ended = await carryOut(plan);
    expect([ended.state, ended.text]).toEqual([
      'refused',
      expect.stringMatching(/did not answer.*Nothing was written/),
    ]);
  });

  it('without a release, after it has run out, and a second time', async () => {
    const plan = await makePlan();
    const start = () => technician.post<Problem>(`write-plans/${plan.id}/carry-out`);
    expect((await start()).body.detail).toMatch(/not released/);
    await technician.post(`write-plans/${plan.id}/release`, { stoppedAndSafe: true });
    const late = `update write_plan set released_until = now() - interval '1 second' where id = $1`;
    await plant.app.get(DataSource).query(late, [plan.id]);
    expect((await start()).status).toBe(409);
    await technician.post(`write-plans/${plan.id}/release`, { stoppedAndSafe: true });
    const both = await Promise.all([start(), start()]);
    expect(both.map(({ status }) => status).sort()).toEqual([202, 409]);
    expect((await plant.planEnd(technician, plan.id)).state).toBe('done');
    expect((await start()).status).toBe(409);
  });

  it('for a viewer', async () => {
    const plan = await makePlan();
    const paths = [
      `positions/${TAG}/write-plans`,
      `write-plans/${plan.id}/release`,
      `write-plans/${plan.id}/carry-out`,
    ];
    const bodies = [{ target: 'baseline', codes: ['01R'] }, { stoppedAndSafe: true }, {}];
    for (const [at, path] of paths.entries()) {
      const refused = await viewer.post<Problem>(path, bodies[at]);
      expect([refused.status, refused.body.type]).toEqual([403, 'urn:drive-keep:role']);
    }
  });

  it('for values that the unit cannot hold: they are named and left out of the plan', async () => {
    const form = new FormData();
    const csv = `code,value\n${plant.code('ramp.up')},650.00\n${plant.code('ramp.down')},9.00\n`;
    form.set('file', new Blob([csv]), 'odd.csv');
    const preview = await technician.post<{ hash: string }>(`positions/${TAG}/imports/preview`, form);
    form.set('hash', preview.body.hash);
    const kept = await technician.post<{ backupId: string }>(`positions/${TAG}/imports`, form);
    await plant.backUp(technician, TAG);
    const plan = await makePlan(['ramp.up', 'ramp.down'], `backup:${kept.body.backupId}`);
    expect(plan.unreachable[0]?.text).toContain('650.00 s is above the greatest value, 600.00 s');
    expect(plan.steps.map((step) => step.code)).toEqual([plant.code('ramp.down')]);
  });

  it('for codes that do not exist or can only be read', async () => {
    const codes = ['99X', plant.code('monitor.current')];
    const { body } = await technician.post<WritePlanView>(`positions/${TAG}/write-plans`, {
      target: 'baseline',
      codes,
    });
    expect(body.unreachable.map(({ cause }) => cause.code)).toEqual(['unknown-code', 'nothing-to-write']);
    expect(
      (await technician.post<Problem>(`write-plans/${body.id}/release`, { stoppedAndSafe: true })).status,
    ).toBe(409);
  });

  it('without the statement that the machine is stopped', async () => {
    const plan = await makePlan();
    const refused = await technician.post<Problem>(`write-plans/${plan.id}/release`, {
      stoppedAndSafe: false,
    });
    expect([refused.status, refused.body.detail]).toEqual([400, expect.stringContaining('stoppedAndSafe')]);
  });
});

describe('a write that breaks off', () => {
  it('says which values are in the unit and that they are not saved', async () => {
    const plan = await makePlan();
    // One read of the whole unit, then status, write and read-back of the first step; the second step is cut.
    const reads = 6;
    plant.unit(TAG).setMischief({ breakAfter: reads + 5 });
    const ended = await carryOut(plan);
    expect(ended.state).toBe('failed');
    expect(ended.steps[0]?.state).toBe('written');
    expect(ended.steps.at(-1)?.state).toBe('planned');
    expect(ended.holds).toMatch(/^1 of 4 writes are in the working memory.*not saved permanently/);
    plant.unit(TAG).setMischief({ breakAfter: 0 });
    plant.unit(TAG).memory.recall();
    expect(plant.unit(TAG).memory.get(plant.code('ramp.up'))).toBe(2000);
  });

  it('explains a refusal of the unit', async () => {
    const plan = await makePlan(['ramp.up']);
    await technician.post(`write-plans/${plan.id}/release`, { stoppedAndSafe: true });
    // Locked after the plan was made and checked: only the unit itself can refuse now.
    plant.unit(TAG).memory.force(plant.code('network.writeLock'), 1);
    await plant.backUp(technician, TAG);
    const locked = await makePlan(['ramp.up']);
    const ended = await carryOut(locked);
    expect([ended.state, ended.text]).toEqual([
      'failed',
      expect.stringMatching(/was refused: the unit is locked or running/),
    ]);
    expect(ended.holds).toMatch(/Nothing was written/);
  });
});
