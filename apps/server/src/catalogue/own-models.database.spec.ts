import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  ComparisonView,
  DictionaryChanges,
  ImportedFile,
  ImportPreview,
  LookUpView,
  ModelListing,
  OwnModelPreview,
  PositionDetailView,
  Problem,
  SameMeaningView,
} from '@drive-keep/api';
import { SetContent } from '../sets/set-content.entity.ts';
import { DataSource } from 'typeorm';
import { writeSheets } from '../file-content/spreadsheet.ts';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';
import { StoredDictionary } from './dictionary.entity.ts';

const FIXTURES = join(import.meta.dirname, '../../../../packages/core/src/formats/fixtures');
const fixture = (name: string): string => readFileSync(join(FIXTURES, name), 'utf8');

let plant: RunningPlant;
let engineer: Caller;
let technician: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  [engineer, technician] = await Promise.all([plant.signIn('engineer'), plant.signIn('technician')]);
});
afterAll(() => plant.stop());

const X5 = { maker: 'Millbrook', name: 'X5', firmwareFrom: '1.00', firmwareTo: '1.99' };

function form(content: string | Uint8Array<ArrayBuffer>, name: string, fields: object = {}): FormData {
  const sent = new FormData();
  for (const [key, value] of Object.entries(fields)) sent.set(key, String(value));
  sent.set('file', new Blob([content]), name);
  return sent;
}

const preview = (content: string | Uint8Array<ArrayBuffer>, name: string, fields: object = X5) =>
  engineer.post<OwnModelPreview & Problem>('models/preview', form(content, name, fields));
const keep = (content: string | Uint8Array<ArrayBuffer>, name: string, fields: object = X5, by = engineer) =>
  by.post<{ id: string } & Problem>('models', form(content, name, fields));
const models = async () => (await engineer.get<readonly ModelListing[]>('dictionaries')).body;

describe('a model of the plant’s own', () => {
  it('is shown as it was understood before anything is kept', async () => {
    const before = await models();
    const { status, body } = await preview(fixture('makers-list.csv'), 'list.csv');
    expect([status, body.acceptable, body.kind, body.rows]).toEqual([200, true, 'table', 7]);
    expect(body.assignment).toMatchObject({ Designation: 'name', 'Setting range': 'range' });
    expect(body.parameters[1]).toMatchObject({
      code: 'P2',
      range: '0.1 to 600.0',
      unit: 's',
      default: '5.0',
    });
    expect(body.findings.map(({ line, attention }) => [line, attention])).toEqual([[8, 'look']]);
    expect(await models()).toEqual(before);
  });

  it('asks for its name, and for a column that nobody could guess', async () => {
    const nameless = await preview(fixture('makers-list.csv'), 'list.csv', {});
    expect(nameless.body.acceptable).toBe(false);
    expect(nameless.body.findings[0]?.text).toBe('Say the maker and the name of the model.');
    const assignment = JSON.stringify({ x: 'code', y: 'name' });
    const odd = 'x,y,z\nA1,Ramp,1\n';
    expect((await preview(odd, 'odd.csv')).body.acceptable).toBe(false);
    const told = await preview(odd, 'odd.csv', { ...X5, assignment });
    expect(told.body.parameters[0]).toMatchObject({ code: 'A1', name: 'Ramp' });
    const twice = await preview(odd, 'odd.csv', {
      ...X5,
      assignment: JSON.stringify({ x: 'code', y: 'code' }),
    });
    expect([twice.status, twice.body.detail]).toEqual([422, expect.stringContaining('two hold "code"')]);
    expect((await preview(odd, 'odd.csv', { ...X5, assignment: '{' })).status).toBe(400);
  });

  it('is kept by an engineer alone, once, under a version of its own', async () => {
    const list = fixture('makers-list.csv');
    const refused = await keep(list, 'list.csv', X5, technician);
    expect([refused.status, refused.body.type]).toEqual([403, 'urn:drive-keep:role']);
    expect((await keep(list, 'list.csv')).body.id).toBe('millbrook-x5@1');
    const again = await keep(list.replace('5,0;r/w;40001', '7,5;r/w;40001'), 'list.csv');
    expect(again.body.id).toBe('millbrook-x5@2');
    const changes = await engineer.get<DictionaryChanges>(
      'dictionaries/millbrook-x5@2/changes?since=millbrook-x5@1',
    );
    expect(changes.body.changed.map(({ code, facts }) => [code, facts])).toEqual([['P1', ['default']]]);
    expect((await models()).find(({ id }) => id === 'millbrook-x5@2')?.importedBy).toBe('R. Ashgrove');
  });

  it('comes from a spreadsheet, from JSON and from an EDS, too', async () => {
    const sheet = await writeSheets([
      {
        name: 'Parameters',
        columns: ['No.', 'Name', 'Range', 'Default'].map((heading) => ({ heading, width: 12 })),
        rows: [
          ['4/12', 'Analog bias', '-100.0 to 100.0 %', '0.0'],
          ['4/13', 'Mode', '0 = off; 1 = on', '1'],
        ],
      },
    ]);
    const xlsx = await preview(new Uint8Array(sheet), 'list.xlsx');
    expect(xlsx.body.parameters.map(({ code, range, options }) => [code, range, options])).toEqual([
      ['4/12', '-100.0 to 100.0', ''],
      ['4/13', '', '0 = off; 1 = on'],
    ]);
    const json = JSON.stringify([{ code: 'A', name: 'Ramp', min: 0, max: 10.5, default: 2 }]);
    expect((await preview(json, 'list.json')).body.parameters[0]?.range).toBe('0 to 10.5');
    const eds = await preview(fixture('makers-drive.eds'), 'x5.eds', {});
    expect(eds.body).toMatchObject({
      kind: 'eds',
      maker: 'Millbrook',
      name: 'X5',
      acceptable: true,
      rows: 13,
    });
  });

  it('is refused as a whole, with every finding at its line, and leaves nothing behind', async () => {
    const rows = await plant.app.get(DataSource).getRepository(StoredDictionary).count();
    const { status, body } = await keep('no,name,range\nA1,One,1 to 5\nA1,Two,much\n', 'bad.csv');
    expect(status).toBe(422);
    expect(body.findings?.join(' ')).toContain('Line 3, range:');
    expect(await plant.app.get(DataSource).getRepository(StoredDictionary).count()).toBe(rows);
  });

  it('has sets, positions and comparisons like a shipped one', async () => {
    const added = await engineer.post<PositionDetailView>('positions', {
      area: 'Yard',
      machine: 'Conveyor',
      tag: 'YD-CV-01',
      duty: 'Yard conveyor',
      criticality: 'low',
      motor: '0.75 kW',
      dictionary: 'millbrook-x5@1',
      rating: 'any',
      region: 'any',
      serial: 4_000_000_001,
      firmware: '1.20',
    });
    expect([added.status, added.body.unit.serial, added.body.unit.line]).toEqual([201, 4_000_000_001, null]);
    const set = 'code;value\nP1;7.5\nP4;90\n';
    const seen = await technician.post<ImportPreview>(
      'positions/YD-CV-01/imports/preview',
      form(set, 'set.csv'),
    );
    expect([seen.body.acceptable, seen.body.parameters, seen.body.expected]).toEqual([true, 2, 6]);
    const imported = await technician.post<ImportedFile>(
      'positions/YD-CV-01/imports',
      form(set, 'set.csv', { hash: seen.body.hash }),
    );
    const { body } = await technician.get<ComparisonView>(
      `positions/YD-CV-01/comparison?a=default&b=part:${imported.body.partId ?? ''}`,
    );
    const changes = body.rows.filter(({ b }) => b !== null).map(({ code, change }) => `${code} ${change}`);
    expect(changes).toEqual(['P1 +2.5 s (×1.5)', 'P4 −60 % (×0.60)']);
  });

  it('does not let a position be added twice, or onto what is not there', async () => {
    const position = {
      area: 'Yard',
      machine: 'Conveyor',
      tag: 'YD-CV-02',
      duty: 'x',
      criticality: 'low',
      motor: '',
      dictionary: 'halvern-hn64@1',
      rating: 'HN64-15',
      region: '50-hz',
      serial: 77,
      firmware: '2.07',
    };
    const refused = async (change: object) =>
      (await engineer.post<Problem>('positions', { ...position, ...change })).body.detail;
    expect(await refused({ tag: 'KL1-RD-07' })).toBe(
      'The tag KL1-RD-07 is taken. Choose another one. Nothing was changed.',
    );
    expect(await refused({ serial: 6_401_359 })).toContain('is at KL1-RD-07. Swap or retire it there first.');
    expect(await refused({ rating: 'HN64-99' })).toContain('no rating HN64-99');
    expect(await refused({ line: 'gateway-1', lineAddress: 1 })).toContain('belongs to KL1-RD-01');
    expect(await refused({ line: 'gateway-9', lineAddress: 1 })).toContain('There is no line gateway-9');
    expect(await refused({ line: 'gateway-1' })).toContain('needs both');
    expect((await technician.post<Problem>('positions', position)).status).toBe(403);
  });
});

describe('looking up', () => {
  const find = async (text: string, more = '') =>
    (await technician.get<readonly LookUpView[]>(`look-up?find=${encodeURIComponent(text)}${more}`)).body;

  it('answers over all models, an exact code first, the newest version of a model alone', async () => {
    expect((await find('4/12'))[0]).toMatchObject({ dictionary: 'halvern-hn20@1', default: '0.0 %' });
    const ramps = await find('ramp up');
    expect(ramps.map(({ dictionary }) => dictionary)).toContain('halvern-hn64@2');
    expect(ramps.map(({ dictionary }) => dictionary)).not.toContain('halvern-hn64@1');
    // Gone with the newer version, but there are units that have it.
    expect((await find('08U'))[0]?.dictionary).toBe('halvern-hn64@1');
  });

  it('shows the present values of a position, by its own version and before the other models', async () => {
    const [first] = await find('ramp up', '&position=KL1-RD-07');
    expect(first).toMatchObject({ dictionary: 'halvern-hn64@1', presentText: '20.00 s' });
  });

  it('says what a parameter is called on the other models, and what counts it otherwise', async () => {
    const { body } = await technician.get<readonly SameMeaningView[]>(
      'look-up/same-meaning?dictionary=toreka-f3@1&code=FP08',
    );
    expect(body.every(({ countsOtherwise }) => countsOtherwise)).toBe(true);
    expect(body.map(({ hit }) => hit.parameter.code).sort()).toEqual(['07L', '6/03', 'LA5']);
  });
});

describe('a set kept under an older version', () => {
  it('stays with it and is read by it, whatever came after', async () => {
    const contents = await plant.app
      .get(DataSource)
      .getRepository(SetContent)
      .countBy({ dictionaryId: 'halvern-hn64@1' });
    expect(contents).toBeGreaterThan(10);
    const { body } = await technician.get<ComparisonView>('positions/KL1-RD-07/comparison');
    expect([body.dictionary, body.rows.length]).toEqual(['halvern-hn64@1', 4]);
  });
});
