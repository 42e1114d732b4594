import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { findParameter, type Dictionary } from '../dictionary/index.ts';
import { describe as sentence } from '../findings/index.ts';
import { formatRaw, readGrid, tableFromJson, type Grid } from '../values/index.ts';
import {
  gridOf,
  headingsByColumn,
  makeOwnModel,
  modelSlug,
  parseInteger,
  readEds,
  readObjects,
  understandList,
  type OwnModelFacts,
} from './index.ts';

const fixture = (name: string): string => readFileSync(join(import.meta.dirname, 'fixtures', name), 'utf8');

const FACTS: OwnModelFacts = {
  maker: 'Millbrook',
  name: 'X5',
  about: 'Conveyor drive',
  firmwareFrom: '1.00',
  firmwareTo: '1.99',
  version: 1,
};

function gridIn(text: string): Grid {
  const grid = readGrid(text);
  if (!grid.ok) throw new Error(grid.fault.code);
  return grid.value;
}

function modelFrom(grid: Grid): Dictionary {
  const { parameters, assignment } = understandList(grid, {});
  const { dictionary, findings } = makeOwnModel(FACTS, parameters, headingsByColumn(assignment));
  if (!dictionary) throw new Error(JSON.stringify(findings));
  return dictionary;
}

const shown = (dictionary: Dictionary, code: string) => {
  const parameter = findParameter(dictionary, code);
  if (!parameter) throw new Error(code);
  const show = (bound: { raw: number } | { fact: string } | null) =>
    bound && 'raw' in bound ? formatRaw(parameter.form, bound.raw) : '';
  return [show(parameter.minimum), show(parameter.maximum), show(parameter.default)];
};

describe('a maker’s list', () => {
  const grid = gridIn(fixture('makers-list.csv'));

  it('has its columns guessed by their headings, and its decimal mark by its numbers', () => {
    const { assignment, mark } = understandList(grid, {});
    expect(Object.fromEntries(assignment)).toEqual({
      'Parameter no.': 'code',
      Designation: 'name',
      Description: 'description',
      'Setting range': 'range',
      Default: 'default',
      Access: 'access',
      'Modbus register': 'register',
    });
    expect(mark).toBe('comma');
  });

  it('becomes a dictionary with ranges, units, options and access', () => {
    const dictionary = modelFrom(grid);
    expect(dictionary.id).toBe('millbrook-x5@1');
    expect(dictionary.parameters.map(({ code }) => code)).toEqual(['P1', 'P2', 'P3', 'P4', 'P5', 'P6', 'P7']);
    expect(shown(dictionary, 'P1')).toEqual(['0.1', '600.0', '5.0']);
    expect(shown(dictionary, 'P2')).toEqual(['0.1', '600.0', '5.0']);
    expect(shown(dictionary, 'P4')).toEqual(['20', '200', '150']);
    expect(shown(dictionary, 'P7')).toEqual(['-10.0', '10.0', '0.0']);
    const form = (code: string) => findParameter(dictionary, code)?.form;
    expect(form('P2')).toMatchObject({ unit: 's', resolution: { step: 1, places: 1 } });
    expect(form('P6')).toMatchObject({ unit: 'rpm' });
    expect(form('P3')).toMatchObject({
      kind: 'option',
      options: [{ text: 'keypad' }, { text: 'terminals' }, { text: 'network' }],
    });
    const access = (code: string) => findParameter(dictionary, code)?.access;
    expect([access('P1'), access('P3'), access('P5')]).toEqual(['write', 'write-stopped', 'read']);
    expect(findParameter(dictionary, 'P6')?.register?.address).toBe(100);
  });

  it('takes a line of one text for the menu of the lines below, and says so', () => {
    const { findings, parameters } = understandList(grid, {});
    expect(findings.map(({ line, code }) => [line, code])).toEqual([[8, 'row-is-group']]);
    expect(parameters.map(({ cells }) => cells.menu)).toEqual(
      [...'.....'].map(() => '').concat(Array(2).fill('Section 2: presets')),
    );
  });

  it('tells what is wrong at the line and heading of the file', () => {
    const bad = gridIn('No,Name,Range,Default\nA1,Ramp,1 to 5 s,9\nA2,,1 to 2,1\nA1,Twice,1 to 3,2\n');
    const { parameters, assignment } = understandList(bad, {});
    const { findings, dictionary } = makeOwnModel(FACTS, parameters, headingsByColumn(assignment));
    expect(dictionary).toBeNull();
    const places = findings.map(({ line, column }) => `${line} ${column}`);
    expect(places).toEqual(expect.arrayContaining(['3 Name']));
    // With those mended the default and the second A1 are told.
    const mended = parameters.filter(({ line }) => line === 2 || line === 4);
    const again = makeOwnModel(FACTS, mended, headingsByColumn(assignment)).findings;
    expect(again.map((found) => `${found.line} ${found.column}: ${sentence(found)}`)).toEqual([
      '4 No: The code A1 is already on line 2. Keep one of them.',
    ]);
  });

  it('asks for code and name where no column is known to hold them', () => {
    const { findings, parameters } = understandList(gridIn('x,y\n1,2\n'), {});
    expect(parameters).toEqual([]);
    expect(findings[0]?.attention).toBe('stop');
  });

  it('may leave ranges and defaults untold: they are unknown, and nothing is taken for them', () => {
    const dictionary = modelFrom(
      gridIn('No,Name,Range,Default,Register\nA1,Ramp,?,-,100\nA2,Gain,0 to 9,?,\n'),
    );
    expect(dictionary.parameters.map(({ untold }) => untold)).toEqual([
      ['minimum', 'maximum', 'default'],
      ['default'],
    ]);
    expect(shown(dictionary, 'A1')).toEqual(['0', '65535', '']);
  });

  it('may come as JSON', () => {
    const json = tableFromJson(
      JSON.stringify({ parameters: [{ Code: 'A1', Name: 'Ramp', Range: '0.0 to 9.0 s', Default: 1.5 }] }),
    );
    if (!json.ok) throw new Error(json.fault.code);
    expect(shown(modelFrom(gridOf(json.value)), 'A1')).toEqual(['0.0', '9.0', '1.5']);
  });
});

describe('an EDS', () => {
  const eds = readEds(fixture('makers-drive.eds'));
  const cells = (code: string) => eds.parameters.find((each) => each.cells.code === code)?.cells;

  it('gives maker, product and every object that holds a whole number', () => {
    expect([eds.vendor, eds.product]).toEqual(['Millbrook', 'X5']);
    expect(eds.parameters.map((each) => each.cells.code)).toEqual([
      '1000:00',
      '1001:00',
      '1018:01',
      '1400:01',
      '2000:00',
      '2001:01',
      '2001:02',
      '2002:01',
      '2002:02',
      '2002:03',
      '2002:04',
      '2003:00',
      '60FF:00',
    ]);
  });

  it('reads hexadecimal, octal and signed values, and limits by type where none are stated', () => {
    expect(cells('2000:00')).toMatchObject({ minimum: '1', maximum: '30000', default: '8' });
    expect(cells('2001:01')).toMatchObject({ minimum: '-3000', maximum: '3000', default: '-1' });
    expect(cells('2001:02')).toMatchObject({ minimum: '-32768' });
    expect(cells('2003:00')).toMatchObject({ kind: 'option', options: '0 = false; 1 = true', default: '1' });
  });

  it('unfolds compact subobjects with their names', () => {
    expect(['2002:01', '2002:02', '2002:03'].map((code) => cells(code)?.name)).toEqual([
      'Creep speed',
      'Preset speed2',
      'Cleaning speed',
    ]);
  });

  it('says what depends on the node, what is left out and what is listed without a section', () => {
    const texts = eds.findings.map(sentence).join('\n');
    expect(texts).toContain('1400:01: "$NODEID+0x200" depends on the node; 513 holds for node 1.');
    expect(texts).toContain('1 object is left out (1008:00): they hold text');
    expect(texts).toContain('1 object is left out (6040:00): they can only be written.');
    expect(texts).toContain('The object 0x2ABC is listed but has no section.');
    expect(eds.findings.every(({ attention }) => attention === 'look')).toBe(true);
  });

  it('becomes a dictionary that never makes up a default', () => {
    const { dictionary, findings } = makeOwnModel(FACTS, eds.parameters, new Map());
    expect(findings).toEqual([]);
    expect(dictionary?.parameters).toHaveLength(13);
    expect(dictionary && findParameter(dictionary, '1001:00')?.default).toBeNull();
  });
});

describe('numbers by CiA 306', () => {
  it.each<[string, number | string]>([
    ['12', 12],
    ['0x1F', 31],
    ['010', 8],
    ['0', 0],
    ['-5', -5],
    ['$NODEID', 7],
    ['$NODEID+0x600', 1543],
    ['0x600+$NodeID', 1543],
    ['08', 'not-an-integer'],
    ['1.5', 'not-an-integer'],
    ['', 'empty'],
    ['0xFFFFFFFFFFFFFFFF', 'too-large'],
  ])('read %s as %s', (text, wanted) => {
    const read = parseInteger(text, 7);
    expect(read.ok ? read.value : read.fault).toBe(wanted);
  });

  it('need a node where they name it', () => {
    expect(parseInteger('$NODEID+1')).toEqual({ ok: false, fault: 'node-id-wanted' });
  });

  it('are refused where a few lines claim thousands of objects', () => {
    const bomb =
      '[DeviceInfo]\n[ManufacturerObjects]\n1=0x2000\n[2000]\nParameterName=x\nDataType=6\nCompactSubObj=99999999\n';
    const { objects, findings } = readObjects(bomb);
    expect(objects).toEqual([]);
    expect(findings.map(({ code }) => code)).toContain('too-many-objects');
  });
});

describe('the name of a model in addresses', () => {
  it.each([
    ['Mill & Sons', 'X-5', 'mill-sons-x-5'],
    ['Größer', 'Ä1', 'gro-er-a1'],
    ['***', '', ''],
  ])('for %s %s is "%s"', (maker, name, slug) => {
    expect(modelSlug(maker, name)).toBe(slug);
  });
});
