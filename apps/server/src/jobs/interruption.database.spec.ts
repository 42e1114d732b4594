// The server process itself is killed in the middle of a job: nothing is lost, and everybody is told.

import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { HistoryView, JobView, RoundView, StartedJob, WritePlanView } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { BackupRun } from '../backup/backup-run.service.ts';
import { lastDue } from '../rounds/due-times.ts';
import { RoundClock } from '../rounds/round-clock.service.ts';
import { JobQueue } from './job-queue.service.ts';
import { Caller, MODELS_FOLDER, RunningPlant, until } from '../testing/running-plant.ts';

const ROOT = join(import.meta.dirname, '../..');

let plant: RunningPlant;

/** A server process of its own on the same database. */
async function startProcess(): Promise<{ child: ChildProcess; base: string }> {
  const port = 20_000 + Math.floor(Math.random() * 20_000);
  const args = [
    '--conditions=source',
    '--import',
    '@swc-node/register/esm-register',
    join(ROOT, 'src/main.ts'),
  ];
  const env = {
    ...process.env,
    NODE_OPTIONS: '',
    DATABASE_URL: plant.database.url,
    MODELS: MODELS_FOLDER,
    PORT: String(port),
    DEMO_LINES: JSON.stringify(plant.ports),
    SWC_NODE_PROJECT: join(ROOT, 'tsconfig.json'),
  };
  const child = spawn(process.execPath, args, { cwd: ROOT, env, stdio: ['ignore', 'pipe', 'inherit'] });
  await new Promise<void>((resolve, reject) => {
    child.once('exit', (code) => reject(new Error(`ended with ${code}`)));
    createInterface({ input: child.stdout as NodeJS.ReadableStream }).once('line', () => resolve());
  });
  return { child, base: `http://127.0.0.1:${port}` };
}

async function signIn(base: string): Promise<Caller> {
  const response = await fetch(`${base}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'technician', password: 'roller-table' }),
  });
  return new Caller(base, (response.headers.get('set-cookie') ?? '').split(';')[0] ?? '');
}

const kill = async (child: ChildProcess): Promise<void> => {
  const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  child.kill('SIGKILL');
  await gone;
};

beforeAll(async () => {
  plant = await RunningPlant.start();
}, 60_000);
afterAll(() => plant.stop());

describe('a server that is killed', () => {
  it('in the middle of a backup leaves an interrupted job that can be run again, and nothing half-read', async () => {
    // Only the process to be killed may take the job: the other one's queue rests.
    await plant.app.get(JobQueue).onApplicationShutdown();
    const { child, base } = await startProcess();
    const doomed = await signIn(base);
    for (const line of plant.plant.lines.values()) line.delayMs = 250;
    const positions = ['KL1-RD-01', 'KL1-RD-02', 'KL1-RD-03'];
    const { body } = await doomed.post<StartedJob>('backups', { positions, reason: 'Will be cut' });
    await until(async () => {
      const job = (await doomed.get<JobView>(`jobs/${body.job.id}`)).body;
      return (job.items[0]?.done ?? 0) > 1 || undefined;
    });
    await kill(child);
    for (const line of plant.plant.lines.values()) line.delayMs = 0;

    const second = await startProcess();
    const caller = await signIn(second.base);
    const job = await plant.jobEnd(caller, body.job.id);
    expect(job.state).toBe('interrupted');
    expect(job.items.map((item) => item.outcome)).toEqual(['interrupted', 'interrupted', 'interrupted']);
    expect(job.items.every((item) => item.backupId === null)).toBe(true);
    const again = await caller.post<StartedJob>(`jobs/${body.job.id}/run-again`);
    const done = await plant.jobEnd(caller, again.body.job.id);
    expect(done.items.map((item) => item.outcome)).toEqual(['kept', 'kept', 'kept']);
    await kill(second.child);
  }, 90_000);

  it.each([1, 3])(
    'after step %i of four leaves a plan that says what the unit holds, and is gone on with',
    async (step) => {
      const before = plant.unit('KL1-RD-07').memory.snapshot();
      const { child, base } = await startProcess();
      const doomed = await signIn(base);
      const codes = ['ramp.up', 'preset.3', 'stop.mode', 'protect.overloadCurrent'].map((meaning) =>
        plant.code(meaning),
      );
      const { body: plan } = await doomed.post<WritePlanView>('positions/KL1-RD-07/write-plans', {
        target: 'baseline',
        codes,
      });
      await doomed.post(`write-plans/${plan.id}/release`, { stoppedAndSafe: true });
      for (const line of plant.plant.lines.values()) line.delayMs = 120;
      await doomed.post(`write-plans/${plan.id}/carry-out`);
      await until(async () => {
        const { steps } = (await doomed.get<WritePlanView>(`write-plans/${plan.id}`)).body;
        return steps.filter(({ state }) => state === 'written').length >= step || undefined;
      });
      await kill(child);
      for (const line of plant.plant.lines.values()) line.delayMs = 0;

      const second = await startProcess();
      const ended = await plant.planEnd(await signIn(second.base), plan.id);
      expect(ended.state).toBe('interrupted');
      expect(ended.saved).toBe(false);
      expect(ended.holds).toMatch(/of 4 writes are in the working memory of the unit, not saved permanently/);
      const written = ended.steps.filter((step) => step.state === 'written');
      for (const step of written) expect(plant.unit('KL1-RD-07').memory.get(step.code)).toBe(step.to);
      expect(ended.backupBefore).not.toBeNull();

      const caller = await signIn(second.base);
      const follow = async (kind: 'resume' | 'undo'): Promise<WritePlanView> => {
        const { body } = await caller.post<WritePlanView>(`write-plans/${plan.id}/follow-ups`, { kind });
        await caller.post(`write-plans/${body.id}/release`, { stoppedAndSafe: true });
        await caller.post(`write-plans/${body.id}/carry-out`);
        return plant.planEnd(caller, body.id);
      };
      const { memory } = plant.unit('KL1-RD-07');
      expect((await follow('resume')).state).toBe('done');
      memory.recall();
      for (const { code, to } of plan.steps) expect([code, memory.get(code)]).toEqual([code, to]);
      expect((await follow('undo')).state).toBe('done');
      expect(memory.snapshot()).toEqual(before);
      await kill(second.child);
    },
    90_000,
  );
});

describe('a server that is killed in the middle of a round', () => {
  it('leaves the rest of it to the other one, and every unit is backed up once', async () => {
    const { app, database } = plant;
    // This process sends jobs and takes none yet: the first one goes to the process that will be killed.
    const queue = app.get(JobQueue);
    await queue.onApplicationShutdown();
    await queue.start(database.url);
    const { child } = await startProcess();
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
