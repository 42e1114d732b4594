import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  HistoryView,
  IntegrityReport,
  LogbookPage,
  PositionDetailView,
  Problem,
  RegisterPage,
} from '@drive-keep/api';
import pg from 'pg';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

let plant: RunningPlant;
let engineer: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  engineer = await plant.signIn('engineer');
});
afterAll(() => plant.stop());

const check = () => engineer.post<IntegrityReport>('integrity');

/** As a bad disk would: around the triggers that keep everybody else from it. */
async function damage(hash: string): Promise<void> {
  const client = new pg.Client({ connectionString: plant.database.url });
  await client.connect();
  await client.query(`set session_replication_role = replica`);
  await client.query(`update set_content set content = set_byte(content, 40, 55) where hash = $1`, [hash]);
  await client.end();
}

describe('the check of everything that was kept', () => {
  it('finds all as it was kept, and says so in the logbook', async () => {
    const { status, body } = await check();
    expect([status, body.damaged]).toEqual([200, []]);
    expect(body.checked).toBeGreaterThan(40);
    const log = await engineer.get<LogbookPage>('logbook?find=all+are+as+they+were+kept');
    expect(log.body.entries[0]?.person).toBe('R. Ashgrove');
  });

  it('names a damaged content with who uses it; it is never shown as good', async () => {
    const history = await engineer.get<HistoryView>('positions/SP-OB-01/history');
    const newest = history.body.backups.at(-1);
    await damage(newest?.hash ?? '');
    const { body } = await check();
    expect(body.damaged.map(({ hash }) => hash)).toEqual([newest?.hash]);
    expect(body.damaged[0]?.usedBy.join()).toContain('SP-OB-01: revision 1 of the baseline');
    expect(body.damaged[0]?.restoreFrom).toContain('copy of the database');
    const shown = await engineer.get<Problem>(`backups/${newest?.id ?? ''}/file?format=csv`);
    expect([shown.status, shown.body.type]).toEqual([500, 'urn:drive-keep:content-damaged']);
    expect((await engineer.get<{ report: IntegrityReport }>('integrity')).body.report.damaged).toHaveLength(
      1,
    );
  });

  it('has the position say so; no other page stops, and a backup that finds the same values mends it', async () => {
    const TAG = 'SP-OB-01';
    const position = async () => (await engineer.get<PositionDetailView>(`positions/${TAG}`)).body;
    expect((await position()).damaged).toBe(true);
    expect((await position()).drift).toBeNull();
    const { body: register } = await engineer.get<RegisterPage>('register?most=500');
    expect(register.positions.find(({ tag }) => tag === TAG)?.damaged).toBe(true);
    expect(register.counts.damaged).toBe(1);
    for (const path of ['motor-arrivals', 'peers/groups', 'rounds', 'jobs', `positions/${TAG}/history`])
      expect([path, (await engineer.get(path)).status]).toEqual([path, 200]);

    const job = await plant.backUp(engineer, TAG);
    expect(job.items.map(({ outcome }) => outcome)).toEqual(['kept']);
    expect((await check()).body.damaged).toEqual([]);
    expect([(await position()).damaged, (await position()).drift]).toEqual([false, 0]);
  });

  it('is for an engineer to start', async () => {
    const technician = await plant.signIn('technician');
    expect((await technician.post('integrity')).status).toBe(403);
  });
});
