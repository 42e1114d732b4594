// A maker's parameter list as a table with headings of its own: which column holds what is guessed, corrected by a
// person, and then taken apart cell by cell ("0.0 to 400.0 Hz", "0 = off; 1 = on") into the catalogue's columns.

import { guessPurpose, PARAMETER_COLUMNS } from '../dictionary/index.ts';
import { finding, type Finding } from '../findings/index.ts';
import { formatResolution, normalUnit, parseResolution, type Table, type TableRow } from '../values/index.ts';
import type { OwnParameter, ParameterCells } from './own-model.ts';

/** What a column of the user's table may hold. `range` is minimum, maximum and often the unit in one cell. */
export const COLUMN_USES = [
  'code',
  'name',
  'description',
  'other_names',
  'menu',
  'unit',
  'resolution',
  'range',
  'minimum',
  'maximum',
  'default',
  'options',
  'bits',
  'access',
  'meaning',
  'register',
] as const;
export type ColumnUse = (typeof COLUMN_USES)[number];

/** Use by heading; a heading that is not there is left out. */
export type ColumnAssignment = Readonly<Record<string, ColumnUse>>;

export type DecimalMark = 'point' | 'comma';

const HEADINGS: readonly (readonly [ColumnUse, RegExp])[] = [
  [
    'code',
    /^(code|par(a(m(eter)?)?)?\.?\s*(no|nr|number|code|id)?\.?|no\.?|nr\.?|number|id|index|address code)$/i,
  ],
  ['name', /^(name|parameter name|title|designation|label|function)$/i],
  ['description', /(description|explanation|comment|remark|note|help|meaning of)/i],
  ['other_names', /(alias|other name|also called|synonym)/i],
  ['menu', /(menu|group|section|chapter|category)/i],
  ['unit', /^(units?|eng\.? ?units?)$/i],
  ['resolution', /(resolution|step|increment|scale|scaling)/i],
  ['range', /(range|min\.?\s*(\.{2,3}|\/|to|-|–)\s*max|limits?|values?$|setting range)/i],
  ['minimum', /^(min|minimum|least|low(er)?)/i],
  ['maximum', /^(max|maximum|greatest|high|upper)/i],
  ['default', /(default|factory|initial|preset value)/i],
  ['options', /(options?|choices?|selection|enum)/i],
  ['bits', /(bits?)$/i],
  ['access', /(access|r\/w|read|write|change while)/i],
  ['meaning', /^meaning$/i],
  ['register', /(register|modbus|address)/i],
];

/** The likely use of each column: by its heading first, each use once. */
export function guessColumns({ columns }: Table): ColumnAssignment {
  const assignment: Record<string, ColumnUse> = {};
  const taken = new Set<ColumnUse>();
  for (const column of columns) {
    const use = HEADINGS.find(([each, pattern]) => !taken.has(each) && pattern.test(column.trim()))?.[0];
    if (column === '' || !use) continue;
    assignment[column] = use;
    taken.add(use);
  }
  return assignment;
}

/** Tables with the catalogue's own columns need no assistant. */
export const isCatalogueTable = ({ columns }: Table): boolean =>
  PARAMETER_COLUMNS.every((column) => columns.includes(column));

/** Commas in numbers decide, where there are any and no points. */
export function guessDecimalMark({ rows }: Table): DecimalMark {
  const cells = rows.flatMap(({ cells: each }) => Object.values(each));
  const commas = cells.filter((cell) => /\d,\d/.test(cell)).length;
  const points = cells.filter((cell) => /\d\.\d/.test(cell)).length;
  return commas > points ? 'comma' : 'point';
}

export interface TakenApart {
  readonly parameters: readonly OwnParameter[];
  readonly findings: readonly Finding[];
}

/** The catalogue's columns from the user's, row by row. Rows without a code are told and left out. */
export function takeApart(table: Table, assignment: ColumnAssignment, mark: DecimalMark): TakenApart {
  const findings: Finding[] = [];
  const headingOf = (use: ColumnUse) =>
    Object.keys(assignment).find((each) => assignment[each] === use) ?? '';
  if (headingOf('code') === '' || headingOf('name') === '') {
    return { parameters: [], findings: [finding('stop', { line: 1 }, 'columns-not-said', {})] };
  }
  const parameters: OwnParameter[] = [];
  for (const row of table.rows) {
    const cells = new RowCells(row, assignment, mark);
    if (cells.of('code') === '') {
      const place = { line: row.line, column: headingOf('code') };
      findings.push(finding('look', place, 'row-without-code', {}));
      continue;
    }
    parameters.push({ line: row.line, cells: cells.taken() });
  }
  return { parameters, findings };
}

/** Headings of the user's table by column of the catalogue's format. */
export function headingsByColumn(assignment: ColumnAssignment): Readonly<Record<string, string>> {
  const headings: Record<string, string> = {};
  for (const [heading, use] of Object.entries(assignment)) headings[use] = heading;
  const range = headings['range'];
  if (range) {
    headings['minimum'] ??= range;
    headings['maximum'] ??= range;
  }
  if (headings['bits']) headings['options'] ??= headings['bits'];
  return headings;
}

class RowCells {
  private readonly row: TableRow;
  private readonly assignment: ColumnAssignment;
  private readonly mark: DecimalMark;

  constructor(row: TableRow, assignment: ColumnAssignment, mark: DecimalMark) {
    this.row = row;
    this.assignment = assignment;
    this.mark = mark;
  }

  of(use: ColumnUse): string {
    const heading = Object.keys(this.assignment).find((each) => this.assignment[each] === use);
    return heading === undefined ? '' : (this.row.cells[heading] ?? '').trim();
  }

  taken(): ParameterCells {
    const name = this.of('name');
    const menu = this.of('menu').replace(/\s*(>|»|\\)\s*/g, ' / ');
    const access = accessOf(this.of('access'));
    const common = {
      code: this.of('code'),
      name,
      menu,
      description: this.of('description'),
      other_names: this.of('other_names'),
      purpose: access === 'read' ? 'monitor' : guessPurpose(`${name} ${menu}`),
      access,
      keeping: access === 'read' ? 'monitor' : 'setting',
      meaning: this.of('meaning'),
      register: registerOf(this.of('register'), false),
    };
    const bits = choicesOf(this.of('bits'));
    if (bits !== '') return { ...common, kind: 'bits', options: bits, default: bitsOf(this.of('default')) };
    // Some makers write the options into the column of the range.
    const options = choicesOf(this.of('options')) || optionsInRange(this.of('range'));
    if (options !== '') return { ...common, kind: 'option', options, default: optionOf(this.of('default')) };
    return { ...common, kind: 'number', ...this.number(access) };
  }

  private number(access: string): ParameterCells {
    const range = rangeOf(this.of('range'), this.mark);
    const minimum = range?.minimum ?? this.value('minimum').number;
    const maximum = range?.maximum ?? this.value('maximum').number;
    const usual = this.value('default');
    const given = this.value('resolution').number;
    const resolution = parseResolution(given) ? given : finest([minimum, maximum, usual.number]);
    const unit = this.of('unit') || range?.unit || this.value('maximum').unit || usual.unit;
    return {
      register: registerOf(this.of('register'), minimum.startsWith('-')),
      unit: normalUnit(unit),
      resolution,
      minimum,
      maximum,
      default: access === 'read' ? '' : usual.number,
    };
  }

  private value(use: ColumnUse): { number: string; unit: string } {
    return splitUnit(this.of(use), this.mark);
  }
}

const NUMBER = String.raw`[+\-−]?\d+(?:[.,]\d+)?`;
const VALUE = new RegExp(`^(${NUMBER})\\s*(.*)$`);
const RANGE = new RegExp(
  `^(${NUMBER})\\s*([^\\d\\s.,…~–-]*)\\s*(?:\\.{2,3}|…|~|–|-|to|bis|through)\\s*(${NUMBER})\\s*(.*)$`,
  'i',
);

/** With a decimal comma a point separates thousands, and the other way round; those are taken out. */
function plainNumber(text: string, mark: DecimalMark): string {
  const signed = text.replace('−', '-').replace(/^\+/, '');
  return mark === 'comma' ? signed.replace(',', '.') : signed;
}

function splitUnit(text: string, mark: DecimalMark): { number: string; unit: string } {
  const match = VALUE.exec(text);
  if (!match) return { number: text, unit: '' };
  return { number: plainNumber(match[1] ?? '', mark), unit: (match[2] ?? '').trim() };
}

function rangeOf(
  text: string,
  mark: DecimalMark,
): { readonly minimum: string; readonly maximum: string; readonly unit: string } | undefined {
  const match = RANGE.exec(text);
  if (!match) return undefined;
  const [, minimum = '', leftUnit = '', maximum = '', rightUnit = ''] = match;
  return {
    minimum: plainNumber(minimum, mark),
    maximum: plainNumber(maximum, mark),
    unit: (rightUnit || leftUnit).trim(),
  };
}

/** The smallest step that all of them stand on: as many places as the longest has. */
function finest(numbers: readonly string[]): string {
  const places = Math.max(0, ...numbers.map((number) => (/\.(\d+)$/.exec(number)?.[1] ?? '').length));
  return formatResolution({ step: 1, places });
}

/** `0 = off; 1: on`, one a line or between semicolons, to `0 = off; 1 = on`. */
function choicesOf(text: string): string {
  if (text === '') return '';
  const pieces = text
    .split(/[;\n|]|,(?=\s*(?:bit\s*)?\d+\s*[=:–-])/i)
    .map((piece) => /^\s*(?:bit\s*)?(\d+)\s*(?:=|:|–|-)\s*(.*\S)\s*$/i.exec(piece))
    .filter((match) => match !== null);
  return pieces.map(([, number, words = '']) => `${Number(number)} = ${plainWords(words)}`).join('; ');
}

/** A meaning in brackets at the end (`terminals [source.terminals]`) stays; other brackets are words of the maker. */
function plainWords(words: string): string {
  const meaning = /\[[a-z][\w-]*(?:\.[\w-]+)+\]$/i.exec(words)?.[0] ?? '';
  const rest = words.slice(0, words.length - meaning.length).replace(/[[\];]/g, ' ');
  return `${rest.trim()} ${meaning}`.trim();
}

function optionsInRange(text: string): string {
  const choices = choicesOf(text);
  return choices.split(';').length > 1 && /[a-z]{2}/i.test(choices) ? choices : '';
}

/** `1 = on` and `1: on` are the option 1. */
const optionOf = (text: string): string => /^(\d+)\s*[=:–-]/.exec(text)?.[1] ?? text;

function bitsOf(text: string): string {
  if (text === '' || text.startsWith('0b')) return text;
  const match = /^(?:0x([0-9a-f]{1,8})|(\d{1,10}))$/i.exec(text);
  if (!match) return text;
  const word = match[1] ? Number.parseInt(match[1], 16) : Number(match[2]);
  return `0b${word.toString(2)}`;
}

function accessOf(text: string): string {
  if (/^(r|ro|read( ?only)?|monitor|display|–|-)$/i.test(text)) return 'read';
  if (/(stop|while running|not running|no change while|stand)/i.test(text)) return 'write-stopped';
  return 'write';
}

/** `1024`, `40001` and `0x0400` as 16 bits, with a sign where the range goes below zero; `1024 s32` stays as it is. */
function registerOf(text: string, signed: boolean): string {
  const type = signed ? 's16' : 'u16';
  if (/^0x[0-9a-f]{1,4}$/i.test(text)) return `${Number.parseInt(text, 16)} ${type}`;
  const pair = /^(\d{1,6})\s*(?:-|–|\/|to)\s*(\d{1,6})$/.exec(text);
  if (pair && Number(pair[2]) === Number(pair[1]) + 1) return `${pair[1]} ${signed ? 's32' : 'u32'}`;
  return /^\d{1,6}$/.test(text) ? `${text} ${type}` : text;
}
