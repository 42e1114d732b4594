// A machine that was seen standing does not stand for ever: no write goes out on a statement that has run out, wherever the
// time went.

import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, jest } from '@jest/globals';
import type { JobView, PositionDetailView, Problem, WritePlanView } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { LineTurns } from '../lines/line-turns.ts';
import { Clock } from '../storage/clock.ts';
import { SectionSeven } from '../testing/section-seven.ts';

const MINUTE = 60_000;
let section: SectionSeven;
let lineId: string;
/** How far the plant's clock is ahead. */
let ahead = 0;

beforeAll(async () => {
  section = await SectionSeven.start();
  const { app } = section.plant;
  const [line] = await app
    .get(DataSource)
    .query<{ line_id: string }[]>(
      'select u.line_id from unit u join position p on p.id = u.position_id where p.tag = $1',
      [SectionSeven.tag],
    );
  lineId = line?.line_id ?? '';
  jest.spyOn(app.get(Clock), 'now').mockImplementation(() => new Date(Date.now() + ahead));
});
afterAll(() => section.stop());
beforeEach(() => section.standAsInTheStory());
afterEach(() => {
  ahead = 0;
});

const release = (id: string) =>
  section.technician.post<WritePlanView & Problem>(`write-plans/${id}/release`, { stoppedAndSafe: true });
const begin = (id: string, how: object = {}) =>
  section.technician.post<WritePlanView & Problem>(`write-plans/${id}/carry-out`, how);
const end = (id: string) => section.plant.planEnd(section.technician, id);
const untouched = () => expect(section.heldNow()).toEqual(Object.fromEntries(section.held));

/** As a technician does who reads what is said and states it once more. */
async function againAndDone(plan: WritePlanView): Promise<void> {
  expect(plan.mayBeReleased).toBe(true);
  expect((await release(plan.id)).status).toBe(200);
  expect((await begin(plan.id)).status).toBe(202);
  expect((await end(plan.id)).state).toBe('done');
}

describe('a release that runs out', () => {
  it('before the button is pressed begins nothing', async () => {
    const plan = await section.plan();
    await release(plan.id);
    ahead = 15 * MINUTE + 1;
    const late = await begin(plan.id);
    expect([late.status, late.body.type]).toEqual([409, 'urn:drive-keep:not-released']);
    untouched();
  });

  it('while the line is waited for writes nothing, and can be stated again', async () => {
    const plan = await section.plan();
    const turn = await section.plant.app.get(LineTurns).take(lineId, 'write');
    await release(plan.id);
    await begin(plan.id);
    await new Promise((resolve) => setTimeout(resolve, 1200));
    ahead = 16 * MINUTE;
    await turn.release();
    const ended = await end(plan.id);
    expect([ended.state, ended.text]).toEqual(['refused', expect.stringContaining('State again')]);
    untouched();
    await againAndDone(ended);
  });

  it('counts from the statement: whoever waits more than a minute for the line is asked again', async () => {
    const plan = await section.plan();
    const turn = await section.plant.app.get(LineTurns).take(lineId, 'write');
    await release(plan.id);
    await begin(plan.id);
    await new Promise((resolve) => setTimeout(resolve, 1200));
    ahead = MINUTE + 1000;
    await turn.release();
    const ended = await end(plan.id);
    expect([ended.state, ended.text]).toEqual(['refused', expect.stringMatching(/line was busy for 6\d s/)]);
    untouched();
    await againAndDone(ended);
  });

  it.each([1, 2, 3])(
    'after %i of four writes stops before the next, and says what the unit holds',
    async (count) => {
      const plan = await section.plan();
      const clock = section.plant.app.get(Clock);
      // The guard asks the time once for every write, and once before the unit is read.
      const asked = jest.spyOn(clock, 'now');
      let guards = 0;
      const original = asked.getMockImplementation() ?? (() => new Date());
      asked.mockImplementation(() => {
        if (new Error().stack?.includes('WriteGuard')) guards += 1;
        if (guards > count + 1) ahead = 16 * MINUTE;
        return original();
      });
      await release(plan.id);
      await begin(plan.id);
      const ended = await end(plan.id);
      asked.mockImplementation(() => new Date(Date.now() + ahead));
      expect(ended.steps.filter(({ state }) => state === 'written')).toHaveLength(count);
      expect([ended.state, ended.text, ended.saved]).toEqual([
        'failed',
        expect.stringContaining('has run out'),
        false,
      ]);
      expect(ended.holds).toMatch(
        new RegExp(
          `^Read afterwards: ${count} of ${count} written values are in the unit\\. They are not saved`,
        ),
      );
      expect([ended.mayBeReleased, ended.followUps]).toEqual([false, ['resume', 'undo']]);
      ahead = 0;
      expect((await section.follow(ended.id, 'undo')).state).toBe('done');
      untouched();
    },
  );
});

describe('a plan that is stopped', () => {
  it('right after its beginning ends, whichever comes first, and the unit goes with it', async () => {
    for (let pause = 0; pause < 5; pause += 1) {
      const plan = await section.plan();
      await release(plan.id);
      const { body } = await begin(plan.id);
      await new Promise((resolve) => setTimeout(resolve, pause * 150));
      await section.technician.post(`jobs/${body.jobId ?? ''}/stop`);
      const ended = await end(plan.id);
      const job = await section.plant.jobEnd(section.technician, body.jobId ?? '');
      const written = ended.steps.filter(({ state }) => state === 'written').length;
      expect(job.state).not.toBe('interrupted');
      expect(['refused', 'failed', 'done']).toContain(ended.state);
      if (ended.state === 'refused') expect(written).toBe(0);
      await section.standAsInTheStory();
    }
  });

  it('before a worker has taken it can be released and carried out again', async () => {
    const plan = await section.plan();
    await release(plan.id);
    const { body } = await begin(plan.id);
    await section.technician.post(`jobs/${body.jobId ?? ''}/stop`);
    const ended = await end(plan.id);
    const { body: job } = await section.technician.get<JobView>(`jobs/${body.jobId ?? ''}`);
    expect([ended.state, job.items[0]?.text]).toEqual(['refused', ended.text]);
    await againAndDone(ended);
  });
});

describe('a position that changes while a write waits', () => {
  const { tag } = SectionSeven;

  it.each([
    ['is retired', `update position set retired_at = now() where tag = '${tag}'`, /is retired/],
    [
      'loses its unit',
      `update unit set removed_at = now() from position p where p.id = position_id and p.tag = '${tag}' and removed_at is null`,
      /was taken out/,
    ],
    [
      'gets another address',
      `update unit set line_address = 200 from position p where p.id = position_id and p.tag = '${tag}'`,
      /another line or address/,
    ],
  ])('and %s is not written to, in the worker either', async (_, change, words) => {
    const source = section.plant.app.get(DataSource);
    const plan = await section.plan();
    const { body: before } = await section.technician.get<PositionDetailView>(`positions/${tag}`);
    const turn = await section.plant.app.get(LineTurns).take(lineId, 'write');
    await release(plan.id);
    await begin(plan.id);
    await new Promise((resolve) => setTimeout(resolve, 800));
    await source.query(change);
    await turn.release();
    const ended = await end(plan.id);
    await source.query(`update position set retired_at = null where tag = '${tag}'`);
    await source.query(
      `update unit set removed_at = null, line_address = $2 from position p where p.id = position_id and p.tag = $1`,
      [tag, before.unit.line?.address],
    );
    expect([ended.state, ended.text]).toEqual(['refused', expect.stringMatching(words)]);
    untouched();
  });

  it('is not released for a unit that does not sit there any more', async () => {
    const plan = await section.plan();
    const source = section.plant.app.get(DataSource);
    await source.query(`update position set retired_at = now() where tag = $1`, [tag]);
    const refused = await release(plan.id);
    await source.query(`update position set retired_at = null where tag = $1`, [tag]);
    expect([refused.status, refused.body.type]).toEqual([409, 'urn:drive-keep:retired']);
  });
});
