import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { HistoryView, IntegrityReport, Problem, WiringView } from '@drive-keep/api';
import ExcelJS from 'exceljs';
import { DataSource } from 'typeorm';
import { demoPositions } from '../demo/demo-positions.ts';
import { writeSheets } from '../file-content/spreadsheet.ts';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

let plant: RunningPlant;
let technician: Caller;
let engineer: Caller;
let viewer: Caller;
beforeAll(async () => {
  plant = await RunningPlant.start();
  [technician, engineer, viewer] = await Promise.all([
    plant.signIn('technician'),
    plant.signIn('engineer'),
    plant.signIn('viewer'),
  ]);
});
afterAll(() => plant.stop());

const TAG = 'BP-AG-02';
const HEAD = 'row,name,colour,from,to,facts,what';
const view = async (tag = TAG, revision = '') =>
  (await viewer.get<WiringView & Problem>(`positions/${tag}/wiring${revision}`)).body;
const keep = (
  rows: readonly (readonly string[])[],
  seen: number,
  by = technician,
  why = 'A wire was moved',
) => by.ask<WiringView & Problem>('PUT', `positions/${TAG}/wiring`, { rows, seen, why });
const read = (content: string | Uint8Array<ArrayBuffer>, name: string) => {
  const form = new FormData();
  form.set('file', new Blob([content]), name);
  return technician.post<WiringView & Problem>(`positions/${TAG}/wiring/read`, form);
};
const lamp = ['load', 'H9', '', '', '', '24 V; 40 mA', 'lamp'];

describe('the wiring of the demo plant', () => {
  it('is there for every position, and none is against its chart', async () => {
    const tags = demoPositions().map(({ tag }) => tag);
    for (const tag of tags) {
      const { revision, findings } = await view(tag);
      // One of them changed its model, and its wires were moved.
      expect([tag, revision, findings]).toEqual([tag, tag === 'GL-BE-03' ? 2 : 1, []]);
    }
  });

  it('holds the link that stays in the plug', async () => {
    const { rows } = await view('BP-AG-03');
    expect(rows).toContainEqual(['link', '', '', '12', '7', 'plug', '']);
    expect((await view('BP-AG-01')).rows.flat()).toContain('B1');
  });
});

describe('a revision of a wiring', () => {
  it('is kept with who and why beside the ones before, which stay as they were', async () => {
    const before = await view();
    const { status, body } = await keep([...before.rows, lamp], 1);
    expect([status, body.revision, body.revisions[0]?.why]).toEqual([200, 2, 'A wire was moved']);
    expect((await view(TAG, '?revision=1')).rows).toEqual(before.rows);
    expect((await view()).rows).toContainEqual(lamp);
    const { body: history } = await viewer.get<HistoryView>(`positions/${TAG}/history`);
    expect(history.wirings.map(({ revision: number, why }) => [number, why])).toEqual([
      [1, 'As commissioned'],
      [2, 'A wire was moved'],
    ]);
    const file = await viewer.raw(`positions/${TAG}/wiring/file`);
    expect((await file.text()).split('\r\n')[0]).toBe(HEAD);
  });

  it('is refused to whoever looked at an older one, and to a viewer', async () => {
    const { rows } = await view();
    expect((await keep(rows, 1)).body.type).toBe('urn:drive-keep:changed-meanwhile');
    expect((await keep(rows, 2, viewer)).status).toBe(403);
    expect((await keep(rows, 2)).body.type).toBe('urn:drive-keep:nothing-changed');
    expect((await keep([...rows, lamp], 2, engineer, ' ')).status).toBe(400);
  });

  it('may be as long as a table can be, and no longer', async () => {
    const { revision } = await view();
    const long = (count: number) =>
      Array.from({ length: count }, (_, at) => [
        'load',
        `H${at}`,
        '',
        '',
        '',
        '24 V; 40 mA',
        'x'.repeat(390),
      ]);
    expect((await keep(long(501), revision)).body.detail).toContain('no more than 500');
    expect((await keep(long(500), revision)).status).toBe(200);
    const { rows } = await view(TAG, `?revision=${revision}`);
    expect((await keep(rows, revision + 1)).status).toBe(200);
  });

  it('is kept once where two people keep at once', async () => {
    const { rows, revision } = await view();
    const two = await Promise.all(
      ['H10', 'H11'].map((name) => keep([...rows, ['load', name, '', '', '', '24 V; 40 mA', '']], revision)),
    );
    expect(two.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await view()).revision).toBe(revision + 1);
  });

  it.each([
    ['a terminal that is not there', ['wire', '1', '', '99', '8', '', ''], 'no terminal 99'],
    ['facts that nobody understands', ['load', 'H7', '', '', '', 'bright', ''], 'a number in V'],
    ['a kind that is none', ['bulb', 'H7', '', '', '', '', ''], 'bulb'],
  ])('is refused whole for %s', async (_, row, text) => {
    const { rows, revision } = await view();
    const { status, body } = await keep([...rows, row], revision);
    expect([status, body.detail]).toEqual([422, expect.stringContaining(text)]);
    expect((await view()).revision).toBe(revision);
  });

  it('cannot be changed in the database, and is not shown where it was damaged', async () => {
    const source = plant.app.get(DataSource);
    const damage = `update wiring_revision set content = 'x' where revision = 1`;
    await expect(source.query(damage)).rejects.toThrow();
    await source.query('alter table wiring_revision disable trigger kept');
    await source.query(`${damage} and position_id = (select id from position where tag = 'BP-AG-01')`);
    await source.query(
      `update wiring_revision set saved_by = 'Nobody' where position_id = (select id from position where tag = 'BP-AG-03')`,
    );
    await source.query('alter table wiring_revision enable trigger kept');
    expect(await view('BP-AG-03')).toMatchObject({ type: 'urn:drive-keep:wiring-damaged' });
    expect(await view('BP-AG-01')).toMatchObject({ type: 'urn:drive-keep:wiring-damaged' });
    const paper = await viewer.raw('positions/BP-AG-01/settings-record?format=csv');
    expect([paper.status, await paper.text()]).toEqual([200, expect.not.stringContaining('S1:13')]);
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(await (await viewer.raw('plant-list?format=xlsx')).arrayBuffer());
    const wired: string[] = [];
    workbook.getWorksheet('Wiring')?.eachRow((row) => wired.push(String((row.values as string[]).join('|'))));
    expect(wired).toContain('|BP-AG-01|The wiring that was kept is damaged.');
    expect(wired.filter((row) => row.startsWith('|BP-AG-01|'))).toHaveLength(1);
    expect(wired).toContainEqual(expect.stringMatching(/^\|KL1-RD-01\|contact\|S1\|/));
    const { body } = await engineer.post<IntegrityReport>('integrity');
    expect(body.findings.map(({ text }) => text)).toContainEqual(
      expect.stringContaining('Revision 1 of the wiring of BP-AG-01 is damaged'),
    );
  });
});

describe('a wiring from a file', () => {
  it('comes back from CSV and from a spreadsheet as it left', async () => {
    const { rows } = await view();
    const csv = [HEAD, ...rows.map((row) => row.map((cell) => `"${cell}"`).join(','))].join('\n');
    expect((await read(csv, 'w.csv')).body.rows).toEqual(rows);
    const columns = HEAD.split(',').map((heading) => ({ heading, width: 12 }));
    const sheet = await writeSheets([{ name: 'W', columns, rows }]);
    expect((await read(new Uint8Array(sheet), 'w.xlsx')).body.rows).toEqual(rows);
  });

  it('is refused with every row that is wrong, by its line', async () => {
    const { body } = await read(`${HEAD}\nwire,1,,8,,,\nbulb,H1,,,,,\nwire,2,,8,9,red,`, 'w.csv');
    expect(body.rows).toEqual([]);
    expect(body.findings.map(({ line, column }) => [line, column])).toEqual([
      [2, 'to'],
      [3, 'row'],
      [4, 'facts'],
    ]);
    expect((await read('a,b\n1,2', 'w.csv')).body.findings.length).toBeGreaterThan(3);
  });
});
