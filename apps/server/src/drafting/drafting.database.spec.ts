import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  AcrossView,
  DecisionsView,
  DraftMark,
  DraftRecord,
  IntegrityReport,
  KeyInSheetView,
  LogbookPage,
  NewDraftField,
  Problem,
  SettingsDraftView,
  StartingPointView,
  WiringView,
  WritePlanView,
} from '@drive-keep/api';
import { draftInputOf, draftSheet } from '@drive-keep/core/start';
import { DataSource } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Meanings } from '../catalogue/meanings.service.ts';
import { RunningPlant, until, type Caller } from '../testing/running-plant.ts';
import { DraftSheets } from './draft-sheets.service.ts';
import { Drafts } from './drafts.service.ts';

const BELT = 'GL-BE-04';
const HN64 = 'halvern-hn64@1';
const PLATE = {
  ...{ 'plate.power': '0.75', 'plate.voltage': '400', 'plate.current': '1.9', 'plate.frequency': '50' },
  ...{ 'plate.speed': '1400', 'plate.powerFactor': '0.76', 'supply.volts': '400', 'supply.hertz': '50' },
};

let plant: RunningPlant;
let technician: Caller;
let engineer: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
  engineer = await plant.signIn('engineer');
});
afterAll(() => plant.stop());

type View = SettingsDraftView & Problem;
const begin = (body: object = {}, caller = technician) =>
  caller.post<View>('drafts', {
    ...{ name: 'A belt', dictionary: HN64, region: '50-hz', rating: null, tag: null },
    ...{ begins: { kind: 'point', id: 'belt-presets' }, ...body },
  });
const type = (
  id: string,
  fields: Readonly<Record<string, string>>,
  caller = technician,
  seen: string | null = null,
) =>
  caller.ask<View>('PUT', `drafts/${id}/fields`, {
    fields: Object.entries(fields).map(([key, text]): NewDraftField => ({ key, text, why: '', seen })),
  });
const view = async (id: string) => (await technician.get<SettingsDraftView>(`drafts/${id}`)).body;
const use = (id: string, kind: string, tag: string, more: object = {}) =>
  technician.post<View>(`drafts/${id}/uses`, { kind, tag, why: 'first settings', ...more });
const filled = async (body: object = {}): Promise<string> => {
  const { body: made } = await begin(body);
  await type(made.id, PLATE);
  return made.id;
};
const sheetOf = async (id: string) =>
  plant.app.get(DraftSheets).of(await plant.app.get(Drafts).load(id), (await view(id)).fields);

describe('a draft of first settings', () => {
  it('is worked out on the server as it is on the screen', async () => {
    const id = await filled();
    const { sheet, set } = await sheetOf(id);
    const { dictionary, region, rating, point, fields } = await view(id);
    const own = await plant.app.get(Dictionaries).get(dictionary);
    const kept = { dictionary: own, region, rating, point: point?.text ?? null, base: null, fields };
    const { readings, ...shown } = draftSheet(draftInputOf(plant.app.get(Meanings).bridge, kept));
    expect(JSON.parse(JSON.stringify(sheet))).toEqual(JSON.parse(JSON.stringify(shown)));
    expect([...set.readings]).toEqual([...readings]);
    expect([sheet.open, sheet.rating, sheet.refusals]).toEqual([0, 'HN64-08', []]);
  });

  it('keeps what two people type, and tells the later of two who change one field', async () => {
    const id = await filled();
    await type(id, { 'ask.speed.1': '12' }, engineer);
    const both = await view(id);
    expect(both.fields.find(({ key }) => key === 'ask.speed.1')).toMatchObject({ text: '12' });
    const late = await type(id, { 'ask.speed.1': '14', 'ask.speed.2': '25' });
    expect([late.status, late.body.detail]).toEqual([
      409,
      expect.stringMatching(/typed something into "ask\.speed\.1".*"12"/),
    ]);
    expect((await view(id)).fields.some(({ key }) => key === 'ask.speed.2')).toBe(false);
    const seen = both.fields.find(({ key }) => key === 'ask.speed.1')?.id ?? null;
    const told = await type(id, { 'ask.speed.1': '14' }, technician, seen);
    expect(told.status).toBe(200);
    expect(told.body.fields.find(({ key }) => key === 'ask.speed.1')).toMatchObject({
      text: '14',
      other: { text: '12' },
    });
  });

  it('keeps also what is not understood, and refuses a key that names no field', async () => {
    const id = await filled();
    expect((await type(id, { 'plate.current': 'two amps' })).status).toBe(200);
    expect((await sheetOf(id)).sheet.faults).toEqual([
      { key: 'plate.current', text: expect.stringMatching(/no number/) },
    ]);
    for (const key of ['robert', 'plate.', "set.x'; drop table draft_field"])
      expect([key, (await type(id, { [key]: '1' })).status]).toEqual([key, 400]);
  });

  it('is kept as a revision once, and for ever', async () => {
    const id = await filled();
    const keep = () => technician.post<View>(`drafts/${id}/revisions`, { why: 'before the holidays' });
    const [one, two] = [await keep(), await keep()];
    expect([one.status, one.body.revisions.length, two.body.revisions.length]).toEqual([201, 1, 1]);
    await type(id, { 'ask.speed.3': '40' });
    const three = await keep();
    expect(three.body.revisions.map(({ revision }) => revision)).toEqual([2, 1]);
    const [newest, first] = three.body.revisions;
    const record = await technician.get<DraftRecord>(`draft-revisions/${first?.id ?? ''}`);
    expect(record.body.fields.some(({ key }) => key === 'ask.speed.3')).toBe(false);
    expect(newest?.hash).not.toBe(first?.hash);
    const source = plant.app.get(DataSource);
    await expect(source.query('update draft_revision set why = $1', ['x'])).rejects.toThrow();
    await expect(source.query('delete from draft_field')).rejects.toThrow();
  });

  it('is named where a kept row is damaged, and not used', async () => {
    const id = await filled({ name: 'Damaged belt' });
    const { body } = await technician.post<View>(`drafts/${id}/revisions`, { why: 'to be damaged' });
    const revision = body.revisions[0]?.id ?? '';
    const source = plant.app.get(DataSource);
    await source.transaction(async (manager) => {
      await manager.query("set local session_replication_role = 'replica'");
      await manager.query('update draft_revision set why = $2 where id = $1', [revision, 'never said']);
    });
    const shown = await technician.get<Problem>(`draft-revisions/${revision}`);
    expect([shown.status, shown.body.type]).toEqual([500, 'urn:drive-keep:draft-damaged']);
    const report = await engineer.post<IntegrityReport>('integrity');
    expect(report.body.findings.map(({ text }) => text).join()).toContain(
      'Revision 1 of the draft "Damaged belt"',
    );
    expect((await use(id, 'key-in', BELT)).status).toBe(201);
    expect((await view(id)).revisions).toHaveLength(2);
  });

  it('becomes a key-in sheet, which leaves address and lock of the unit alone', async () => {
    const id = await filled({ tag: BELT });
    const made = await use(id, 'key-in', BELT);
    expect([made.status, made.body.uses]).toMatchObject([201, [{ kind: 'key-in', tag: BELT, revision: 1 }]]);
    const { body: sheet } = await technician.get<KeyInSheetView>(
      `key-in-sheets/${made.body.uses[0]?.madeId ?? ''}`,
    );
    const changes = sheet.lines.filter(({ kind }) => kind === 'change').map(({ code }) => code);
    expect(changes.length).toBeGreaterThan(5);
    expect(changes.filter((code) => /N$|^04U$/.test(code))).toEqual([]);
    expect(sheet.target).toMatch(/Revision 1 of the draft "A belt"/);
  });

  it('becomes a write plan, carried out on the simulated plant until the unit holds the draft', async () => {
    const id = await filled({ tag: BELT, name: 'For the line' });
    const made = await use(id, 'write-plan', BELT);
    expect(made.body.uses?.[0]).toMatchObject({ kind: 'write-plan' });
    const plan = (await technician.get<WritePlanView>(`write-plans/${made.body.uses[0]?.madeId ?? ''}`)).body;
    expect(plan.unreachable).toEqual([]);
    await technician.post(`write-plans/${plan.id}/release`, { stoppedAndSafe: true });
    const unit = plant.unit(BELT);
    unit.runContact = false;
    await until(() => (unit.running ? undefined : true));
    await technician.post(`write-plans/${plan.id}/carry-out`, {});
    const now = await plant.planEnd(technician, plan.id);
    expect([now.state, now.text]).toEqual(['done', expect.anything()]);
    const { set } = await sheetOf(id);
    for (const { code } of now.steps)
      expect([code, unit.memory.get(code)]).toEqual([code, set.readings.get(code as never)]);
  });

  it('is used once by two quick clicks', async () => {
    const id = await filled({ tag: BELT, name: 'Clicked twice' });
    const both = await Promise.all([use(id, 'key-in', BELT), use(id, 'key-in', BELT)]);
    expect(both.map(({ status }) => status)).toEqual([201, 201]);
    expect((await view(id)).uses).toHaveLength(1);
  });

  it('is refused for another model, another size, and while something is open or stops', async () => {
    const id = await filled();
    expect((await use(id, 'key-in', 'GL-DI-01')).body.detail).toMatch(
      /is for a HN64.*a C7.*Carry the draft over/,
    );
    expect((await view(id)).revisions).toEqual([]);
    const large = await filled({ rating: 'HN64-40' });
    expect((await use(large, 'key-in', BELT)).body.detail).toMatch(/HN64-40.*HN64-08.*carry/);
    await type(id, { 'plate.speed': '' });
    expect((await use(id, 'key-in', BELT)).body.detail).toMatch(/One thing on the sheet is.*Rated speed/);
    await type(id, { 'plate.speed': '1400', 'set.command.source': 'keypad' });
    expect((await sheetOf(id)).sheet.table.filter(({ passed }) => !passed)).not.toEqual([]);
    expect((await use(id, 'key-in', BELT)).body.detail).toMatch(/table of the duty find stops: /);
    expect((await use(id, 'key-in', BELT, { accepted: 'the keypad for a day' })).status).toBe(201);
  });

  it('proposes a baseline, keeps its wiring, and is compared with anything', async () => {
    const id = await filled({ tag: BELT, name: 'Compared' });
    expect((await use(id, 'wiring', BELT)).status).toBe(201);
    const wiring = (await technician.get<WiringView>(`positions/${BELT}/wiring`)).body;
    expect(JSON.stringify(wiring.rows)).toContain('S2');
    expect((await use(id, 'baseline', BELT)).status).toBe(201);
    const { draft: waiting } = (await technician.get<DecisionsView>(`positions/${BELT}/decisions`)).body;
    expect(waiting?.reason).toBe('Revision 1 of the draft "Compared": first settings');
    for (const other of [
      'delivered',
      `draft:${await filled({ name: 'Other', begins: { kind: 'delivered' } })}`,
      `${BELT}:newest`,
      'GL-DI-01:newest',
    ]) {
      const { status, body } = await technician.get<AcrossView>(
        `drafts/${id}/comparison?with=${encodeURIComponent(other)}`,
      );
      expect([other, status, body.rows.length > 0]).toEqual([other, 200, true]);
    }
    const revision = (await view(id)).revisions[0]?.id ?? '';
    const { status } = await technician.get(`positions/${BELT}/comparison?a=newest&b=drafted:${revision}`);
    expect(status).toBe(200);
  });

  it('is carried over to another model with all that is said in meanings', async () => {
    const id = await filled({ name: 'To be carried' });
    await type(id, {
      'ask.speed.1': '11',
      'set.ramp.up': '2.5 s',
      'terminal.S1:13-14': '27',
      'code.13R': '48.00',
    });
    const carried = await technician.post<View>(`drafts/${id}/copies`, {
      ...{ name: 'Carried', dictionary: 'toreka-c7@1', region: '50-hz', rating: null },
    });
    expect([carried.status, carried.body.from]).toEqual([201, { id, name: 'To be carried' }]);
    const keys = carried.body.fields.map(({ key }) => key);
    expect(keys).toEqual(expect.arrayContaining(['ask.speed.1', 'set.ramp.up', 'plate.power']));
    expect(keys.filter((key) => /^(terminal|code)/.test(key))).toEqual([]);
    const { sheet } = await sheetOf(carried.body.id);
    expect([sheet.refusals, sheet.table.every(({ passed }) => passed)]).toEqual([[], true]);
  });

  it('begins with the set and the wires of a position', async () => {
    const { body } = await begin({
      ...{
        name: 'As section 1',
        begins: { kind: 'position', tag: 'KL1-RD-01', reference: 'baseline' },
        rating: 'HN64-15',
      },
    });
    expect(body.base?.title).toMatch(/^KL1-RD-01, Baseline/);
    const { sheet, set } = await sheetOf(body.id);
    expect(sheet.wiring.devices.length).toBeGreaterThan(0);
    expect(sheet.lines.every(({ why }) => why.startsWith('As KL1-RD-01'))).toBe(true);
    const at = await technician.get<AcrossView>(`drafts/${body.id}/comparison?with=KL1-RD-01:baseline`);
    expect(
      at.body.rows.filter(({ a, b }) => JSON.stringify(a?.holds) !== JSON.stringify(b?.holds)).length,
    ).toBeLessThan(8);
    expect(set.readings.size).toBeGreaterThan(100);
    expect((await begin({ begins: { kind: 'position', tag: 'NO-WH-01' } })).status).toBe(404);
  });

  it('leaves as a file and comes in again, and a set from a file begins one', async () => {
    const id = await filled({ name: 'By file' });
    const file = await technician.raw(`drafts/${id}/file`);
    const text = await file.text();
    const bring = async (content: string, name: string) => {
      const form = new FormData();
      form.append('file', new Blob([content]), name);
      return technician.ask<{ draft: SettingsDraftView } & Problem>(
        'POST',
        `drafts/files?name=&dictionary=${HN64}&region=50-hz`,
        form,
      );
    };
    const again = await bring(text, 'x.draft.json');
    expect([again.status, again.body.draft?.name]).toEqual([201, 'By file']);
    const [a, b] = [await sheetOf(id), await sheetOf(again.body.draft.id)];
    expect([...b.set.readings]).toEqual([...a.set.readings]);
    for (const broken of [
      text.replace('"version": 1', '"version": 9'),
      text.replace('plate.power', 'plate power!'),
      '{"format":"drive-keep/draft"}',
    ])
      expect((await bring(broken, 'x.json')).status).toBe(422);
    await technician.post(`drafts/${id}/revisions`, { why: 'to leave' });
    const revision = (await view(id)).revisions[0]?.id ?? '';
    for (const format of ['json', 'csv', 'dcf', 'xlsx']) {
      const left = await technician.raw(`draft-revisions/${revision}/file?format=${format}`);
      const form = new FormData();
      form.append('file', new Blob([await left.arrayBuffer()]), `x.${format}`);
      const back = await technician.ask<{ draft: SettingsDraftView } & Problem>(
        'POST',
        `drafts/files?name=Back&dictionary=${HN64}&region=50-hz&rating=HN64-08`,
        form,
      );
      expect([format, back.status]).toEqual([format, 201]);
      expect([...(await sheetOf(back.body.draft.id)).set.readings].sort()).toEqual(
        [...a.set.readings].sort(),
      );
    }
    expect((await bring('code,value\nZZ9,1\n', 'odd.csv')).status).toBe(422);
  });

  it('is printed with what was chosen and why', async () => {
    const id = await filled({ name: 'Printed' });
    await technician.post(`drafts/${id}/revisions`, { why: 'to be printed' });
    const revision = (await view(id)).revisions[0]?.id ?? '';
    const csv = await (await technician.raw(`draft-revisions/${revision}/draft-record?format=csv`)).text();
    expect(csv).toMatch(/Rated current/);
    expect(csv).toMatch(/The selector gives the speed/);
    const pdf = await technician.raw(`draft-revisions/${revision}/draft-record?format=pdf`);
    expect((await pdf.arrayBuffer()).byteLength).toBeGreaterThan(5000);
  });

  it('stays with its dictionary when a newer version comes in, and says so', async () => {
    const id = await filled({ name: 'Older firmware' });
    expect((await view(id)).newerDictionary).toBeNull();
    const { set } = await sheetOf(id);
    await plant.app.get(DataSource).transaction(async (manager) => {
      await manager.query("set local session_replication_role = 'replica'");
      await manager.query("update dictionary set imported_at = now() where id = 'halvern-hn64@2'");
    });
    const now = await view(id);
    expect([now.dictionary, now.newerDictionary]).toEqual([HN64, 'halvern-hn64@2']);
    expect([...(await sheetOf(id)).set.readings]).toEqual([...set.readings]);
    const moved = await technician.ask<View>('PATCH', `drafts/${id}`, {
      ...{ dictionary: 'halvern-hn64@2', version: now.version },
    });
    expect([moved.status, moved.body.dictionary, moved.body.newerDictionary]).toEqual([
      200,
      'halvern-hn64@2',
      null,
    ]);
    const late = await technician.ask<View>('PATCH', `drafts/${id}`, {
      rating: 'HN64-15',
      version: now.version,
    });
    expect([late.status, late.body.detail]).toEqual([409, expect.stringContaining('somebody else')]);
  });

  it('is put away and taken out, listed, and told in the logbook', async () => {
    const id = await filled({ name: 'Put away' });
    expect(
      (await technician.post<View>(`drafts/${id}/put-away`, { why: 'the unit went elsewhere' })).body.state,
    ).toBe('put-away');
    expect((await type(id, { 'ask.speed.1': '9' })).status).toBe(409);
    expect((await technician.post<View>(`drafts/${id}/take-out`)).body.state).toBe('open');
    const marks = (await technician.get<DraftMark[]>('drafts')).body;
    expect(marks.find((each) => each.id === id)).toMatchObject({
      name: 'Put away',
      begins: 'Belt by contacts and preset speeds',
      state: 'open',
    });
    const log = (await technician.get<LogbookPage>('logbook')).body;
    expect(JSON.stringify(log)).toContain('Put the draft \\"Put away\\" away');
    const viewer = await plant.signIn('viewer');
    expect([
      (await begin({}, viewer)).status,
      (await type(id, { 'ask.speed.1': '9' }, viewer)).status,
    ]).toEqual([403, 403]);
    expect((await viewer.get(`drafts/${id}`)).status).toBe(200);
  });
});

describe('starting points of the plant', () => {
  it('are kept in revisions; one with faults is refused line by line, and drafts stay with theirs', async () => {
    const id = await filled({ name: 'Older point' });
    const { body: point } = await technician.get<StartingPointView>('starting-points/belt-presets');
    const save = (text: string, seen: number, caller = engineer) =>
      caller.ask<StartingPointView & Problem>('PUT', 'starting-points/belt-presets', {
        text,
        why: 'slower belts here',
        seen,
      });
    expect((await save(point.text, 0, technician)).status).toBe(403);
    const broken = await save(
      point.text.replace('load: belt', 'load: rocket').replace('must: stopped', 'must: dance'),
      0,
    );
    expect([broken.status, broken.body.findings?.length]).toEqual([422, 2]);
    expect(broken.body.findings?.every((each) => /^Line \d+/.test(each))).toBe(true);
    const slower = point.text.replace("text: 'Speed 1'", "text: 'Creep'");
    expect((await save(slower, 0)).body.revision).toBe(1);
    expect((await save(slower, 0)).status).toBe(409);
    const old = await view(id);
    expect([old.point?.isOlder, old.point?.text]).toEqual([true, point.text]);
    const fresh = await filled({ name: 'Newer point' });
    expect((await view(fresh)).point).toMatchObject({ isOlder: false, text: slower });
  });

  it('are shown with their faults when they are not understood any more, and their drafts refuse to be used', async () => {
    const id = await filled({ name: 'Lost point' });
    const { body: point } = await technician.get<StartingPointView>('starting-points/belt-presets');
    const lost = point.text.replace('load: belt', 'load: rocket');
    const database = plant.app.get(DataSource);
    await database.query(
      `insert into starting_point_revision (id, revision, content, saved_by, why) values ('belt-presets', 9, $1, 'A. Older', 'of an older version')`,
      [lost],
    );
    const { body: points } = await technician.get<StartingPointView[]>('starting-points');
    expect(points.find((each) => each.id === 'belt-presets')).toMatchObject({ text: lost, revision: 9 });
    expect((await begin({ begins: { kind: 'point', id: 'belt-presets' } })).status).toBe(422);
    await database.query('update settings_draft set point_content = $1 where id = $2', [lost, id]);
    expect((await sheetOf(id)).sheet.refusals[0]).toMatch(/not understood any more/);
    expect((await use(id, 'key-in', BELT)).body.detail).toMatch(/not understood any more/);
  });
});
