import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Problem, RoundSettings, RoundView } from '@drive-keep/api';
import type { INestApplication } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { createApplication } from '../application.ts';
import { Job } from '../jobs/job.entity.ts';
import { MODELS_FOLDER, RunningPlant, until, type Caller } from '../testing/running-plant.ts';
import { lastDue } from './due-times.ts';
import { RoundClock } from './round-clock.service.ts';

let plant: RunningPlant;
let second: INestApplication;
let engineer: Caller;
let technician: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  // Another server process on the same database.
  second = await createApplication({
    databaseUrl: plant.database.url,
    modelsFolder: MODELS_FOLDER,
    quiet: true,
  });
  [engineer, technician] = await Promise.all([plant.signIn('engineer'), plant.signIn('technician')]);
  await plant.app.get(DataSource).query('update round set enabled = false');
});
afterAll(async () => {
  await second.close();
  await plant.stop();
});

const MINUTE_MS = 60_000;
const settings = (change: Partial<RoundSettings>): RoundSettings => ({
  name: 'Drying round',
  at: '03:00',
  days: [0, 1, 2, 3, 4, 5, 6],
  scope: { areas: ['Drying'], models: [], criticalities: [] },
  retries: 1,
  quiet: null,
  enabled: true,
  ...change,
});

const make = (change: Partial<RoundSettings> = {}, by = engineer) =>
  by.post<RoundView & Problem>('rounds', settings(change));
const rounds = async () => (await technician.get<readonly RoundView[]>('rounds')).body;
const clocks = () => [plant.app.get(RoundClock), second.get(RoundClock)];
const look = (now: Date) => Promise.all(clocks().map((clock) => clock.look(now)));

/** The first due time after the round was made. */
const tomorrow = (at: string): Date => {
  const due = lastDue({ at, days: [0, 1, 2, 3, 4, 5, 6] }, new Date(Date.now() + 24 * 60 * MINUTE_MS));
  if (!due) throw new Error(at);
  return due;
};

async function runOf(name: string) {
  const round = (await rounds()).find((each) => each.name === name);
  return round?.runs[0];
}

describe('a round', () => {
  it('is made by an engineer, with settings that make sense, under a name of its own', async () => {
    expect((await make({}, technician)).status).toBe(403);
    expect((await make({ at: '25:00' })).body.detail).toContain('time of day');
    expect((await make({ days: [9] })).status).toBe(400);
    expect((await make({ retries: 9 })).status).toBe(400);
    const made = await make();
    expect([made.status, made.body.positions, made.body.runs]).toEqual([201, 4, []]);
    expect((await make()).status).toBe(409);
    const belts = settings({
      name: 'Old drives',
      scope: { areas: [], models: ['halvern-hn20'], criticalities: [] },
    });
    // Keypad-only units cannot be read by a round.
    expect((await engineer.post<RoundView>('rounds', { ...belts, enabled: false })).body.positions).toBe(3);
  });

  it('runs once at its time, however many servers look at the clock, and says what changed', async () => {
    await look(new Date());
    expect(await runOf('Drying round')).toBeUndefined();
    plant.unit('DR-CH-01').memory.force('RA1', 333);
    const due = tomorrow('03:00');
    await Promise.all([look(due), look(due), look(due)]);
    const jobs = await plant.app.get(DataSource).getRepository(Job).countBy({ requestedBy: 'Drying round' });
    expect(jobs).toBe(1);
    const done = await until(async () => {
      await look(due);
      const run = await runOf('Drying round');
      return run?.state === 'done' ? run : undefined;
    });
    expect([done.tries, done.failed]).toEqual([1, []]);
  });

  it('tries those that did not answer again after a pause, and no others', async () => {
    plant.unit('GL-DI-01').setMischief({ silent: true });
    await make({
      name: 'Glazing round',
      at: '04:00',
      scope: { areas: ['Glazing'], models: [], criticalities: [] },
    });
    const due = tomorrow('04:00');
    await look(due);
    const state = async (wanted: string, now: Date) =>
      until(async () => {
        await look(now);
        const [run] = await plant.app.get(DataSource).query<{ tries: number; state: string }[]>(
          `select r.tries, case when r.done_at is not null then 'done' when r.retry_at is not null then 'waiting' else 'running' end as state
             from round_run r join round o on o.id = r.round_id where o.name = 'Glazing round' and r.tries > 0`,
        );
        return run?.state === wanted ? run : undefined;
      });
    expect(await state('waiting', due)).toMatchObject({ tries: 1 });
    await look(new Date(due.getTime() + 30_000));
    expect(await state('waiting', due)).toMatchObject({ tries: 1 });
    plant.unit('GL-DI-01').setMischief({ silent: false });
    const later = new Date(due.getTime() + 2 * MINUTE_MS);
    expect(await state('done', later)).toMatchObject({ tries: 2 });
    const jobs = await plant.app
      .get(DataSource)
      .getRepository(Job)
      .find({
        where: { requestedBy: 'Glazing round' },
        relations: { items: true },
        order: { requestedAt: 'ASC' },
      });
    expect(jobs.map(({ items }) => items.length)).toEqual([5, 1]);
  });

  it('waits while it is quiet, and catches up what was missed, once', async () => {
    await make({
      name: 'Pressing round',
      at: '05:00',
      scope: { areas: ['Pressing'], models: [], criticalities: [] },
      quiet: { from: '04:50', to: '06:00' },
    });
    const due = tomorrow('05:00');
    await look(due);
    expect(await runOf('Pressing round')).toBeUndefined();
    // Three days without a server: one run, for the newest due time.
    await look(new Date(due.getTime() + 3 * 24 * 60 * MINUTE_MS + 90 * MINUTE_MS));
    const round = (await rounds()).find(({ name }) => name === 'Pressing round');
    expect(round?.runs).toHaveLength(1);
  });
});
