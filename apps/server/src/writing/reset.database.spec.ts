import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ComparisonView, KeyInSheetView, Problem, ResetView, WritePlanView } from '@drive-keep/api';
import { RunningPlant, until, type Caller } from '../testing/running-plant.ts';

/** The combustion air fan of the story: reset once with the other region. */
const FAN = 'KL1-CA-01';
/** Requests of one backup of this model. */
const READS = 5;
/** Reads one register; an answer without the mark of an exception says that the unit is not busy. */
const STATUS = Buffer.from([3, 12, 134, 0, 1]);

/** A unit without a line. */
const HAND = 'BP-AG-02';

let plant: RunningPlant;
let technician: Caller;
const held = new Map<string, number>();

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
  const unit = plant.unit(FAN);
  unit.runContact = false;
  for (const code of Object.keys(unit.memory.snapshot())) held.set(code, unit.memory.get(code));
  await plant.backUp(technician, FAN);
});
afterAll(() => plant.stop());

const preview = async (query = '', tag = FAN) =>
  (await technician.get<ResetView>(`positions/${tag}/reset?${query}`)).body;
const drift = async () =>
  (await technician.get<ComparisonView>(`positions/${FAN}/comparison?a=baseline&b=newest`)).body.rows.map(
    ({ code }) => code,
  );
const plan = async (body: object, tag = FAN) =>
  technician.post<WritePlanView>(`positions/${tag}/reset-plans`, body);

async function carryOut({ id }: WritePlanView): Promise<WritePlanView> {
  await technician.post(`write-plans/${id}/release`, { stoppedAndSafe: true });
  await technician.post(`write-plans/${id}/carry-out`);
  return plant.planEnd(technician, id);
}

describe('before a reset', () => {
  it('it is said that the unit holds the defaults of the other region, and where', async () => {
    const { otherRegion, region, overLine, regions } = await preview();
    expect(otherRegion).toMatchObject({
      name: '60 Hz, imperial',
      codes: expect.arrayContaining(['FM04', 'FL01']),
    });
    expect([region, overLine, regions.length]).toEqual(['50-hz', true, 2]);
  });

  it('what would be lost is told with what the baseline wants, in menu order; what stays is told, too', async () => {
    const { losses, keeps } = await preview();
    const codes = losses.map(({ code }) => code);
    expect(codes.indexOf('FM04')).toBeLessThan(codes.indexOf('FL01'));
    expect(losses.find(({ code }) => code === 'FL01')).toEqual({
      code: 'FL01',
      now: 200,
      after: 600,
      baseline: 450,
    });
    expect(keeps).toEqual(expect.arrayContaining(['FN01']));
    expect(codes.some((code) => keeps.includes(code))).toBe(false);
  });

  it('another region and another scope lose other things', async () => {
    const all = await preview('region=60-hz');
    expect(all.losses.find(({ code }) => code === 'FM04')).toMatchObject({
      now: 600,
      after: 600,
      baseline: 500,
    });
    const loop = await preview('scope=2');
    expect(
      loop.losses.filter(({ now, after }) => now !== after).every(({ code }) => /^(FP|FU0[12])/.test(code)),
    ).toBe(true);
    expect(loop.keeps.length).toBeGreaterThan(all.keeps.length);
    const odd = await technician.get<Problem>(`positions/${FAN}/reset?scope=7`);
    expect([odd.status, odd.body.detail]).toEqual([
      422,
      expect.stringContaining('0 (all), 1 (all but the motor)'),
    ]);
    const nowhere = await technician.get<Problem>(`positions/${FAN}/reset?region=moon`);
    expect([nowhere.status, nowhere.body.detail]).toEqual([422, expect.stringContaining('50-hz, 60-hz')]);
  });

  it('a unit without a line is told its steps and planned nothing', async () => {
    const agitator = await preview('', HAND);
    expect([agitator.overLine, agitator.steps.length]).toEqual([false, 3]);
    const refused = await plan({ putBack: [] }, HAND);
    expect(refused.status).toBe(422);
  });
});

describe('a unit that is reset at its keypad', () => {
  it('gets one sheet: the procedure, then what goes back from the defaults it will hold, then saving', async () => {
    const { losses, steps } = await preview('', HAND);
    const codes = losses.filter(({ code }) => code !== '9/01').map(({ code }) => code);
    const { status, body } = await technician.post<KeyInSheetView>(`positions/${HAND}/reset-key-in-sheets`, {
      putBack: codes,
    });
    expect([status, body.first]).toEqual([201, steps]);
    expect(body.afterwards).toEqual(['This model keeps every change at once.']);
    const byCode = new Map(losses.map((loss) => [loss.code, loss]));
    const changes = body.lines.filter(({ kind }) => kind === 'change');
    expect(changes.map(({ code }) => code).sort()).toEqual([...codes].sort());
    // What it will hold then is the default, whatever it holds now.
    for (const { code, from, to } of changes)
      expect([code, from, to]).toEqual([
        code,
        byCode.get(code)?.after,
        byCode.get(code)?.baseline ?? byCode.get(code)?.now,
      ]);
  });
});

describe('the wrong-region fan', () => {
  it('is reset for its own region, and what the baseline wants goes back: the drift is gone', async () => {
    const before = await preview();
    const wanted = before.losses.filter(({ baseline, after }) => baseline !== null && baseline !== after);
    const { status, body } = await plan({
      region: '50-hz',
      scope: 0,
      putBack: wanted.map(({ code }) => code),
    });
    expect([status, body.kind]).toEqual([201, 'reset']);
    expect(body.steps.slice(0, 3).map(({ code, to, phase }) => [code, to, phase])).toEqual([
      ['FU01', 0, 'reset'],
      ['FU02', 0, 'reset'],
      ['FU03', 618, 'reset'],
    ]);
    const done = await carryOut(body);
    expect([done.state, done.text]).toEqual([
      'done',
      expect.stringMatching(/^Reset, defaults proven\. \d+ values written/),
    ]);
    expect(await drift()).toEqual([]);
    expect((await preview()).otherRegion).toBeNull();
    plant.unit(FAN).memory.recall();
    expect(plant.unit(FAN).memory.get('FM04')).toBe(500);
  }, 60_000);

  it('can be brought back to what it held before the reset', async () => {
    const [newest] = (await technician.get<WritePlanView[]>(`positions/${FAN}/write-plans`)).body;
    const { body } = await technician.post<WritePlanView>(`write-plans/${newest?.id ?? ''}/follow-ups`, {
      kind: 'undo',
    });
    expect((await carryOut(body)).state).toBe('done');
    for (const [code, raw] of held) expect([code, plant.unit(FAN).memory.get(code)]).toEqual([code, raw]);
  });
});

describe('a reset that goes wrong', () => {
  it('is refused for a unit that runs, without a trace', async () => {
    const { body } = await plan({ putBack: [] });
    plant.unit(FAN).setMischief({ event: { after: READS, what: 'start' } });
    const ended = await carryOut(body);
    plant.unit(FAN).setMischief({ event: null });
    plant.unit(FAN).runContact = false;
    await until(() => Promise.resolve(plant.unit(FAN).running ? undefined : true));
    expect([ended.state, ended.text]).toEqual(['refused', expect.stringContaining('is running')]);
    expect(ended.steps.every(({ state }) => state === 'planned')).toBe(true);
    expect(plant.unit(FAN).memory.get('FM04')).toBe(600);
  });

  it('that was cut in the middle is gone on with from what the unit holds then', async () => {
    const { body } = await plan({ region: '50-hz', scope: 0, putBack: ['FL01', 'FL02'] });
    // Cut while the unit is busy with its reset: whether it came to its end is not known.
    plant.unit(FAN).setMischief({ breakAfter: READS + 30 });
    const ended = await carryOut(body);
    plant.unit(FAN).setMischief({ breakAfter: 0 });
    expect([ended.state, ended.holds]).toEqual([
      'failed',
      expect.stringContaining('Whether FU03 was taken is not known'),
    ]);
    await until(() => Promise.resolve(plant.unit(FAN).answer(STATUS)?.readUInt8(0) === 3 || undefined));
    const { body: rest } = await technician.post<WritePlanView>(`write-plans/${body.id}/follow-ups`, {
      kind: 'resume',
    });
    const done = await carryOut(rest);
    expect([done.state, done.text]).toEqual(['done', expect.any(String)]);
    const { memory } = plant.unit(FAN);
    expect([memory.get('FM04'), memory.get('FL01'), memory.get('FC01')]).toEqual([500, 450, 0]);
  }, 60_000);

  it('says which parameters do not hold their defaults after it', async () => {
    const { body } = await plan({ region: '50-hz', scope: 0, putBack: [] });
    const unit = plant.unit(FAN);
    const resetBy = unit.memory.resetBy.bind(unit.memory);
    // A firmware that forgets one of them.
    unit.memory.resetBy = (...args) => {
      const busy = resetBy(...args);
      unit.memory.forceWorking('FL05', 77);
      return busy;
    };
    const ended = await carryOut(body);
    unit.memory.resetBy = resetBy;
    expect([ended.state, ended.text]).toEqual([
      'failed',
      expect.stringContaining('do not hold their defaults: FL05'),
    ]);
    expect(ended.followUps).toEqual(['resume', 'undo']);
  }, 60_000);
});
