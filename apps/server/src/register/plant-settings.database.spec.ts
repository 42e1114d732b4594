import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  FirstStep,
  LineTrial,
  PlantView,
  PositionDetailView,
  Problem,
  SessionView,
} from '@drive-keep/api';
import { writeDecimalsWith } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

let plant: RunningPlant;
let engineer: Caller;
let technician: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  engineer = await plant.signIn('engineer');
  technician = await plant.signIn('technician');
});
afterAll(async () => {
  writeDecimalsWith('point');
  delete process.env.TZ;
  await plant.stop();
});

async function set(more: object): Promise<{ status: number; body: PlantView & Problem }> {
  const now = (await engineer.get<PlantView>('plant')).body;
  return engineer.ask('PUT', 'plant', { ...now, isCopy: undefined, ...more });
}

describe('what holds for the whole plant', () => {
  it('is told to everybody and changed by an engineer, one of two at a time', async () => {
    const { body: before } = await technician.get<PlantView>('plant');
    expect(before).toMatchObject({ name: 'Fennimoor Tileworks', overdueHours: 36, decimalMark: 'point' });
    expect((await set({ name: 'Fennimoor', mainsVoltage: 427, mainsFrequency: 50 })).status).toBe(200);
    expect((await technician.get<SessionView>('session')).body.plant).toBe('Fennimoor');
    const stale = await set({ version: before.version });
    expect([stale.status, stale.body.detail]).toEqual([
      409,
      expect.stringContaining('changed by somebody else'),
    ]);
    expect((await technician.ask('PUT', 'plant', before)).status).toBe(403);
  });

  it('decides when a backup is overdue', async () => {
    const state = async () =>
      (await technician.get<PositionDetailView>('positions/KL1-RD-03')).body.state.kind;
    expect(await state()).not.toBe('overdue');
    // Whatever the hour is: the round of last night may have been a minute ago.
    await plant.app.get(DataSource).query(`update last_look set at = at - interval '3 hours'`);
    await set({ overdueHours: 1 });
    expect(await state()).toBe('overdue');
    await set({ overdueHours: 10_000 });
    expect(await state()).not.toBe('overdue');
  });

  it('gives the register to technicians, or keeps writing for engineers', async () => {
    const rename = () => technician.ask('PATCH', 'areas/Drying', { name: 'Drying' });
    expect((await rename()).status).toBe(403);
    await set({ may: { write: 'engineer', register: 'technician' } });
    expect((await rename()).status).not.toBe(403);
    const release = await technician.post<Problem>(
      'write-plans/00000000-0000-0000-0000-000000000000/release',
      {},
    );
    expect([release.status, release.body.type]).toEqual([403, 'urn:drive-keep:role']);
    expect((await technician.get<SessionView>('session')).body.may).toEqual({ write: false, register: true });
    await set({ may: { write: 'technician', register: 'engineer' } });
  });

  it('takes no time zone that is none, no address with a path', async () => {
    expect((await set({ timeZone: 'Europe/Nowhere' })).body.detail).toMatch(/no time zone "Europe\/Nowhere"/);
    expect((await set({ address: 'https://plant.local/drives' })).status).toBe(400);
    expect((await set({ nightlyAt: '25:00' })).status).toBe(400);
  });

  it('has nothing more to begin with in a plant that runs', async () => {
    expect((await technician.get<readonly FirstStep[]>('first-steps')).body).toEqual([]);
  });
});

describe('a restored copy', () => {
  it('talks to no unit until an engineer says that it is the one now', async () => {
    await plant.app.get(DataSource).query('update plant set is_copy = true');
    const asked = plant.unit('KL1-RD-01');
    let requests = 0;
    const count = asked.countRequest.bind(asked);
    asked.countRequest = () => {
      requests += 1;
      return count();
    };
    const job = await plant.backUp(technician, 'KL1-RD-01');
    expect(job.items[0]).toMatchObject({
      outcome: 'no-line',
      text: expect.stringContaining('restored copy'),
    });
    const { body: lines } =
      await engineer.get<readonly { host: string; port: number; name: string }[]>('lines');
    const { host = '', port = 0 } = lines[0] ?? {};
    const trial = await engineer.post<LineTrial & Problem>('lines/try', {
      ...{ host, port, framing: 'tcp', timeoutMs: 200, retries: 0, pauseMs: 0, largestRead: 125 },
    });
    expect(trial.status).toBe(409);
    expect(requests).toBe(0);
    expect((await technician.post('plant/no-copy')).status).toBe(403);
    expect((await engineer.post<PlantView>('plant/no-copy')).body.isCopy).toBe(false);
    expect((await plant.backUp(technician, 'KL1-RD-01')).items[0]?.outcome).toBe('kept');
    expect(requests).toBeGreaterThan(0);
  });
});
