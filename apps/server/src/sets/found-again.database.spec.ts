import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { HistoryView, LogbookPage, PositionDetailView, Problem } from '@drive-keep/api';
import type { Code } from '@drive-keep/core/dictionary';
import { canonicalText, hashText } from '@drive-keep/core/sets';
import { DataSource } from 'typeorm';
import { Jobs } from '../jobs/jobs.service.ts';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';
import { ContentStore } from './content-store.service.ts';
import { FoundAgain, lists } from './found-again.service.ts';

const TAGS = ['KL1-RD-01', 'KL1-RD-02', 'KL1-RD-03'];

let plant: RunningPlant;
let technician: Caller;
let database: DataSource;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
  database = plant.app.get(DataSource);
  // So that every one of them has a backup of this very state, with its monitors, before anything is counted.
  await plant.backUp(technician, ...TAGS);
});
afterAll(() => plant.stop());

const history = async (tag: string) =>
  (await technician.get<HistoryView>(`positions/${tag}/history`)).body.backups;
const counts = async (): Promise<Record<string, number>> => {
  const [row]: Record<string, number>[] = await database.query(
    `select (select count(*)::int from backup) as backups, (select count(*)::int from set_content) as contents,
            (select count(*)::int from found_list) as lists, (select count(*)::int from found_again) as looks`,
  );
  return row ?? {};
};

describe('units that hold what their newest backup holds', () => {
  it('are told together in one row, and nights with the same units share their list', async () => {
    await plant.backUp(technician, ...TAGS);
    const before = await counts();
    await plant.backUp(technician, ...TAGS);
    const { backups, contents, lists: known = 0, looks = 0 } = before;
    expect(await counts()).toEqual({ backups, contents, lists: known, looks: looks + 1 });
  });

  it('have a mark of their own time and person in the history, which can be opened and compared', async () => {
    const before = await history('KL1-RD-02');
    await plant.backUp(technician, 'KL1-RD-02');
    const marks = await history('KL1-RD-02');
    const [last, previous] = [marks.at(-1), marks.at(-2)];
    expect(marks).toHaveLength(before.length + 1);
    expect(last).toMatchObject({ sameAsBefore: true, hash: previous?.hash, takenBy: 'T. Pellow' });
    expect(Date.parse(last?.takenAt ?? '')).toBeGreaterThan(Date.parse(previous?.takenAt ?? ''));
    expect(new Set(marks.map(({ id }) => id)).size).toBe(marks.length);
    for (const mark of [last, previous]) {
      const file = await technician.raw(`backups/${mark?.id ?? ''}/file?format=json`);
      expect([file.status, (await file.text()).includes(mark?.takenAt.slice(0, 16) ?? '-')]).toEqual([
        200,
        true,
      ]);
    }
    const { body } = await technician.get<PositionDetailView>('positions/KL1-RD-02');
    expect(body.newestBackup).toBe(last?.takenAt);
  });

  it('are one line of the logbook when there are many, and one with its tag when it is one', async () => {
    await plant.backUp(technician, ...TAGS);
    const many = await technician.get<LogbookPage>('logbook?find=3+units+hold');
    expect(many.body.entries[0]).toMatchObject({ action: 'backed-up', tag: null });
    await plant.backUp(technician, 'KL1-RD-03');
    const one = await technician.get<LogbookPage>('logbook?find=Same+as+the+backup+before&tag=KL1-RD-03');
    expect(one.body.entries[0]?.tag).toBe('KL1-RD-03');
  });

  it('get a backup of their own as soon as one parameter differs', async () => {
    const unit = plant.unit('KL1-RD-01');
    const code = plant.code('ramp.up');
    const was = unit.memory.get(code) ?? 0;
    unit.memory.force(code, was + 1);
    const { backups = 0 } = await counts();
    await plant.backUp(technician, ...TAGS);
    expect((await counts())['backups']).toBe(backups + 1);
    expect((await history('KL1-RD-01')).at(-1)?.sameAsBefore).toBe(false);
    unit.memory.force(code, was);
  });

  it('are recorded after all when the server ended before it could say so, and once only', async () => {
    const job = await plant.backUp(technician, 'KL1-RD-02');
    const [{ id } = { id: '' }]: { id: string }[] = await database.query(
      `select id from job where kind = 'backup' order by requested_at desc limit 1`,
    );
    expect(job.items).toHaveLength(1);
    const before = await history('KL1-RD-02');
    await database.query(`update job_item set found_again = 'to-record' where job_id = $1`, [id]);
    const again = plant.app.get(FoundAgain);
    await Promise.all([again.recordEnded(), again.recordEnded(), again.recordJob(id)]);
    expect(await history('KL1-RD-02')).toHaveLength(before.length + 1);
  });

  it('are refused by a number that no look has', async () => {
    const last = (await history('KL1-RD-02')).at(-1)?.id ?? '';
    const [own] = last.split('.');
    const { status, body } = await technician.get<Problem>(`backups/${own}.99999999`);
    expect([status, body.title]).toEqual([404, expect.any(String)]);
  });

  it('cannot be changed or taken out of the record by anybody', async () => {
    for (const table of ['found_again', 'found_list']) {
      await expect(database.query(`delete from ${table}`)).rejects.toThrow();
    }
    await expect(database.query(`update found_again set taken_by = 'X'`)).rejects.toThrow();
  });
});

describe('contents', () => {
  const anySet = async () => {
    const hash = (await history('KL1-RD-04')).at(-1)?.hash ?? '';
    return { hash, set: await plant.app.get(ContentStore).get(hash) };
  };

  it('kept before they were deflated are read as they are', async () => {
    const { set } = await anySet();
    const code = plant.code('ramp.up') as Code;
    const older = { ...set, readings: new Map(set.readings).set(code, 4321) };
    const text = canonicalText(older);
    await database.query(
      `insert into set_content (hash, dictionary_id, content, packed) values ($1, $2, $3, false)`,
      [hashText(text), set.dictionary, Buffer.from(text)],
    );
    expect((await plant.app.get(ContentStore).get(hashText(text))).readings.get(code)).toBe(4321);
  });

  it('take less room than their text, and come back the same to the letter', async () => {
    const { hash, set } = await anySet();
    const [row]: { bytes: number }[] = await database.query(
      'select length(content) as bytes from set_content where hash = $1',
      [hash],
    );
    expect(hashText(canonicalText(set))).toBe(hash);
    expect(row?.bytes ?? 0).toBeLessThan(canonicalText(set).length / 2);
  });
});

describe('outcomes of single units', () => {
  it('are forgotten after a year and more, when their jobs are backups; the jobs and what they kept stay', async () => {
    const itemsOf = async (id: string): Promise<number> => {
      const rows: unknown[] = await database.query('select 1 from job_item where job_id = $1', [id]);
      return rows.length;
    };
    await plant.backUp(technician, ...TAGS);
    const jobs: { id: string }[] = await database.query(
      `select id from job where kind = 'backup' order by requested_at desc limit 2`,
    );
    const [newest, older] = jobs.map(({ id }) => id);
    const marks = await history('KL1-RD-03');
    await database.query(`update job set finished_at = now() - interval '401 days' where id = $1`, [older]);
    await plant.app.get(Jobs).tidy();
    expect([await itemsOf(newest ?? ''), await itemsOf(older ?? '')]).toEqual([TAGS.length, 0]);
    expect(await database.query('select 1 from job where id = $1', [older])).toHaveLength(1);
    expect(await history('KL1-RD-03')).toEqual(marks);
  });
});

describe('the lists of one night', () => {
  const items = Array.from({ length: 300 }, (_, at) => ({
    position_id: `${(at * 2654435761 + 17).toString(16).padStart(8, '0').slice(-8)}-0000-4000-8000-000000000000`,
    seq: at,
  }));

  it('hold every unit once', () => {
    const all = lists(items).flat();
    expect(all.sort((a, b) => a - b)).toEqual(items.map(({ seq }) => seq));
  });

  it('stay the same but for one when one backup is a newer one', () => {
    const changed = items.map((item) => (item.seq === 7 ? { ...item, seq: 1007 } : item));
    const texts = lists(items).map((list) => list.join());
    expect(lists(changed).filter((list) => !texts.includes(list.join()))).toHaveLength(1);
  });
});
