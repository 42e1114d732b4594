import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { KeyInMark, KeyInSheetView, LogbookPage, PositionDetailView, Problem } from '@drive-keep/api';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

/** An agitator without a line. */
const TAG = 'BP-AG-02';

let plant: RunningPlant;
let technician: Caller;
let engineer: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
  engineer = await plant.signIn('engineer');
});
afterAll(() => plant.stop());

const make = async (target = 'default', tag = TAG, codes?: readonly string[]) =>
  technician.post<KeyInSheetView>(`positions/${tag}/key-in-sheets`, { target, ...(codes ? { codes } : {}) });
const mark = (id: string, marks: readonly KeyInMark[], caller = technician) =>
  caller.ask<KeyInSheetView>('PUT', `key-in-sheets/${id}/marks`, { marks });
const done = (place: number, at: string, more: Partial<KeyInMark> = {}): KeyInMark => ({
  ...{ place, state: 'done', found: null, note: '', at },
  ...more,
});

describe('a key-in sheet', () => {
  it('has the changes in the order of the keys, and apart from them what is only looked at', async () => {
    const { status, body } = await make();
    expect(status).toBe(201);
    const changes = body.lines.filter(({ kind }) => kind === 'change');
    const checks = body.lines.filter(({ kind }) => kind === 'check');
    expect(changes.length).toBeGreaterThan(5);
    expect(checks.length).toBeGreaterThan(30);
    expect(body.lines.map(({ place }) => place)).toEqual(body.lines.map((_, at) => at));
    expect(body.lines.slice(0, changes.length)).toEqual(changes);
    for (const { from, to } of changes) expect(from).not.toBe(to);
    for (const { from, to } of checks) expect(from).toBe(to);
    expect(body.presses).toBe(changes.reduce((sum, { way, edit }) => sum + way + edit, 0));
    expect(body.presses).toBeLessThanOrEqual(body.plainPresses);
  });

  it('takes marks and notes of several people; the one that came last counts, whatever a phone’s clock says', async () => {
    const { body } = await make();
    await mark(body.id, [
      done(0, '2026-01-01T10:00:00Z'),
      done(1, '2026-01-01T10:01:00Z', { note: 'stiff key' }),
    ]);
    const late = await mark(
      body.id,
      [
        done(0, '2026-01-01T09:00:00Z', { state: null }),
        done(1, '2026-01-01T11:00:00Z', { state: 'other-found', found: body.lines[1]?.from ?? 0 }),
      ],
      engineer,
    );
    expect(late.body.marks.map(({ place, state, by }) => [place, state, by])).toEqual([
      [0, null, 'R. Ashgrove'],
      [1, 'other-found', 'R. Ashgrove'],
    ]);
    // What the other one said, and it was something else, stays: whichever of the two came first.
    const others = late.body.marks.map(({ other }) => other && [other.by, other.state, other.at, other.note]);
    expect(others).toEqual([
      ['T. Pellow', 'done', '2026-01-01T10:00:00Z', ''],
      ['T. Pellow', 'done', '2026-01-01T10:01:00Z', 'stiff key'],
    ]);
    const again = await technician.get<KeyInSheetView>(`key-in-sheets/${body.id}`);
    expect(again.body.marks).toEqual(late.body.marks);
    // A phone that got no answer brings its old mark once more: that undoes nothing.
    await mark(body.id, [done(0, '2026-01-01T10:00:00Z')]);
    expect((await technician.get<KeyInSheetView>(`key-in-sheets/${body.id}`)).body.marks).toEqual(
      again.body.marks,
    );
    // Agreed on: nothing is left to be looked at.
    const agreed = await mark(body.id, [
      done(1, '2026-01-01T12:00:00Z', { state: 'other-found', found: body.lines[1]?.from ?? 0 }),
    ]);
    expect([agreed.body.marks[1]?.by, agreed.body.marks[1]?.other]).toEqual(['T. Pellow', null]);
  });

  it('leaves as a paper, in the order of the keys, with what was marked', async () => {
    const { body } = await make();
    const changes = body.lines.filter(({ kind }) => kind === 'change');
    await mark(body.id, [done(0, '2026-01-01T10:00:00Z')]);
    await mark(body.id, [done(0, '2026-01-01T11:00:00Z', { state: null })], engineer);
    const path = `positions/${TAG}/key-in-record?sheet=${body.id}`;
    const csv = await technician.get<string>(`${path}&format=csv`);
    const rows = csv.body.split('\r\n').filter((line) => /^[^,]*,(☐|✓)/.test(line));
    const codes = rows.map((line) => line.split(',')[2]).filter((code) => code !== '');
    expect(codes).toEqual(changes.map(({ code }) => code));
    expect(rows[0]).toContain('T. Pellow says something else');
    const pdf = await technician.raw(`${path}&format=pdf`);
    expect([pdf.headers.get('content-type'), pdf.headers.get('content-disposition')]).toEqual([
      'application/pdf',
      `attachment; filename=${TAG}_key-in.pdf`,
    ]);
    expect(
      (await technician.get(`positions/BP-AG-01/key-in-record?sheet=${body.id}&format=csv`)).status,
    ).toBe(404);
  });

  it('is finished once, with what is open said in the logbook; then it takes no marks', async () => {
    const { body } = await make();
    const [first, second] = body.lines;
    await mark(body.id, [
      done(0, '2026-01-01T10:00:00Z'),
      done(1, '2026-01-01T10:00:00Z', { state: 'other-found', found: second?.to ?? 0 }),
    ]);
    const finished = await technician.post<KeyInSheetView>(`key-in-sheets/${body.id}/finish`);
    expect([finished.body.state, finished.body.finishedBy]).toEqual(['finished', 'T. Pellow']);
    const log = await technician.get<LogbookPage>(`logbook?tag=${TAG}&find=Finished+a+key-in+sheet`);
    expect(log.body.entries[0]?.text).toContain(
      `1 lines done; other values found at ${second?.code}; ${body.lines.length - 2} left open`,
    );
    expect(first?.kind).toBe('change');
    const twice = await engineer.post<Problem>(`key-in-sheets/${body.id}/finish`);
    const late = await technician.ask<Problem>('PUT', `key-in-sheets/${body.id}/marks`, {
      marks: [done(2, '2026-01-01T12:00:00Z')],
    });
    expect([twice.status, late.status]).toEqual([409, 409]);
    expect(late.body.detail).toContain('finished by T. Pellow');
  });

  it('refuses marks that say nothing true: no such line, a value where none was found, one beyond the range', async () => {
    const { body } = await make();
    const number = body.lines.find(({ code }) => code.startsWith('2/')) ?? body.lines[0];
    const bad: KeyInMark[] = [
      done(9999, '2026-01-01T10:00:00Z'),
      done(0, '2026-01-01T10:00:00Z', { found: 1 }),
      done(0, '2026-01-01T10:00:00Z', { state: 'other-found' }),
      done(number?.place ?? 0, '2026-01-01T10:00:00Z', { state: 'other-found', found: 60_000_000 }),
    ];
    for (const each of bad) {
      const { status, body: problem } = await technician.ask<Problem>(
        'PUT',
        `key-in-sheets/${body.id}/marks`,
        { marks: [each] },
      );
      expect([status, problem.detail]).toEqual([422, expect.stringContaining('Nothing was kept')]);
    }
    expect((await technician.get<KeyInSheetView>(`key-in-sheets/${body.id}`)).body.marks).toEqual([]);
  });

  it('is made for single lines, too, and names what cannot be set', async () => {
    const { body } = await make('default', TAG, ['2/01', '9/02', '8/01', '77/7']);
    expect(body.lines.map(({ code }) => code)).toContain('2/01');
    expect(body.unreachable.map(({ code }) => code)).toContain('77/7');
  });

  it('is not made by a viewer, for another model’s set, or for a unit without a keypad', async () => {
    const viewer = await plant.signIn('viewer');
    const refused = await viewer.post(`positions/${TAG}/key-in-sheets`, { target: 'default' });
    expect(refused.status).toBe(403);
    const servo = await technician.post<Problem>('positions/SP-ST-01/key-in-sheets', { target: 'default' });
    expect([servo.status, servo.body.detail]).toEqual([422, expect.stringContaining('has no keypad')]);
  });
});

describe('putting back at a unit without a line', () => {
  it('leads to a key-in sheet in place of a write plan', async () => {
    const { body: position } = await engineer.get<PositionDetailView>(`positions/${TAG}`);
    const read = (code: string, raw: number) => ({ code, raw, before: null, at: new Date().toISOString() });
    const entries = [read('2/01', 777), read('2/02', 888)];
    await engineer.ask('PUT', `positions/${TAG}/read-off`, { serial: position.unit.serial, entries });
    expect((await engineer.post(`positions/${TAG}/read-off/keep`, { reason: 'Test' })).status).toBe(201);
    const codes = ['2/01', '2/02'];
    await engineer.ask('PUT', `positions/${TAG}/decisions`, { codes, kind: 'put-back' });
    const finished = await engineer.post<{ writePlanId: null; keyInSheetId: string }>(
      `positions/${TAG}/decisions/finish`,
    );
    expect(finished.body.writePlanId).toBeNull();
    const sheet = await engineer.get<KeyInSheetView>(`key-in-sheets/${finished.body.keyInSheetId}`);
    // Whether the lock is set was not read: it is taken off first.
    const changes = sheet.body.lines.filter(({ kind }) => kind === 'change').map(({ code }) => code);
    expect(changes).toEqual(['9/03', ...codes]);
  });
});
