import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type {
  DecisionsView,
  LogbookPage,
  NewSaying,
  PositionDetailView,
  Problem,
  CrossReferenceView,
  IntegrityReport,
  ReplacementRecord,
  ReplaceEstimate,
  ReplaceListModel,
  ReplacementMark,
  SettingTablePreview,
  SettingTableView,
  ReplacementView,
  WiringView,
} from '@drive-keep/api';
import {
  readCrossReference,
  replacementSheet,
  sayingsFrom,
  type ReplacementSheet,
  type Saying,
} from '@drive-keep/core/replace';
import type { Code } from '@drive-keep/core/dictionary';
import { DataSource } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Meanings } from '../catalogue/meanings.service.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import { ReplacementSheets } from './replacement-sheets.service.ts';
import { Replacements } from './replacements.service.ts';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

/** The agitator that has failed: nothing answers at its place. */
const TAG = 'BP-AG-03';
const SUCCESSOR = 'halvern-hn64@1';
const SERIAL = 6_420_811;

let plant: RunningPlant;
let technician: Caller;
let engineer: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
  engineer = await plant.signIn('engineer');
  // The demo has begun one there.
  for (const { id, state } of (await technician.get<ReplacementMark[]>(`replacements?tag=${TAG}`)).body)
    if (state === 'open') await act(id, 'give-up', { why: 'begun anew for the test' });
});
afterAll(() => plant.stop());

const begin = (body: object = {}, caller = technician, tag = TAG) =>
  caller.post<ReplacementView & Problem>(`positions/${tag}/replacements`, {
    ...{ dictionary: SUCCESSOR, region: '50-hz', rating: null, source: 'newest', why: 'the unit is dead' },
    ...body,
  });
const view = async (id: string) => (await technician.get<ReplacementView>(`replacements/${id}`)).body;
const say = (id: string, sayings: readonly Partial<NewSaying>[], caller = technician) =>
  caller.ask<ReplacementView & Problem>('PUT', `replacements/${id}/sayings`, {
    sayings: sayings.map((each) => ({ seen: null, toldAt: new Date().toISOString(), ...each })),
  });
const act = (id: string, what: string, body: object, caller = technician) =>
  caller.post<ReplacementView & Problem>(`replacements/${id}/${what}`, body);
const sheetOf = async (id: string): Promise<ReplacementSheet> =>
  plant.app.get(ReplacementSheets).of(await plant.app.get(Replacements).load(id));

/** Says of everything that waits what somebody would say, as the page does. */
async function decideAll(id: string): Promise<ReplacementSheet> {
  const points = async (): Promise<Saying[]> => {
    const { lines, fit, doubts, cautions, behaviour, outside } = await sheetOf(id);
    const open = [
      ...fit.filter(({ state }) => state === 'bad' || state === 'ask'),
      ...[...doubts, ...cautions, ...behaviour.differences],
    ].filter(({ accepted }) => accepted === null);
    const accepted = { kind: 'accepted' as const, reason: 'seen at the cabinet' };
    return [
      ...lines
        .filter((each) => each.open)
        .map(({ id: line, question }): Saying => ({
          ...{ part: 'setting', line },
          value: question ? { kind: 'choice', at: 0 } : accepted,
        })),
      ...open.map(({ id: line }): Saying => ({ part: 'point', line, value: accepted })),
      ...(outside ? [{ part: 'point' as const, line: 'outside', value: accepted }] : []),
    ];
  };
  // An answer may change what the two do, and so what is asked of it.
  for (let round = 0; round < 3; round += 1) {
    const open = await points();
    if (open.length > 0) expect((await say(id, open)).status).toBe(200);
  }
  return sheetOf(id);
}

describe('a replacement on its sheet', () => {
  let id = '';
  beforeEach(async () => {
    const made = await begin();
    expect(made.status).toBe(201);
    id = made.body.id;
  });
  const end = async () => {
    const { state } = await view(id);
    if (state === 'open') expect((await act(id, 'give-up', { why: 'end of the test' })).status).toBe(200);
  };
  afterEach(end);

  it('begins from a set of the dead unit, once at a time, and says what it is computed from', async () => {
    const { source, cross, old, fresh, doing, wiringRevision, sayings } = await view(id);
    expect(source.reference).toMatch(/^backup:/);
    expect([old.model, fresh.dictionary, cross.revision]).toEqual(['Halvern HN20', SUCCESSOR, 0]);
    expect([doing.swap, sayings, wiringRevision]).toEqual([null, [], 1]);
    expect(await begin()).toMatchObject({
      status: 409,
      body: { detail: expect.stringContaining('open already') },
    });
    const swap = {
      dictionary: SUCCESSOR,
      rating: 'HN64-22',
      region: '50-hz',
      serial: SERIAL,
      firmware: '2.07',
    };
    const beside = await technician.post<Problem>(`positions/${TAG}/swap`, { ...swap, reason: 'by hand' });
    expect([beside.status, beside.body.detail]).toEqual([409, expect.stringContaining('on its sheet')]);
  });

  it('keeps every word with who and when; of two people the later is told what the other said', async () => {
    const line = 'caution contactor';
    const accepted = (reason: string) => ({ kind: 'accepted' as const, reason });
    const first = await say(id, [{ part: 'point', line, value: accepted('none, looked') }]);
    const [word] = first.body.sayings;
    expect(word).toMatchObject({ by: 'T. Pellow', line, other: null });
    const blind = await say(id, [{ part: 'point', line, value: accepted('one behind it') }], engineer);
    expect([blind.status, blind.body.detail]).toEqual([409, expect.stringContaining('T. Pellow has said')]);
    // One of several that is refused takes the others with it.
    const two = await say(
      id,
      [
        { part: 'point', line: 'caution other', value: accepted('fine so') },
        { part: 'point', line, value: null },
      ],
      engineer,
    );
    expect([two.status, (await view(id)).sayings.length]).toEqual([409, 1]);
    const seen = await say(
      id,
      [{ part: 'point', line, value: accepted('one behind it'), seen: word?.id ?? '' }],
      engineer,
    );
    expect(seen.body.sayings).toMatchObject([
      { by: 'R. Ashgrove', value: accepted('one behind it'), other: { by: 'T. Pellow' } },
    ]);
    await end();
    expect((await say(id, [{ part: 'point', line, value: null }])).status).toBe(409);
  });

  it('a phone that got no answer brings its tick once more, and undoes nothing that was said since', async () => {
    const line = 'before lock';
    const tick = {
      part: 'task' as const,
      line,
      value: { kind: 'done' as const, note: '' },
      toldAt: '2026-01-01T10:00:00Z',
    };
    await say(id, [tick]);
    const back = await say(id, [{ part: 'task', line, value: null }], engineer);
    expect(back.body.sayings).toMatchObject([{ by: 'R. Ashgrove', value: null, other: { by: 'T. Pellow' } }]);
    expect((await say(id, [tick])).body.sayings).toEqual(back.body.sayings);
    // Done anew is another word.
    const anew = await say(id, [{ ...tick, toldAt: '2026-01-01T11:00:00Z' }]);
    expect(anew.body.sayings).toMatchObject([{ by: 'T. Pellow', value: { kind: 'done' } }]);
  });

  it.each([
    ['no reason', { part: 'point', line: 'fit size', value: { kind: 'accepted', reason: ' ' } }, 400],
    ['a word of another part', { part: 'terminal', line: '10', value: { kind: 'done', note: '' } }, 409],
    [
      'a setting that the successor has not',
      {
        part: 'setting',
        line: 'old 3/15',
        value: { kind: 'own', values: { '99Z': 1 }, reason: 'so' + ' it is' },
      },
      409,
    ],
    [
      'a value that is no number',
      {
        part: 'setting',
        line: 'old 3/15',
        value: { kind: 'own', values: { '01R': 'x' }, reason: 'so it is' },
      },
      400,
    ],
    [
      'a value that no rating takes',
      {
        part: 'setting',
        line: 'old 3/15',
        value: { kind: 'own', values: { '01R': 9_999_999 }, reason: 'so it is' },
      },
      409,
    ],
    [
      'something else beside it',
      { part: 'task', line: 'on 1 28', value: { kind: 'done', note: '', more: 1 } },
      400,
    ],
  ])('takes nothing of %s', async (_, saying, status) => {
    const answer = await say(id, [saying as unknown as NewSaying]);
    expect([answer.status, (await view(id)).sayings]).toEqual([status, []]);
  });

  it('is worked out on the server as it is on the screen', async () => {
    const told = await view(id);
    const { bridge } = plant.app.get(Meanings);
    const dictionaries = plant.app.get(Dictionaries);
    const [old, fresh] = await Promise.all(
      [told.oldDictionary, SUCCESSOR].map((each) => dictionaries.get(each)),
    );
    if (!old || !fresh) throw new Error('no models');
    const read = readCrossReference(told.cross.text ?? '', old, fresh);
    const { rating, region } = told.old;
    const position = (await plant.app.get(Replacements).load(id)).position;
    const { wiring } = await plant.app.get(Wirings).kept(position.id, TAG);
    if (!read.ok) throw new Error('not read');
    const readings = new Map(told.readings as (readonly [Code, number])[]);
    const own = replacementSheet({
      ...{ bridge, words: bridge.vocabulary, fresh, region: '50-hz', rating: null, cross: read.value },
      old: {
        set: bridge.read(old, { rating, region }, readings),
        ...{ outfit: { rating, region }, wiring, onLine: told.old.line !== null, ambient: told.ambient },
      },
      sayings: sayingsFrom(told.sayings),
    });
    expect(JSON.parse(JSON.stringify(await sheetOf(id)))).toEqual(JSON.parse(JSON.stringify(own)));
  });
});

describe('a replacement carried out', () => {
  let id = '';

  it('goes nowhere before the wires are decided, and not by an older page', async () => {
    id = (await begin()).body.id;
    const unit = { serial: SERIAL, firmware: '2.07', line: 'Body preparation', lineAddress: 16 };
    const early = await act(id, 'swap', { ...unit, version: 1 });
    expect([early.status, early.body.detail]).toEqual([409, expect.stringContaining('about the wires')]);
    const sheet = await decideAll(id);
    expect(sheet.open).toEqual({ fit: 0, settings: 0, wires: 0, behaviour: 0, outside: 0 });
    expect((await act(id, 'swap', { ...unit, version: 7 })).status).toBe(409);
    expect((await act(id, 'plan', { version: 1 })).body.detail).toContain('Swap it first');
  });

  it('puts the new unit in with its wires, its line and its rating, in one go', async () => {
    const before = (await technician.get<PositionDetailView>(`positions/${TAG}`)).body.unit;
    const line = { line: before.line?.name, lineAddress: before.line?.address };
    const swapped = await act(id, 'swap', { serial: SERIAL, firmware: '2.07', ...line, version: 1 });
    expect([swapped.status, swapped.body.doing.swap?.serial]).toEqual([200, SERIAL]);
    const { unit } = (await technician.get<PositionDetailView>(`positions/${TAG}`)).body;
    expect([unit.dictionary, unit.serial]).toEqual([SUCCESSOR, SERIAL]);
    const wiring = (await technician.get<WiringView>(`positions/${TAG}/wiring`)).body;
    expect([
      wiring.revision,
      wiring.madeFor,
      wiring.findings.filter(({ attention }) => attention === 'stop'),
    ]).toEqual([2, SUCCESSOR, []]);
    // The sheet is still of the old wires.
    expect((await view(id)).wiringRevision).toBe(1);
    const moved = await say(id, [{ part: 'terminal', line: '3', value: { kind: 'to', terminal: '28' } }]);
    expect([moved.status, moved.body.detail]).toEqual([409, expect.stringContaining('hang on the new unit')]);
  });

  it('takes the old unit back with its wires, and goes on from there', async () => {
    await say(id, [{ part: 'task', line: 'before lock', value: { kind: 'done', note: '' } }]);
    const { version } = await view(id);
    const back = await act(id, 'back', { version, why: 'wrong size' });
    expect([back.status, back.body.doing.swap, back.body.state]).toEqual([200, null, 'open']);
    const { unit } = (await technician.get<PositionDetailView>(`positions/${TAG}`)).body;
    expect(unit.dictionary).toBe('halvern-hn20@1');
    const wiring = (await technician.get<WiringView>(`positions/${TAG}/wiring`)).body;
    expect([wiring.revision, wiring.madeFor]).toEqual([3, 'halvern-hn20@1']);
    const tasks = back.body.sayings.filter(({ part }) => part === 'task');
    expect(tasks.map(({ value }) => value)).toEqual([null]);
    // A phone brings what it was told before, and then what it is told now.
    const tick = async (toldAt: string) => {
      const word = { part: 'task' as const, line: 'before dead', value: { kind: 'done' as const, note: '' } };
      const { body } = await say(id, [{ ...word, toldAt }]);
      return body.sayings.find(({ line }) => line === word.line)?.value;
    };
    expect(await tick(new Date(Date.now() - 3_600_000).toISOString())).toBeNull();
    expect(await tick(new Date().toISOString())).toEqual({ kind: 'done', note: '' });
  });

  it('resets and writes the new unit, reads it back, and has its baseline signed', async () => {
    plant.replaceUnit(TAG, { dictionary: SUCCESSOR, rating: 'HN64-22', serial: SERIAL, firmware: 207 });
    const { unit } = (await technician.get<PositionDetailView>(`positions/${TAG}`)).body;
    const line = { line: unit.line?.name, lineAddress: unit.line?.address };
    const state = async () => view(id);
    const swapped = await act(id, 'swap', {
      serial: SERIAL,
      firmware: '2.07',
      ...line,
      version: (await state()).version,
    });
    expect(swapped.status).toBe(200);
    const blind = await act(id, 'plan', { version: (await state()).version });
    expect([blind.status, blind.body.detail]).toEqual([
      422,
      expect.stringContaining('Back the unit up first'),
    ]);
    const job = await plant.backUp(technician, TAG);
    expect(job.items.map(({ outcome }) => outcome)).toEqual(['kept']);
    expect((await state()).doing.asFound).toMatchObject({ changed: ['01N'] });
    const planned = await act(id, 'plan', { version: (await state()).version });
    const plan = planned.body.doing.plan?.id ?? '';
    await technician.post(`write-plans/${plan}/release`, { stoppedAndSafe: true });
    // It sets the address at which it answers, too.
    const begun = await technician.post<Problem>(`write-plans/${plan}/carry-out`, { cutOffKnown: true });
    expect([begun.status, begun.body.detail]).toEqual([202, undefined]);
    expect((await plant.planEnd(technician, plan)).state).toBe('done');
    expect((await state()).doing).toMatchObject({
      plan: { state: 'done' },
      readBack: { codes: [] },
      planOutdated: false,
    });
    // An answer after the plan makes it old.
    const [own] = (await sheetOf(id)).lines.filter(({ now }) => now.length === 1 && now[0]?.code === '01R');
    if (own) {
      const value = { kind: 'own' as const, values: { '01R': 777 }, reason: 'slower by wish' };
      await say(id, [{ part: 'setting', line: own.id, value }]);
      expect((await state()).doing.planOutdated).toBe(true);
      expect((await act(id, 'baseline-draft', { version: (await state()).version })).body.detail).toContain(
        'Plan again',
      );
      await say(id, [{ part: 'setting', line: own.id, value: null }]);
    }
    const early = await act(id, 'close', { version: (await state()).version });
    expect([early.status, early.body.detail]).toEqual([409, expect.stringContaining('not ticked')]);
    const { tasks } = await sheetOf(id);
    await say(
      id,
      tasks.map((task) => ({
        part: 'task' as const,
        line: task.id,
        value: { kind: 'done' as const, note: '' },
      })),
    );
    await act(id, 'baseline-draft', { version: (await state()).version });
    const unsigned = await act(id, 'close', { version: (await state()).version });
    expect([unsigned.status, unsigned.body.detail]).toEqual([409, expect.stringContaining('not signed')]);
    const { draft } = (await engineer.get<DecisionsView>(`positions/${TAG}/decisions`)).body;
    expect(draft?.of).toBe('replacement');
    expect((await engineer.post(`baseline-drafts/${draft?.id}/sign`, { wiring: draft?.wiring })).status).toBe(
      204,
    );
    const closed = await act(id, 'close', { version: (await state()).version });
    expect([closed.status, closed.body.state]).toEqual([200, 'closed']);
    const { entries } = (await technician.get<LogbookPage>(`logbook?tag=${TAG}`)).body;
    expect(entries[0]?.text).toContain(`Closed the replacement: Halvern HN20 serial`);
  });

  it('stays as it is when it has ended: nothing is said, put back or closed again', async () => {
    const { version, sayings } = await view(id);
    for (const answer of [
      await say(id, [{ part: 'point', line: 'caution contactor', value: null }]),
      await act(id, 'back', { version, why: 'too late' }),
      await act(id, 'close', { version }),
      await act(id, 'give-up', { why: 'too late' }),
    ])
      expect(answer.status).toBe(409);
    expect((await view(id)).sayings).toEqual(sayings);
    await expect(
      plant.app.get(DataSource).query(`update replacement set why = 'another' where id = '${id}'`),
    ).rejects.toThrow('stays as it is');
    await expect(plant.app.get(DataSource).query(`delete from replacement_saying`)).rejects.toThrow(
      'keeps what it holds',
    );
  });

  it('proposes what was answered to the next of the same pair, with who and where', async () => {
    const next = await begin({}, technician, 'BP-AG-02');
    const { earlier } = next.body;
    expect(earlier.length).toBeGreaterThan(2);
    expect(earlier.some(({ tag, by }) => tag === TAG && by === 'T. Pellow')).toBe(true);
    expect(new Set(earlier.map(({ tag }) => tag))).toEqual(new Set([TAG, 'GL-BE-03']));
    await act(next.body.id, 'give-up', { why: 'end of the test' });
  });
});

it('a closed sheet that was damaged is noticed by the check, and nothing of it is shown', async () => {
  const source = plant.app.get(DataSource);
  const closed = (await technician.get<ReplacementMark[]>('replacements?tag=GL-BE-03')).body[0]?.id ?? '';
  expect((await technician.get<ReplacementRecord>(`replacements/${closed}/record`)).body.view.tag).toBe(
    'GL-BE-03',
  );
  await source.query('alter table replacement disable trigger ended');
  const said = (record: string) =>
    source.query(`update replacement set record = ${record} where id = $1`, [closed]);
  await said(`replace(record, 'main switch only', 'no switch whatever')`);
  const shown = await technician.get<Problem>(`replacements/${closed}/record`);
  expect([shown.status, shown.body.detail]).toEqual([500, expect.stringContaining('is damaged')]);
  const { body } = await engineer.post<IntegrityReport>('integrity');
  const texts = body.findings.map(({ text }) => text);
  expect(texts).toContainEqual(expect.stringContaining('replacement of GL-BE-03 is damaged'));
  await said(`replace(record, 'no switch whatever', 'main switch only')`);
  expect((await technician.get<ReplacementRecord>(`replacements/${closed}/record`)).status).toBe(200);
  await source.query('alter table replacement enable trigger ended');
});

describe('a whole model at once', () => {
  const lists = async () => (await technician.get<readonly ReplaceListModel[]>('replace-lists')).body;

  it('lists every position of a model that has a successor, with what speaks for doing it soon', async () => {
    const all = await lists();
    expect(all.map(({ model, rows }) => [model, rows.length])).toEqual([
      ['halvern-hn20', 8],
      ['toreka-c1', 4],
    ]);
    const [old] = all;
    expect(old?.successors.map(({ model, revision }) => [model, revision])).toEqual([
      ['halvern-hn64', 0],
      ['toreka-c7', 0],
    ]);
    const rowOf = (tag: string) => old?.rows.find((row) => row.tag === tag);
    expect(rowOf('BP-AG-02')?.risks.join()).toMatch(/backup is \d+ days old/);
    expect(rowOf('GL-BE-03')?.replacement?.state).toBe('closed');
  });

  it('says what one successor would make of each, and orders what does not sit there yet', async () => {
    const [old] = await lists();
    const dictionary = old?.successors[0]?.dictionary ?? '';
    const path = `replace-lists/halvern-hn20`;
    const { status, body } = await technician.get<readonly ReplaceEstimate[]>(
      `${path}/estimates?dictionary=${dictionary}`,
    );
    expect([status, body.map(({ tag, rating }) => `${tag} ${rating}`)]).toEqual([
      200,
      [
        ...['BP-AG-01 HN64-22', 'BP-AG-02 HN64-22', 'PR-PB-01 HN64-08', 'PR-PB-02 HN64-08'],
        ...['GL-BE-01 HN64-08', 'GL-BE-02 HN64-08'],
      ],
    ]);
    expect(body.every(({ state, open }) => state !== 'bad' && open.length > 0)).toBe(true);
    const order = await (await technician.raw(`${path}/order?dictionary=${dictionary}&as=csv`)).text();
    const lines = order.trim().split('\n');
    expect([lines.length, lines[1]]).toEqual([7, expect.stringContaining('Halvern,HN64,HN64-22')]);
    const xlsx = await technician.raw(`${path}/order?dictionary=${dictionary}&as=xlsx`);
    expect(
      Buffer.from(await xlsx.arrayBuffer())
        .subarray(0, 2)
        .toString(),
    ).toBe('PK');
  });
});

describe('a cross-reference of the plant', () => {
  const path = 'cross-references/halvern-hn20/halvern-hn64';
  const view = async () => (await engineer.get<CrossReferenceView>(path)).body;
  const put = (text: string, seen: number, caller = engineer) =>
    caller.ask<CrossReferenceView & Problem>('PUT', path, { text, seen, why: 'learnt at the belts' });

  it('is kept as a revision, once at a time, and refused whole with each fault by its line', async () => {
    const shipped = await view();
    const text = shipped.text ?? '';
    expect((await put(text, 0, technician)).status).toBe(403);
    const bad = await put(`${text}  - { new: XX9, does: stays, why: x }\n`, 0);
    expect([bad.status, bad.body.detail]).toEqual([
      422,
      expect.stringMatching(/Line \d+: halvern-hn64 has no XX9/),
    ]);
    const kept = await put(`${text}# Looked at in May.\n`, 0);
    expect([kept.status, kept.body.revision, kept.body.text]).toEqual([
      200,
      1,
      expect.stringContaining('in May'),
    ]);
    expect((await put(text, 0)).status).toBe(409);
    const [old] =
      (await engineer.get<CrossReferenceView>(`${path}?revision=0`)).body.text === text ? [true] : [];
    expect(old).toBe(true);
  });

  it('leaves an open replacement by the file with which it began, until somebody takes the new one', async () => {
    const { body } = await begin({}, technician, 'PR-PB-01');
    expect(body.cross).toMatchObject({ revision: 1, newest: 1 });
    await put((await view()).text?.replace('in May', 'in June') ?? '', 1);
    const now = (await technician.get<ReplacementView>(`replacements/${body.id}`)).body;
    expect([now.cross.revision, now.cross.newest, now.cross.text?.includes('in May')]).toEqual([1, 2, true]);
    await say(body.id, [
      { part: 'point', line: 'caution contactor', value: { kind: 'accepted', reason: 'none there' } },
    ]);
    const taken = await technician.ask<ReplacementView>('PATCH', `replacements/${body.id}`, {
      version: 1,
      newestCross: true,
    });
    expect([taken.body.cross.revision, taken.body.sayings.map(({ value }) => value)]).toEqual([2, [null]]);
    await act(body.id, 'give-up', { why: 'end of the test' });
  });
});

describe('a setting table', () => {
  const send = async (path: string, text: string, fields: Record<string, string>) => {
    const form = new FormData();
    for (const [key, value] of Object.entries({ dictionary: SUCCESSOR, ...fields })) form.set(key, value);
    form.set('file', new Blob([text]), 'table.csv');
    return engineer.post<Problem & SettingTablePreview & readonly SettingTableView[]>(path, form);
  };
  const keep = (text: string) =>
    send('setting-tables', text, { name: 'Belts', why: 'leaflet of the belt maker' });

  it('is shown as it is understood, refused whole with what is not, and kept with its revisions', async () => {
    const read = await send('setting-tables/read', 'unit,01R,ramp time\nHN64-08,2.00,1\n', {});
    expect([read.body.rows, read.body.findings.length]).toEqual([[['HN64-08', '2.00', '1']], 1]);
    const bad = await keep('unit,01R\nHN64-08,2 s\n');
    expect([bad.status, bad.body.detail]).toEqual([422, expect.stringContaining('"2 s"')]);
    expect((await keep('unit,01R\nHN64-08,2.00\n')).status).toBe(201);
    const again = await keep('unit,01R\nHN64-08,2.50\n');
    expect(
      again.body.map(({ name, revision, content }) => [name, revision, content.includes('2.50')]),
    ).toEqual([['Belts', 2, true]]);
    const strange = await send('setting-tables', 'unit,01R\nHN64-08,2.00\n', { name: 'B', why: '' });
    expect(strange.status).toBe(400);
  });
});
