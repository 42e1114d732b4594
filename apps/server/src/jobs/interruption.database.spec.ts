// The server process itself is killed in the middle of a job: nothing is lost, and everybody is told.

import type { ChildProcess } from 'node:child_process';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  AxisLoadView,
  HistoryView,
  JobView,
  RoundView,
  StartedJob,
  WritePlanView,
} from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { BackupRun } from '../backup/backup-run.service.ts';
import { lastDue } from '../rounds/due-times.ts';
import { RoundClock } from '../rounds/round-clock.service.ts';
import { WorkQueue } from '../queue/work-queue.service.ts';
import { RunningPlant, until, type Caller } from '../testing/running-plant.ts';
import { kill, signInAt, startServer } from '../testing/server-process.ts';

let plant: RunningPlant;

beforeAll(async () => {
  plant = await RunningPlant.start();
}, 60_000);
afterAll(() => plant.stop());

/** The process that is killed next, and who is signed in there. */
let doomed: Started;

interface Started {
  readonly child: ChildProcess;
  readonly caller: Caller;
}

async function start(): Promise<Started> {
  const { child, base } = await startServer(plant.database.url, plant.ports);
  return { child, caller: await signInAt(base) };
}

/** Kills the process and starts another one, which finds what was left. */
async function killed(): Promise<Caller> {
  await kill(doomed.child);
  slowDown(0);
  doomed = await start();
  return doomed.caller;
}

const slowDown = (ms: number): void => {
  for (const line of plant.plant.lines.values()) line.delayMs = ms;
};

describe('a server that is killed', () => {
  beforeAll(async () => {
    // Only the process to be killed may take the job: the other one's queue rests.
    await plant.app.get(WorkQueue).onApplicationShutdown();
    doomed = await start();
  }, 60_000);
  afterAll(() => kill(doomed.child));

  it('in the middle of a backup leaves an interrupted job that can be run again, and nothing half-read', async () => {
    slowDown(250);
    const positions = ['KL1-RD-01', 'KL1-RD-02', 'KL1-RD-03'];
    const { body } = await doomed.caller.post<StartedJob>('backups', { positions, reason: 'Will be cut' });
    await until(async () => {
      const job = (await doomed.caller.get<JobView>(`jobs/${body.job.id}`)).body;
      return (job.items[0]?.done ?? 0) > 1 || undefined;
    });
    const caller = await killed();
    const job = await plant.jobEnd(caller, body.job.id);
    expect(job.state).toBe('interrupted');
    expect(job.items.map((item) => item.outcome)).toEqual(['interrupted', 'interrupted', 'interrupted']);
    expect(job.items.every((item) => item.backupId === null)).toBe(true);
    const again = await caller.post<StartedJob>(`jobs/${body.job.id}/run-again`);
    const done = await plant.jobEnd(caller, again.body.job.id);
    expect(done.items.map((item) => item.outcome)).toEqual(['kept', 'kept', 'kept']);
  }, 90_000);

  it.each([0, 1, 2, 3, 4])(
    'when %i of four values are written leaves a plan that says what the unit holds, and is gone on with',
    async (count) => {
      const { memory } = plant.unit('KL1-RD-07');
      const before = memory.snapshot();
      const codes = ['ramp.up', 'preset.contact.3', 'stop.mode', 'protect.overloadCurrent'].map((meaning) =>
        plant.code(meaning),
      );
      const told = { target: 'baseline', codes };
      const { body: plan } = await doomed.caller.post<WritePlanView>('positions/KL1-RD-07/write-plans', told);
      await doomed.caller.post(`write-plans/${plan.id}/release`, { stoppedAndSafe: true });
      slowDown(120);
      await doomed.caller.post(`write-plans/${plan.id}/carry-out`);
      await until(async () => {
        const { steps } = (await doomed.caller.get<WritePlanView>(`write-plans/${plan.id}`)).body;
        const begun = steps.some(({ state }) => state !== 'planned');
        return (begun && steps.filter(({ state }) => state === 'written').length >= count) || undefined;
      });
      const caller = await killed();
      const ended = await plant.planEnd(caller, plan.id);
      const written = ended.steps.filter(({ state }) => state === 'written');
      expect([ended.state, ended.saved]).toEqual(['interrupted', false]);
      expect(ended.holds).toMatch(
        new RegExp(`^${written.length} of \\d writes were read back .* The unit was not read afterwards`),
      );
      for (const step of written) expect(memory.get(step.code)).toBe(step.to);
      expect(ended.backupBefore).not.toBeNull();

      const follow = async (kind: 'resume' | 'undo'): Promise<WritePlanView> => {
        const { body } = await caller.post<WritePlanView>(`write-plans/${plan.id}/follow-ups`, { kind });
        await caller.post(`write-plans/${body.id}/release`, { stoppedAndSafe: true });
        await caller.post(`write-plans/${body.id}/carry-out`);
        return plant.planEnd(caller, body.id);
      };
      expect((await follow('resume')).state).toBe('done');
      memory.recall();
      for (const { code, to } of plan.steps) expect([code, memory.get(code)]).toEqual([code, to]);
      expect((await follow('undo')).state).toBe('done');
      expect(memory.snapshot()).toEqual(before);
    },
    90_000,
  );

  it('in the middle of a load of axes leaves the machine held and each axis told, and another load brings it to its end', async () => {
    const axes = ['SP-ST-01', 'SP-ST-02', 'SP-ST-03'];
    for (const tag of axes)
      for (const code of ['2021:01', '2021:02']) plant.unit(tag).memory.force(code, 333);
    const { body: job } = await doomed.caller.post<StartedJob>('backups', {
      positions: axes,
      reason: 'Test',
    });
    await plant.jobEnd(doomed.caller, job.job.id);
    const load = async (): Promise<AxisLoadView> => {
      const asked = { targets: [], onFailure: 'stay' };
      const path = 'positions/SP-ST-01/axis-loads';
      const { body } = await doomed.caller.post<AxisLoadView>(path, asked);
      await doomed.caller.post(`axis-loads/${body.id}/release`, { stoppedAndSafe: true });
      return body;
    };
    const look = async (id: string) => (await doomed.caller.get<AxisLoadView>(`axis-loads/${id}`)).body;
    const first = await load();
    slowDown(100);
    await doomed.caller.post(`axis-loads/${first.id}/carry-out`);
    await until(async () => {
      const { plans } = await look(first.id);
      return plans[1]?.steps.some(({ state }) => state === 'written') || undefined;
    });
    await killed();
    const ended = await until(async () => {
      const now = await look(first.id);
      return now.state === 'interrupted' && now.plans.every(({ state }) => state === 'interrupted')
        ? now
        : undefined;
    });
    expect(ended.text).toContain('The machine may be held');
    expect(plant.plant.controllers[0]?.runs).toBe(false);
    expect(ended.plans.map(({ holds }) => holds)).toEqual([
      expect.stringMatching(/^(\d+) of \1 writes were read back/),
      expect.stringMatching(/^[1-9] of \d+ writes were read back/),
      'Nothing was written.',
    ]);
    expect(ended.plans.map(({ followUps }) => followUps.length)).toEqual([2, 2, 0]);

    // What was written is read back again with the rest: the unit is asked, not the record.
    const { body: again } = await doomed.caller.post<StartedJob>('backups', {
      positions: axes,
      reason: 'Test',
    });
    await plant.jobEnd(doomed.caller, again.job.id);
    const second = await load();
    await doomed.caller.post(`axis-loads/${second.id}/carry-out`);
    const done = await until(async () => {
      const now = await look(second.id);
      return now.state === 'loading' ? undefined : now;
    });
    expect([done.state, plant.plant.controllers[0]?.runs]).toEqual(['done', true]);
    for (const [at, tag] of axes.entries()) {
      const { memory } = plant.unit(tag);
      memory.recall();
      for (const { code, to } of first.plans[at]?.steps ?? [])
        expect([tag, code, memory.get(code)]).toEqual([tag, code, to]);
    }
  }, 90_000);
});

describe('work that outlived its job', () => {
  it('is ended by the next look of whichever server: a plan and a load do not stay at work for ever', async () => {
    const sql = (text: string) => plant.app.get(DataSource).query<unknown>(text);
    const open = `select (select count(*) from write_plan where state = 'writing')
      + (select count(*) from axis_load where state = 'loading') as count`;
    // As an older version left them: the jobs are over, what hangs on them is not.
    await sql(
      `update write_plan set state = 'writing' where job_id in (select id from job where state = 'done')`,
    );
    await sql(
      `update axis_load set state = 'loading' where job_id in (select id from job where state = 'done')`,
    );
    const [before] = (await sql(open)) as { count: string }[];
    expect(Number(before?.count)).toBeGreaterThan(3);
    await until(async () => {
      const [left] = (await sql(open)) as { count: string }[];
      return left?.count === '0' || undefined;
    });
  });
});

describe('a server that is killed in the middle of a round', () => {
  it('leaves the rest of it to the other one, and every unit is backed up once', async () => {
    const { app, database } = plant;
    // This process sends jobs and takes none yet: the first one goes to the process that will be killed.
    const queue = app.get(WorkQueue);
    await queue.onApplicationShutdown();
    await queue.start(database.url, ['backup']);
    const { child } = await startServer(plant.database.url, plant.ports);
    const engineer = await plant.signIn('engineer');
    await app.get(DataSource).query('update round set enabled = false');
    const { body: made } = await engineer.post<RoundView>('rounds', {
      ...{
        name: 'Kiln round',
        at: '03:00',
        days: [0, 1, 2, 3, 4, 5, 6],
        retries: 2,
        quiet: null,
        enabled: true,
      },
      scope: { areas: ['Drying'], models: [], criticalities: [] },
    });
    const tags = ['DR-CF-01', 'DR-CF-02', 'DR-CF-03', 'DR-CH-01'];
    for (const tag of tags) plant.unit(tag).setMischief({ extraDelayMs: 150 });
    const clock = app.get(RoundClock);
    const due = lastDue({ at: '03:00', days: made.days }, new Date(Date.now() + 24 * 3_600_000));
    if (!due) throw new Error('no due time');
    await clock.look(due);
    const run = async () =>
      (await engineer.get<readonly RoundView[]>('rounds')).body.find(({ id }) => id === made.id)?.runs[0];
    await until(async () => {
      const { body } = await engineer.get<JobView>(`jobs/${(await run())?.jobId ?? ''}`);
      return body.items?.some(({ outcome }) => outcome === 'kept') ? body : undefined;
    });
    await kill(child);

    for (const tag of tags) plant.unit(tag).setMischief({ extraDelayMs: 0 });
    await app.get(BackupRun).serve();
    // By the plant's clock a minute goes by between two looks: the pause before another try comes to its end.
    let minutes = 0;
    const finished = await until(async () => {
      minutes += 1;
      await clock.look(new Date(due.getTime() + minutes * 60_000));
      const now = await run();
      return now?.state === 'done' ? now : undefined;
    });
    expect(finished.tries).toBeGreaterThan(1);
    for (const tag of tags) {
      const { backups } = (await engineer.get<HistoryView>(`positions/${tag}/history`)).body;
      expect(backups.filter(({ takenBy }) => takenBy === 'Kiln round')).toHaveLength(1);
    }
  }, 90_000);
});
