import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type {
  ComparisonView,
  HistoryView,
  LogbookPage,
  PositionDetailView,
  Problem,
  WritePlanView,
} from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { loadModels } from '@drive-keep/plant-sim';
import { DataSource } from 'typeorm';
import { identityPlaces } from '../lines/identity.ts';
import { planReads } from '../lines/read-plan.ts';
import { MODELS_FOLDER, until, type Caller, type RunningPlant } from '../testing/running-plant.ts';
import { PER_STEP, READS, SectionSeven } from '../testing/section-seven.ts';

const TAG = SectionSeven.tag;
const CHANGED = SectionSeven.changed;

let section: SectionSeven;
let plant: RunningPlant;
let technician: Caller;
let viewer: Caller;

beforeAll(async () => {
  section = await SectionSeven.start();
  ({ plant, technician } = section);
  viewer = await plant.signIn('viewer');
});
afterAll(() => section.stop());
beforeEach(() => section.standAsInTheStory());

const drift = async (a = 'baseline', b = 'newest') =>
  (await technician.get<ComparisonView>(`positions/${TAG}/comparison?a=${a}&b=${b}`)).body.rows;
const makePlan: SectionSeven['plan'] = (...asked) => section.plan(...asked);
const carryOut: SectionSeven['carryOut'] = (...plan) => section.carryOut(...plan);

describe('a plan without a write', () => {
  it('saves what somebody has tried out in the working memory', async () => {
    const up = plant.code('ramp.up');
    section.unit.memory.forceWorking(up, 1234);
    await plant.backUp(technician, TAG);
    const { body } = await technician.post<WritePlanView>(`positions/${TAG}/write-plans`, {
      target: 'newest',
    });
    expect(body.steps).toEqual([]);
    const done = await carryOut(body);
    expect([done.state, done.saved, done.text]).toEqual([
      'done',
      true,
      'Nothing had to be written, saved permanently.',
    ]);
    section.unit.memory.recall();
    expect(section.unit.memory.get(up)).toBe(1234);
  });

  it('is none for a model that keeps every value at once', async () => {
    await plant.backUp(technician, 'GL-BE-01');
    const { body } = await technician.post<WritePlanView>('positions/GL-BE-01/write-plans', {
      target: 'newest',
    });
    const refused = await technician.post<Problem>(`write-plans/${body.id}/release`, {
      stoppedAndSafe: true,
    });
    expect([refused.status, refused.body.detail]).toEqual([
      409,
      'The plan has nothing to write, and this model keeps every value at once.',
    ]);
  });
});

/** Requests of one backup. */
function wholeReads(model: Dictionary | undefined): number {
  if (!model?.line) throw new Error('no line');
  const places = model.parameters.flatMap(({ register }) =>
    register
      ? [{ address: register.address, count: register.width === 32 ? (2 as const) : (1 as const) }]
      : [],
  );
  return planReads([...identityPlaces(model.line), ...places], model.line).length;
}

describe('a unit that keeps every write at once', () => {
  it('is not asked to save, and what was written before a cut line is said to be kept', async () => {
    const belt = plant.unit('GL-BE-01');
    belt.runContact = false;
    await until(() => Promise.resolve(belt.running ? undefined : true));
    const before = belt.memory.snapshot();
    await plant.backUp(technician, 'GL-BE-01');
    const make = async () =>
      (
        await technician.post<WritePlanView>('positions/GL-BE-01/write-plans', {
          target: 'default',
          codes: ['2/01', '2/02'],
        })
      ).body;
    const plan = await make();
    expect(plan.steps).toHaveLength(2);
    const done = await carryOut(plan);
    expect(done.text).toBe('2 values written, read back, kept by the unit at once.');
    belt.memory.recall();
    for (const { code, to } of plan.steps) expect([code, belt.memory.get(code)]).toEqual([code, to]);
    for (const { code } of plan.steps) belt.memory.force(code, before[code] ?? 0);
    await plant.backUp(technician, 'GL-BE-01');
    const again = await make();
    // Cut after its first step: the whole unit is read before that.
    const reads = wholeReads(loadModels(MODELS_FOLDER).get('halvern-hn20@1'));
    belt.setMischief({ event: { after: reads + PER_STEP, what: 'power-cycle' } });
    const ended = await carryOut(again);
    belt.setMischief({ event: null });
    expect([ended.state, ended.holds]).toEqual([
      'failed',
      'Read afterwards: 1 of 1 written values are in the unit. The unit keeps every write at once.',
    ]);
    expect(belt.memory.get('2/01')).toBe(again.steps[0]?.to);
  }, 60_000);
});

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
      ['ramp.up', 'stop.mode', 'preset.contact.3'].map((m) => plant.code(m)),
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
    const method = plant.code('motor.controlMethod');
    unit.memory.force(method, 2);
    await plant.backUp(technician, TAG);
    const plan = await makePlan(['motor.controlMethod']);
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
    for (const [code, raw] of section.held)
      if (code !== method) expect([code, unit.memory.get(code)]).toEqual([code, raw]);
  });

  it('can go back to an older backup and to the defaults, too', async () => {
    const { backups } = (await technician.get<HistoryView>(`positions/${TAG}/history`)).body;
    const first = backups[0]?.id ?? '';
    const toFirst = await makePlan(['preset.contact.1'], `backup:${first}`);
    expect(toFirst.steps.map((step) => step.to)).toEqual([3000]);
    const toDefault = await makePlan(['preset.contact.1'], 'default');
    expect(toDefault.steps.map((step) => step.to)).toEqual([500]);
  });
});

describe('a write is refused, with the reason and without a trace in the unit,', () => {
  const untouched = () => {
    for (const meaning of CHANGED) {
      const code = plant.code(meaning);
      expect([code, plant.unit(TAG).memory.get(code)]).toEqual([code, section.held.get(code)]);
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
    const kept = await technician.post<{ partId: string }>(`positions/${TAG}/imports`, form);
    await plant.backUp(technician, TAG);
    const plan = await makePlan(['ramp.up', 'ramp.down'], `part:${kept.body.partId}`);
    expect(plan.unreachable[0]?.text).toContain('650.00 s is above the maximum value, 600.00 s');
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
    expect(ended.holds).toMatch(
      /^Read afterwards: 1 of 2 written values are in the unit\. \w+ holds the former value\. They are not saved permanently/,
    );
  });
});

describe('a restart check', () => {
  it('proves that the values are still there after the unit was restarted', async () => {
    const plan = await makePlan(['ramp.up']);
    const done = await carryOut(plan, { restartCheck: true });
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

it('a unit whose older firmware refuses registers is written to all the same', async () => {
  const tag = 'KL1-RD-09';
  const unit = plant.unit(tag);
  unit.runContact = false;
  await until(() => (unit.running ? undefined : true));
  await plant.backUp(technician, tag);
  const code = plant.code('ramp.up');
  const raw = unit.memory.get(code) + 5;
  const wish = { target: `values:${code}=${raw}`, codes: [code] };
  const { body } = await technician.post<WritePlanView>(`positions/${tag}/write-plans`, wish);
  await technician.post(`write-plans/${body.id}/release`, { stoppedAndSafe: true });
  await technician.post(`write-plans/${body.id}/carry-out`);
  const ended = await plant.planEnd(technician, body.id);
  expect([ended.state, unit.memory.get(code)]).toEqual(['done', raw]);
  expect(ended.text).toMatch(
    /^1 value written, read back.* 13P, 26P cannot be read at this unit: nothing of that is proven\./,
  );
}, 60_000);
