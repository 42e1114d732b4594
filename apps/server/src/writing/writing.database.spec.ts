import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type {
  ComparisonView,
  HistoryView,
  LogbookPage,
  PositionDetailView,
  Problem,
  WritePlanView,
} from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { RunningPlant, until, type Caller } from '../testing/running-plant.ts';

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
  unit.setMischief({ silent: false, breakAfter: 0, refuse: [], corrupt: null, swap: null, event: null });
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

describe('a locked unit', () => {
  it('is unlocked first and locked again last, as the plan says', async () => {
    const lock = plant.code('unit.lock');
    plant.unit(TAG).memory.force(lock, 41);
    await plant.backUp(technician, TAG);
    const plan = await makePlan(['ramp.up']);
    expect(plan.steps.map(({ code, phase, reason }) => [code, phase, reason.kind])).toEqual([
      [lock, 'unlock', 'unlocks'],
      [plant.code('ramp.up'), 'settings', 'asked'],
      [lock, 'lock', 'asked'],
    ]);
    expect((await carryOut(plan)).state).toBe('done');
    expect(plant.unit(TAG).memory.get(lock)).toBe(41);
  });

  it('that locked itself in the middle explains its refusal', async () => {
    const plan = await makePlan();
    plant.unit(TAG).setMischief({ event: { after: READS + PER_STEP, what: 'lock' } });
    const ended = await carryOut(plan);
    expect([ended.state, ended.text]).toEqual([
      'failed',
      expect.stringMatching(/was refused: the unit is locked or running/),
    ]);
    expect(ended.holds).toMatch(/^1 of 4 writes are in the working memory/);
  });
});

/** Requests of one backup of this model, and of one step: who it is, whether it stands, the write, the read-back. */
const READS = 6;
const PER_STEP = 4;

describe('a write that breaks off', () => {
  const unit = () => plant.unit(TAG);
  const heldNow = () => Object.fromEntries([...held.keys()].map((code) => [code, unit().memory.get(code)]));

  const follow = async (id: string, kind: 'resume' | 'undo'): Promise<WritePlanView> => {
    const { status, body } = await technician.post<WritePlanView>(`write-plans/${id}/follow-ups`, { kind });
    expect([status, body.kind, body.follows]).toEqual([201, kind, id]);
    return carryOut(body);
  };

  /** Mended, whatever had been wrong with the unit; what it holds stays. */
  const mend = async (): Promise<void> => {
    unit().runContact = false;
    unit().serial = unit().description.serial;
    unit().setMischief({ silent: false, breakAfter: 0, swap: null, event: null });
    // Up again and no longer at work with a procedure: a function code without the mark of an exception.
    const ready = () =>
      unit()
        .answer(Buffer.from([3, 16, 30, 0, 1]))
        ?.readUInt8(0) === 3;
    await until(() => Promise.resolve(ready() || undefined));
    await until(() => Promise.resolve(unit().running ? undefined : true));
  };

  /** From whatever the unit holds to the target, and then back to what it held before. */
  const bringThrough = async (plan: WritePlanView): Promise<void> => {
    await mend();
    const before = Object.fromEntries(held);
    const target = { ...before, ...Object.fromEntries(plan.steps.map(({ code, to }) => [code, to])) };
    const rest = await follow(plan.id, 'resume');
    expect([rest.state, rest.text]).toEqual(['done', expect.any(String)]);
    expect(heldNow()).toEqual(target);
    unit().memory.recall();
    expect(heldNow()).toEqual(target);
    const undone = await follow(plan.id, 'undo');
    expect([undone.state, undone.text]).toEqual(['done', expect.any(String)]);
    unit().memory.recall();
    expect(heldNow()).toEqual(before);
  };

  // Every request of the writes, the save and the backup after it.
  const requests = Array.from({ length: 4 * PER_STEP + 3 }, (_, at) => READS + at + 1);

  it.each(requests)('at request %i by a cut line is brought to its end, and taken back', async (request) => {
    const plan = await makePlan();
    unit().setMischief({ breakAfter: request });
    const ended = await carryOut(plan);
    const nothing = ended.steps.every(({ state }) => state === 'planned');
    expect(ended.state).toBe(nothing ? 'refused' : 'failed');
    const written = ended.steps.filter(({ state }) => state === 'written');
    for (const { code, to } of written) expect([code, unit().memory.get(code)]).toEqual([code, to]);
    for (const { code, from } of ended.steps.filter(({ state }) => state === 'planned'))
      expect([code, unit().memory.get(code)]).toEqual([code, from]);
    expect(ended.holds).toMatch(
      ended.saved
        ? /saved permanently/
        : written.length === 0
          ? /^Nothing was written/
          : /not saved permanently/,
    );
    if (nothing) {
      expect(ended.followUps).toEqual([]);
      return;
    }
    await bringThrough(ended);
  });

  it.each([0, 1, 2, 3])('before step %i by a start of the machine stops at once', async (step) => {
    const plan = await makePlan();
    unit().setMischief({ event: { after: READS + step * PER_STEP, what: 'start' } });
    const ended = await carryOut(plan);
    expect([ended.state, ended.text]).toEqual([
      step === 0 ? 'refused' : 'failed',
      expect.stringMatching(/is running\. Stop the machine/),
    ]);
    expect(ended.steps.filter(({ state }) => state === 'written')).toHaveLength(step);
    if (step > 0) await bringThrough(ended);
    else await mend();
  });

  it.each([1, 2, 3])(
    'before step %i because another unit was put in writes nothing into that',
    async (step) => {
      const plan = await makePlan();
      unit().setMischief({ swap: { after: READS + step * PER_STEP, serial: 4711 } });
      const ended = await carryOut(plan);
      expect([ended.state, ended.text]).toEqual([
        'failed',
        expect.stringMatching(/Serial number 4711 answers now/),
      ]);
      expect(ended.steps.filter(({ state }) => state === 'written')).toHaveLength(step);
      await bringThrough(ended);
    },
  );

  it.each([1, 2, 3, 4])('after step %i by a power cut, which takes what was not saved', async (step) => {
    const plan = await makePlan();
    unit().setMischief({ event: { after: READS + step * PER_STEP, what: 'power-cycle' } });
    const ended = await carryOut(plan);
    expect(ended.state).toBe('failed');
    expect(ended.saved).toBe(false);
    expect(ended.holds).toMatch(/a power cycle brings the former values back/);
    expect(heldNow()).toEqual(Object.fromEntries(held));
    await bringThrough(ended);
  });

  it('has no rest where all was done, and can still be taken back', async () => {
    const done = await carryOut(await makePlan());
    expect(done.followUps).toEqual(['undo']);
    const none = await technician.post<Problem>(`write-plans/${done.id}/follow-ups`, { kind: 'resume' });
    expect([none.status, none.body.detail]).toEqual([409, expect.stringContaining('no rest to write')]);
    expect((await follow(done.id, 'undo')).state).toBe('done');
    expect(heldNow()).toEqual(Object.fromEntries(held));
  });

  it('is not followed while the unit does not answer, by a viewer, or on another unit', async () => {
    const done = await carryOut(await makePlan());
    expect((await viewer.post(`write-plans/${done.id}/follow-ups`, { kind: 'undo' })).status).toBe(403);
    unit().setMischief({ silent: true });
    const silent = await technician.post<Problem>(`write-plans/${done.id}/follow-ups`, { kind: 'undo' });
    expect([silent.status, silent.body.detail]).toEqual([502, expect.stringContaining('did not answer')]);
  });
});

describe('a restart check', () => {
  it('proves that the values are still there after the unit was restarted', async () => {
    const plan = await makePlan(['ramp.up']);
    await technician.post(`write-plans/${plan.id}/release`, { stoppedAndSafe: true });
    await technician.post(`write-plans/${plan.id}/carry-out`, { restartCheck: true });
    const done = await plant.planEnd(technician, plan.id);
    expect([done.state, done.text]).toEqual(['done', expect.stringContaining('Still there after a restart')]);
    expect(plant.unit(TAG).memory.get(plant.code('ramp.up'))).toBe(800);
  });
});

describe('a spare unit of the same model in place of the old one', () => {
  const SPARE = 6_900_321;
  const PLACE = 'KL1-RD-05';
  const values = async (): Promise<Record<string, number>> => {
    const { newestBackup } = (await technician.get<PositionDetailView>(`positions/${PLACE}`)).body;
    expect(newestBackup).not.toBeNull();
    return plant.unit(PLACE).memory.snapshot();
  };

  it('with a newer firmware gets the baseline, carried over; what has no home is named', async () => {
    const old = plant.unit(PLACE);
    old.runContact = false;
    const before = await values();
    const engineer = await plant.signIn('engineer');
    const swapped = await engineer.post(`positions/${PLACE}/swap`, {
      ...{
        dictionary: 'halvern-hn64@2',
        rating: 'HN64-15',
        region: '50-hz',
        serial: SPARE,
        firmware: '3.10',
      },
      ...{ line: old.description.line, lineAddress: old.description.address, reason: 'Output stage failed' },
    });
    expect(swapped.status).toBe(200);
    const spare = plant.replaceUnit(PLACE, { dictionary: 'halvern-hn64@2', serial: SPARE, firmware: 310 });

    const early = await technician.post<Problem>(`positions/${PLACE}/write-plans`, { target: 'baseline' });
    expect([early.status, early.body.detail]).toEqual([
      422,
      expect.stringContaining('Back the unit up first'),
    ]);
    await plant.backUp(technician, PLACE);
    const { status, body: plan } = await technician.post<WritePlanView>(`positions/${PLACE}/write-plans`, {
      target: 'baseline',
    });
    expect(status).toBe(201);
    expect(plan.unreachable.map(({ code }) => code)).toEqual(expect.arrayContaining(['08U']));
    const done = await carryOut(plan);
    expect([done.state, done.text]).toEqual(['done', expect.any(String)]);
    const lost = new Set(plan.unreachable.map(({ code }) => code));
    for (const code of ['01R', '02R', '01C', '10C', '03M', '13R'])
      expect([code, lost.has(code), spare.memory.get(code)]).toEqual([code, false, before[code]]);
    expect(spare.memory.get(plant.code('unit.serial'))).not.toBe(old.serial);
  }, 60_000);
});
