// The database goes away in the middle of work: the server stays, says that it waits, goes on, and every work has a true end.

import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { JobView, Problem, StartedJob, WritePlanView } from '@drive-keep/api';
import { WorkQueue } from '../queue/work-queue.service.ts';
import { DatabaseGate } from './database-gate.ts';
import { RunningPlant, until, type Caller } from './running-plant.ts';
import { kill, signInAt, startServer, type ServerProcess } from './server-process.ts';

let plant: RunningPlant;
let gate: DatabaseGate;
let server: ServerProcess;
let technician: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  // All work is the other process's.
  await plant.app.get(WorkQueue).onApplicationShutdown();
  gate = new DatabaseGate(plant.database.url);
  server = await startServer(await gate.open(), plant.ports);
  technician = await signInAt(server.base);
}, 90_000);
afterAll(async () => {
  await kill(server.child);
  await gate.close();
  await plant.stop();
});

const alive = () => expect([server.child.exitCode, server.child.signalCode]).toEqual([null, null]);

describe('a database that goes away', () => {
  it('is waited for: the server says so, and goes on when it is back', async () => {
    const back = gate.cut(2500);
    const { status, body } = await technician.get<Problem>('register');
    expect([status, body.detail]).toEqual([503, expect.stringMatching(/database does not answer/)]);
    await back;
    alive();
    await until(async () => ((await technician.get('register')).status === 200 ? true : undefined));
  });

  it('in the middle of a backup leaves it with a true end, and the next one is done', async () => {
    for (const line of plant.plant.lines.values()) line.delayMs = 100;
    const positions = ['KL1-RD-01', 'KL1-RD-02', 'KL1-RD-03'];
    const { body } = await technician.post<StartedJob>('backups', { positions, reason: 'Will be cut' });
    await until(async () => {
      const job = (await technician.get<JobView>(`jobs/${body.job.id}`)).body;
      return job.items[0]?.state === 'ended' || undefined;
    });
    await gate.cut(1500);
    alive();
    for (const line of plant.plant.lines.values()) line.delayMs = 0;
    await until(async () => ((await technician.get('register')).status === 200 ? true : undefined));
    const job = await plant.jobEnd(technician, body.job.id);
    expect(['done', 'interrupted']).toContain(job.state);
    for (const { outcome, backupId } of job.items) expect(backupId !== null).toBe(outcome === 'kept');
    const again = await technician.post<StartedJob>('backups', { positions, reason: 'Again' });
    const done = await plant.jobEnd(technician, again.body.job.id);
    expect(done.items.map(({ outcome }) => outcome)).toEqual(['kept', 'kept', 'kept']);
  }, 90_000);

  it.each([0, 1, 2])(
    'after %i writes stops the plan, which then says what is known',
    async (count) => {
      const { memory } = plant.unit('KL1-RD-07');
      const codes = ['ramp.up', 'preset.contact.3', 'stop.mode'].map((meaning) => plant.code(meaning));
      const told = { target: 'baseline', codes };
      await plant.backUp(technician, 'KL1-RD-07');
      const { body: plan } = await technician.post<WritePlanView>('positions/KL1-RD-07/write-plans', told);
      await technician.post(`write-plans/${plan.id}/release`, { stoppedAndSafe: true });
      for (const line of plant.plant.lines.values()) line.delayMs = 80;
      await technician.post(`write-plans/${plan.id}/carry-out`);
      await until(async () => {
        const { steps } = (await technician.get<WritePlanView>(`write-plans/${plan.id}`)).body;
        const written = steps.filter(({ state }) => state === 'written').length;
        return (steps.some(({ state }) => state !== 'planned') && written >= count) || undefined;
      });
      const before = memory.snapshot();
      await gate.cut(1500);
      const held = Object.fromEntries(codes.map((code) => [code, memory.get(code)]));
      await until(async () => ((await technician.get('register')).status === 200 ? true : undefined));
      for (const line of plant.plant.lines.values()) line.delayMs = 0;
      const ended = await plant.planEnd(technician, plan.id);
      alive();
      expect(['failed', 'interrupted']).toContain(ended.state);
      // Nothing was written after the database was gone, and nothing is said that is not so.
      expect(Object.fromEntries(codes.map((code) => [code, memory.get(code)]))).toEqual(held);
      for (const { code, to, state } of ended.steps)
        if (state === 'written') expect(memory.get(code)).toBe(to);
      expect(memory.snapshot()).toEqual(before);
      memory.recall();
    },
    90_000,
  );
});
