import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  FaultHitView,
  ModelDraftView,
  Problem,
  ReadAllView,
  RegisterSearchView,
  RegistersView,
} from '@drive-keep/api';
import { factsIn, withFact, withSection } from '@drive-keep/core/dictionary';
import { DataSource } from 'typeorm';
import { strToU8, zipSync } from 'fflate';
import { RunningPlant, type Answer, type Caller } from '../testing/running-plant.ts';
import { Dictionaries } from './dictionaries.service.ts';
import { ModelImport } from './model-import.ts';
import { textsIn } from './model-zip.ts';

let plant: RunningPlant;
let engineer: Caller;
let technician: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  engineer = await plant.signIn('engineer');
  technician = await plant.signIn('technician');
});
afterAll(() => plant.stop());

type Draft = ModelDraftView & Problem;

const copy = (from: string, as?: object): Promise<Answer<Draft>> =>
  engineer.post(`model-drafts/from/${from}`, as ? { as } : {});
const keep = ({ id, version }: ModelDraftView): Promise<Answer<Draft>> =>
  engineer.post(`model-drafts/${id}/keep`, { version });
const put = ({ id, version }: ModelDraftView, files: object): Promise<Answer<Draft>> =>
  engineer.ask('PUT', `model-drafts/${id}`, { files, version });

function form(
  bytes: Uint8Array,
  name = 'model.zip',
  fields: Readonly<Record<string, string>> = {},
): FormData {
  const sent = new FormData();
  sent.set('file', new Blob([new Uint8Array(bytes)]), name);
  for (const [key, value] of Object.entries(fields)) sent.set(key, value);
  return sent;
}

async function zipFrom(path: string): Promise<Uint8Array> {
  return new Uint8Array(await (await engineer.raw(path)).arrayBuffer());
}

describe('the files of a model as a ZIP', () => {
  it('go out as they were kept and come in again as the same', async () => {
    const before = textsIn(await zipFrom('dictionaries/toreka-c1@1/files'));
    const names = ['faults.csv', 'model.yaml', 'parameters.csv', 'terminals.yaml'];
    expect(Object.keys(before).sort()).toEqual(names.map((name) => `toreka-c1/${name}`));
    const { body } = await engineer.post<Draft>(
      'model-drafts',
      form(await zipFrom('dictionaries/toreka-c1@1/files')),
    );
    const { faults, model, parameters, terminals } = body.files;
    expect([faults, model, parameters, terminals]).toEqual(names.map((name) => before[`toreka-c1/${name}`]));
    expect([body.findings, body.title]).toEqual([[], 'Toreka C1']);
  });

  const FILES = { 'model.yaml': 'model: a', 'parameters.csv': 'code' };
  it.each<[string, Readonly<Record<string, string>>, RegExp]>([
    ['a path that climbs out', { ...FILES, '../../etc/passwd': 'x' }, /strange path "..\/..\/etc\/passwd"/],
    ['an absolute path', { ...FILES, '/model.yaml': 'x' }, /strange path/],
    ['a path of another system', { ...FILES, 'a\\model.yaml': 'x' }, /strange path/],
    ['a program', { ...FILES, 'setup.exe': 'x' }, /"setup.exe", which is no file of a model/],
    ['a file twice', { ...FILES, 'a/model.yaml': 'x' }, /model.yaml twice/],
    ['no parameters', { 'model.yaml': 'model: a' }, /does not hold parameters.csv/],
    ['something huge', { ...FILES, 'terminals.yaml': ' '.repeat(4_100_000) }, /larger than 4 MB/],
  ])('with %s are refused, and nothing is kept', async (_, files, wanted) => {
    const before = (await engineer.get<readonly unknown[]>('model-drafts')).body.length;
    const bytes = zipSync(
      Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])),
    );
    const { status, body } = await engineer.post<Problem>('model-drafts', form(bytes));
    expect([status, body.detail]).toEqual([422, expect.stringMatching(wanted)]);
    expect((await engineer.get<readonly unknown[]>('model-drafts')).body).toHaveLength(before);
  });

  it('that are cut off are damaged', async () => {
    const whole = await zipFrom('dictionaries/toreka-c1@1/files');
    const { status, body } = await engineer.post<Problem>('model-drafts', form(whole.subarray(0, 900)));
    expect([status, body.detail]).toEqual([422, expect.stringContaining('damaged')]);
  });
});

describe('a model of one’s own', () => {
  it('begins from a shipped one under a name of its own, and never takes its place', async () => {
    const same = await copy('halvern-hn64@1');
    expect([same.status, same.body.detail]).toEqual([409, expect.stringContaining('stays as it is')]);
    const { body: draft } = await copy('halvern-hn64@1', { maker: 'Ostrand', name: 'OD 9' });
    expect([draft.dictionary, draft.findings]).toEqual(['ostrand-od-9@1', []]);
    expect(draft.files.terminals).not.toBeNull();
    const kept = await keep(draft);
    expect([kept.status, kept.body.keptAs]).toEqual([200, 'ostrand-od-9@1']);
    const disguised = await put(kept.body, {
      ...draft.files,
      model: withFact(draft.files.model, ['model'], 'halvern-hn64'),
    });
    expect((await keep(disguised.body)).status).toBe(409);
  });

  it('is kept as one version after the other, and the same twice is one', async () => {
    const { body: draft } = await copy('toreka-c1@1', { maker: 'Ostrand', name: 'Small' });
    const first = await keep(draft);
    const again = await keep(first.body);
    expect(again.body.keptAs).toBe('ostrand-small@1');
    const changed = await put(again.body, {
      ...again.body.files,
      model: withFact(again.body.files.model, ['about'], 'A smaller one.'),
    });
    expect((await keep(changed.body)).body.keptAs).toBe('ostrand-small@2');
    const next = await copy('ostrand-small@2');
    expect([next.status, factsIn(next.body.files.model)]).toEqual([
      201,
      expect.objectContaining({ version: 2 }),
    ]);
  });

  it('is kept with its own faults, which are looked up by number and damaged by nobody', async () => {
    const { body: draft } = await copy('toreka-c1@1', { maker: 'Ostrand', name: 'Faulty' });
    const lines = (draft.files.faults ?? '').split('\n');
    const wrong = await put(draft, {
      ...draft.files,
      faults: `${lines[0]}\n77,F-77,Odd,strange,x,y,z,,no\n`,
    });
    expect(wrong.body.findings.map(({ file, line, column }) => [file, line, column])).toEqual([
      ['faults.csv', 2, 'kind'],
    ]);
    const own = `${lines[0]}\n77,F-77,Belt slip,other,The belt slips.,old belt,tighten it,,no\n`;
    const kept = await keep((await put(wrong.body, { ...draft.files, faults: own })).body);
    expect(kept.body.keptAs).toBe('ostrand-faulty@1');
    const hits = await technician.get<readonly FaultHitView[]>('look-up/faults?find=F-77');
    expect(hits.body[0]).toMatchObject({ model: 'Ostrand Faulty', fault: { name: 'Belt slip' } });
    const database = plant.app.get(DataSource);
    for (const file of [null, `${own}78,F-78,x,other,x,x,x,,no\n`])
      await expect(
        database.query(`update dictionary set faults_file = $1 where id = 'ostrand-faulty@1'`, [file]),
      ).rejects.toThrow('keeps what it holds');
    await database.query('alter table dictionary disable trigger mended');
    await database.query(`update dictionary set faults_file = null where id = 'ostrand-faulty@1'`);
    await database.query('alter table dictionary enable trigger mended');
    expect(await plant.app.get(Dictionaries).damaged()).toEqual(['ostrand-faulty@1']);
    await plant.app.get(ModelImport).take(kept.body.files);
    expect(await plant.app.get(Dictionaries).damaged()).toEqual([]);
  });

  it('says at every change what is wrong and where, and what will not work', async () => {
    const { body: draft } = await copy('toreka-c1@1', { maker: 'Ostrand', name: 'Half' });
    const { body: bare } = await put(draft, {
      ...draft.files,
      model: withSection(draft.files.model, 'line', ''),
    });
    expect(bare.gaps.map(({ column }) => column)).toContain('line');
    const { body: broken } = await put(bare, {
      ...bare.files,
      model: withSection(bare.files.model, 'keypad', 'keypad: { move: far }\n'),
    });
    expect(broken.findings[0]).toMatchObject({ file: 'model.yaml', attention: 'stop' });
    expect(broken.findings[0]?.line).toBeGreaterThan(1);
    expect((await keep(broken)).status).toBe(422);
    const stale = await put(bare, bare.files);
    expect([stale.status, stale.body.detail]).toEqual([
      409,
      expect.stringContaining('changed by somebody else'),
    ]);
  });

  it('begins from a list, whose options keep their meanings', async () => {
    const list =
      'Parameter;Name;Options;Default;Register\n1-01;Commands from;0 = keypad [source.keypad], 1 = terminals [source.terminals];1;40101\n';
    const sent = form(strToU8(list), 'list.csv', { maker: 'Ostrand', name: 'Listed' });
    const { status, body } = await engineer.post<Draft>('model-drafts', sent);
    expect([status, body.dictionary]).toEqual([201, 'ostrand-listed@1']);
    expect(body.files.parameters).toContain('0 = keypad [source.keypad]; 1 = terminals [source.terminals]');
    expect((await engineer.ask('DELETE', `model-drafts/${body.id}`)).status).toBe(204);
    expect((await engineer.get(`model-drafts/${body.id}`)).status).toBe(404);
  });
});

describe('with a unit at hand', () => {
  const at = { line: 'gateway-1', address: 1 };

  it('shows registers as they are, and those that are refused as such', async () => {
    const asked = { ...at, area: 'holding', from: 1020, count: 8 };
    const { body } = await technician.post<RegistersView>('registers/read', asked);
    expect(body.words).toHaveLength(8);
    expect(body.words[0]).toMatchObject({ register: '1020' });
  });

  it('finds how a maker counts by what the keypad shows', async () => {
    const unit = plant.unit('KL1-RD-01');
    const shown = ['ramp.up', 'ramp.down', 'frequency.maximum'].flatMap((meaning) => {
      const parameter = plant.dictionary.parameters.find((each) => each.meaning === meaning);
      if (!parameter?.register || parameter.form.kind !== 'number') return [];
      const text = (unit.memory.get(parameter.code) / 10 ** parameter.form.resolution.places).toFixed(
        parameter.form.resolution.places,
      );
      // As if the manual counted from 40001.
      return [{ number: parameter.register.address + 40_001, text }];
    });
    expect(shown.length).toBeGreaterThan(1);
    const { status, body } = await technician.post<RegisterSearchView>('registers/search', { ...at, shown });
    expect(status).toBe(200);
    expect(body.guesses[0]?.way).toMatchObject({ counting: { code: 'from-40001', input: false }, width: 16 });
    expect(body.guesses[0]?.explains).toHaveLength(shown.length);
  });

  it('reads every parameter of a draft: what answers, what is refused, what lies outside', async () => {
    const { body: draft } = await copy('halvern-hn64@1', { maker: 'Ostrand', name: 'Tested' });
    const asked = { ...at, rating: 'HN64-15', region: '50-hz' };
    const right = await technician.post<ReadAllView>(`model-drafts/${draft.id}/read-all`, asked);
    expect(right.body).toMatchObject({ refused: 0, outside: 0, withoutRegister: 0 });
    expect(right.body.answered).toBe(plant.dictionary.parameters.length);
    expect(right.body.identity.every((each) => each.right)).toBe(true);
    // Another word order, and a register that is not there: what is wrong is seen before anything is kept.
    const turned = withFact(draft.files.model, ['line', 'identity', 'model', 'value'], 641) ?? '';
    const changed = await put(draft, { ...draft.files, model: turned });
    const wrong = await technician.post<ReadAllView>(`model-drafts/${changed.body.id}/read-all`, asked);
    expect(wrong.body.identity.find(({ fact }) => fact === 'Model number')).toMatchObject({ right: false });
    plant.unit('KL1-RD-01').setMischief({ refuse: [1024] });
    const gaps = await technician.post<ReadAllView>(`model-drafts/${draft.id}/read-all`, asked);
    plant.unit('KL1-RD-01').setMischief({ refuse: [] });
    expect(gaps.body.refused).toBeGreaterThan(0);
    expect(gaps.body.rows.find(({ raw }) => raw === null)).toMatchObject({ value: '' });
  });

  it('says that nobody answers', async () => {
    const asked = { line: 'gateway-1', address: 200, area: 'holding', from: 0, count: 4 };
    const { status, body } = await technician.post<Problem>('registers/read', asked);
    expect([status, body.detail]).toEqual([422, expect.stringContaining('The unit did not answer')]);
    expect((await technician.post<Problem>('registers/read', { ...asked, line: 'no' })).status).toBe(404);
  });
});
