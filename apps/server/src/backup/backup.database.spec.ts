import { afterAll, afterEach, beforeAll, describe, expect, it } from '@jest/globals';
import type { HistoryView, JobView, PositionDetailView, Problem, StartedJob } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { SetContent } from '../sets/set-content.entity.ts';
import { RunningPlant, until, type Caller } from '../testing/running-plant.ts';

const SECTIONS = ['01', '02', '03', '04', '05', '06', '07', '08', '09', '10', '11', '12'].map(
  (n) => `KL1-RD-${n}`,
);

let plant: RunningPlant;
let technician: Caller;
let viewer: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
  viewer = await plant.signIn('viewer');
});
afterAll(() => plant.stop());

afterEach(() => {
  for (const tag of SECTIONS.slice(0, 8)) {
    plant
      .unit(tag)
      .setMischief({ silent: false, extraDelayMs: 0, breakAfter: 0, refuse: [], corrupt: null, swap: null });
  }
  for (const line of plant.plant.lines.values()) line.delayMs = 3;
});

const history = async (tag: string) =>
  (await technician.get<HistoryView>(`positions/${tag}/history`)).body.backups;
const outcomes = ({ items }: JobView) => Object.fromEntries(items.map(({ tag, outcome }) => [tag, outcome]));

describe('a backup of all sections', () => {
  it('ends for every unit with its own outcome, and the troubles of some do not stop the others', async () => {
    plant.unit('KL1-RD-01').setMischief({ breakAfter: 4 });
    plant.unit('KL1-RD-02').setMischief({ corrupt: 'function' });
    plant.unit('KL1-RD-05').setMischief({ extraDelayMs: 1200 });
    plant.unit('KL1-RD-06').setMischief({ swap: { after: 3, serial: 4711 } });
    const job = await plant.backUp(technician, ...SECTIONS);
    expect(outcomes(job)).toEqual({
      'KL1-RD-01': 'broke-off',
      'KL1-RD-02': 'wrong-answer',
      'KL1-RD-03': 'kept',
      'KL1-RD-04': 'kept',
      'KL1-RD-05': 'late',
      'KL1-RD-06': 'identity-changed',
      'KL1-RD-07': 'kept',
      'KL1-RD-08': 'kept',
      'KL1-RD-09': 'kept-with-gaps',
      'KL1-RD-10': 'other-serial',
      'KL1-RD-11': 'kept',
      'KL1-RD-12': 'no-answer',
    });
    for (const item of job.items) {
      expect(item.text).toMatch(/\.$/);
      expect(item.backupId === null).toBe(!['kept', 'kept-with-gaps'].includes(item.outcome ?? ''));
    }
    plant.unit('KL1-RD-06').serial = plant.unit('KL1-RD-06').description.serial;
  });

  it('keeps nothing of a unit that was read only in part', async () => {
    const before = (await history('KL1-RD-01')).length;
    plant.unit('KL1-RD-01').setMischief({ breakAfter: 5 });
    await plant.backUp(technician, 'KL1-RD-01');
    expect(await history('KL1-RD-01')).toHaveLength(before);
  });

  it('costs no space and says so when nothing has changed', async () => {
    const contents = async () => plant.app.get(DataSource).getRepository(SetContent).count();
    const before = await contents();
    const job = await plant.backUp(technician, 'KL1-RD-03');
    expect(job.items[0]?.text).toContain('Same as the backup before');
    expect((await history('KL1-RD-03')).at(-1)?.sameAsBefore).toBe(true);
    expect(await contents()).toBe(before);
  });

  it('shows what somebody changed behind everybody’s back, and its drift', async () => {
    plant.unit('KL1-RD-04').memory.force(plant.code('ramp.down'), 333);
    await plant.backUp(technician, 'KL1-RD-04');
    const { body } = await technician.get<PositionDetailView>('positions/KL1-RD-04');
    expect(body.drift).toBe(1);
    plant.unit('KL1-RD-04').memory.force(plant.code('ramp.down'), 600);
  });

  it('may be stopped: units not read yet are told so, and the job can be run again', async () => {
    for (const line of plant.plant.lines.values()) line.delayMs = 150;
    const { body } = await technician.post<StartedJob>('backups', {
      positions: SECTIONS.slice(0, 8),
      reason: 'Test',
    });
    await until(async () => {
      const job = (await technician.get<JobView>(`jobs/${body.job.id}`)).body;
      return job.items.some((item) => item.done > 0) || undefined;
    });
    await technician.post(`jobs/${body.job.id}/stop`);
    const stopped = await plant.jobEnd(technician, body.job.id);
    expect(stopped.state).toBe('stopped');
    const left = stopped.items.filter((item) => item.outcome === 'stopped').map((item) => item.tag);
    expect(left.length).toBeGreaterThan(0);
    for (const line of plant.plant.lines.values()) line.delayMs = 0;
    const again = await technician.post<StartedJob>(`jobs/${body.job.id}/run-again`);
    expect(again.body.job.items.map((item) => item.tag)).toEqual(left);
    const done = await plant.jobEnd(technician, again.body.job.id);
    expect(done.items.every((item) => item.outcome === 'kept')).toBe(true);
  });

  it('is begun for forty people at once, more than there are connections', async () => {
    const tags = Array.from({ length: 12 }, (_, at) => `KL1-RD-${String(at + 1).padStart(2, '0')}`);
    const started = await Promise.all(
      Array.from({ length: 40 }, (_, at) => {
        const positions = [tags[at % 12] ?? '', tags[(at * 5 + 1) % 12] ?? ''];
        return technician.post<StartedJob>('backups', { positions, reason: `Forty at once, ${at}` });
      }),
    );
    expect(started.filter(({ status }) => status >= 300)).toEqual([]);
    const ids = new Set(started.map(({ body }) => body.job.id));
    for (const id of ids) expect((await plant.jobEnd(technician, id)).state).toBe('done');
  }, 60_000);

  it('is one job when two people start the same', async () => {
    for (const line of plant.plant.lines.values()) line.delayMs = 60;
    const engineer = await plant.signIn('engineer');
    const positions = SECTIONS.slice(0, 4);
    const ask = (caller: Caller) => caller.post<StartedJob>('backups', { positions, reason: 'Both' });
    const [one, other] = await Promise.all([ask(technician), ask(engineer)]);
    expect(one.body.job.id).toBe(other.body.job.id);
    expect([one.body.joined, other.body.joined].sort()).toEqual([false, true]);
    await plant.jobEnd(technician, one.body.job.id);
  });

  it('tells its progress as server-sent events until it ends', async () => {
    const delay = (ms: number) => {
      for (const line of plant.plant.lines.values()) line.delayMs = ms;
    };
    // So slow that a busy machine, too, hears of it in the middle.
    delay(250);
    const { body } = await technician.post<StartedJob>('backups', {
      positions: ['KL1-RD-08'],
      reason: 'Test',
    });
    const stream = await technician.get<string>(`jobs/${body.job.id}/events`);
    delay(40);
    expect(stream.type).toMatch(/event-stream/);
    const states = [...stream.body.matchAll(/^data: (.*)$/gm)].map(
      ([, data]) => JSON.parse(data ?? '') as JobView,
    );
    expect(states.length).toBeGreaterThan(2);
    expect(states.some((job) => (job.items[0]?.done ?? 0) > 0 && job.items[0]?.state === 'reading')).toBe(
      true,
    );
    expect(states.at(-1)?.state).toBe('done');
  });

  it('is not for a viewer, and says so', async () => {
    const refused = await viewer.post<Problem>('backups', { positions: ['KL1-RD-01'], reason: 'Test' });
    expect(refused.status).toBe(403);
    expect(refused.body.detail).toMatch(/viewer may look/);
  });

  it.each<[string, object, number]>([
    ['a position that does not exist', { positions: ['KL9-XX-01'], reason: 'Test' }, 404],
    ['no positions', { positions: [], reason: 'Test' }, 400],
    ['no reason', { positions: ['KL1-RD-01'], reason: '' }, 400],
    ['a field that nobody knows', { positions: ['KL1-RD-01'], reason: 'Test', hurry: true }, 400],
    ['positions that are no list', { positions: 'KL1-RD-01', reason: 'Test' }, 400],
  ])('is refused for %s', async (_, body, status) => {
    const open = async () => (await technician.get<JobView[]>('jobs')).body.length;
    const before = await open();
    const answer = await technician.post<Problem>('backups', body);
    expect(answer.status).toBe(status);
    expect(answer.type).toMatch(/problem\+json/);
    expect(answer.body.detail.length).toBeGreaterThan(20);
    expect(await open()).toBe(before);
  });

  it('cannot be asked about by a made-up id', async () => {
    for (const id of ['1', '00000000-0000-4000-8000-000000000000', "';--"]) {
      expect((await technician.get(`jobs/${encodeURIComponent(id)}`)).status).toBe(404);
    }
  });
});
