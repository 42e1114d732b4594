import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  BroughtEntry,
  ComparisonView,
  HistoryView,
  ImportedBackup,
  PositionDetailView,
  Problem,
  ReadOffSync,
  ReadOffView,
} from '@drive-keep/api';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

const TAG = 'GL-BE-02';
let plant: RunningPlant;
let technician: Caller;
let engineer: Caller;
let serial: number;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
  engineer = await plant.signIn('engineer');
  serial = (await technician.get<PositionDetailView>(`positions/${TAG}`)).body.unit.serial;
});
afterAll(() => plant.stop());

const entry = (code: string, raw: number, before: number | null = null): BroughtEntry => ({
  ...{ code, raw, before },
  at: '2026-11-25T08:00:00.000Z',
});
const bring = (caller: Caller, ...entries: BroughtEntry[]) =>
  caller.ask<ReadOffSync & Problem>('PUT', `positions/${TAG}/read-off`, { serial, entries });
const open = async () =>
  (await technician.get<{ readOff: ReadOffView | null }>(`positions/${TAG}/read-off`)).body.readOff;
const values = (readOff: ReadOffView | null) =>
  Object.fromEntries((readOff?.entries ?? []).map(({ code, raw }) => [code, raw]));

describe('reading off at the keypad', () => {
  it('begins with the first value that a phone brings, and goes on with the next', async () => {
    expect(await open()).toBeNull();
    await bring(technician, entry('1/04', 500), entry('2/01', 20));
    await bring(technician, entry('2/02', 30));
    expect(values(await open())).toEqual({ '1/04': 500, '2/01': 20, '2/02': 30 });
  });

  it('takes the same value twice, and a change by whoever knew the one before', async () => {
    expect((await bring(engineer, entry('1/04', 500))).body.conflicts).toEqual([]);
    expect((await bring(technician, entry('2/01', 25, 20))).body.conflicts).toEqual([]);
    expect(values(await open())['2/01']).toBe(25);
  });

  it('tells two people who read different values, and takes neither until one has chosen', async () => {
    const { body } = await bring(engineer, entry('2/01', 40), entry('2/03', 10));
    expect(body.conflicts).toMatchObject([{ code: '2/01', mine: 40, theirs: { raw: 25, by: 'T. Pellow' } }]);
    expect(values(await open())).toMatchObject({ '2/01': 25, '2/03': 10 });
    expect((await bring(engineer, entry('2/01', 40, 25))).body.conflicts).toEqual([]);
    expect((await open())?.entries.find(({ code }) => code === '2/01')).toMatchObject({
      raw: 40,
      by: 'R. Ashgrove',
    });
  });

  it('takes nothing that the drive cannot hold, and nothing of another unit', async () => {
    const before = await open();
    const wrong = await bring(
      technician,
      entry('1/04', 9999),
      entry('9/99', 1),
      entry('9/05', 1),
      entry('3/01', 7),
    );
    expect([wrong.status, wrong.body.findings?.length]).toEqual([422, 4]);
    expect(wrong.body.detail).toMatch(/999\.9 Hz is above the maximum value.*Nothing was taken/);
    const path = `positions/${TAG}/read-off`;
    const other = await technician.ask<Problem>('PUT', path, { serial: 999, entries: [entry('1/04', 600)] });
    expect([other.status, other.body.detail]).toEqual([409, expect.stringContaining('read off at 999')]);
    const half = await technician.ask('PUT', path, { serial, entries: [{ code: '1/04', raw: 500 }] });
    expect(half.status).toBe(400);
    expect((await (await plant.signIn('viewer')).ask('PUT', path, { serial, entries: [] })).status).toBe(403);
    expect(await open()).toEqual(before);
  });

  it('survives many phones at once without losing a value', async () => {
    const codes = ['2/04', '2/05', '2/07', '2/08', '2/09'];
    await Promise.all(codes.map((code, at) => bring(at % 2 ? engineer : technician, entry(code, 10 + at))));
    expect(values(await open())).toMatchObject(Object.fromEntries(codes.map((code, at) => [code, 10 + at])));
  });

  it('becomes a backup in which what nobody read is not read, never a default', async () => {
    const { status, body } = await technician.post<ImportedBackup>(`positions/${TAG}/read-off/keep`, {
      reason: 'After the belt jam',
    });
    expect(status).toBe(201);
    expect(await open()).toBeNull();
    const { backups } = (await technician.get<HistoryView>(`positions/${TAG}/history`)).body;
    expect(backups.at(-1)).toMatchObject({
      ...{ id: body.backupId, how: 'read-off', takenBy: 'T. Pellow', reason: 'After the belt jam', serial },
      unreadable: 84 - 9,
    });
    const path = `positions/${TAG}/comparison?a=baseline&b=backup:${body.backupId}`;
    const { rows } = (await technician.get<ComparisonView>(path)).body;
    expect(rows.find(({ code }) => code === '2/01')).toMatchObject({ a: 20, b: 40 });
    expect(rows.find(({ code }) => code === '1/01')?.b).toEqual({ unreadable: 'not-read-off' });
  });

  it('keeps nothing where nothing was read, and may be dropped', async () => {
    const keep = () => technician.post<Problem>(`positions/${TAG}/read-off/keep`, { reason: 'x' });
    expect([(await keep()).status, (await keep()).body.type]).toEqual([
      409,
      'urn:drive-keep:nothing-read-off',
    ]);
    await bring(technician, entry('1/04', 600));
    expect((await technician.ask('DELETE', `positions/${TAG}/read-off`)).status).toBe(204);
    expect(await open()).toBeNull();
    expect((await technician.ask('DELETE', `positions/${TAG}/read-off`)).status).toBe(404);
  });

  it('of a unit that is swapped meanwhile is not taken for the new one', async () => {
    await bring(technician, entry('1/04', 600));
    const { unit } = (await technician.get<PositionDetailView>(`positions/${TAG}`)).body;
    const fresh = { dictionary: unit.dictionary, rating: unit.rating, region: unit.region, firmware: '1.50' };
    await technician.post(`positions/${TAG}/swap`, { ...fresh, serial: 299_001, reason: 'Failed' });
    expect(await open()).toBeNull();
    expect((await bring(technician, entry('1/04', 600))).status).toBe(409);
  });
});
