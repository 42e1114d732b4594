// Cells as makers and spreadsheet programs write them, each kind in more than one dress: fixtures/list-cells.csv says what is to
// become of each. Nothing of it may depend on the one spelling that stands there.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEEDED } from '../testing/index.ts';
import { readGrid, type Grid } from '../values/index.ts';
import { choicesIn, numberIn, rangeIn, showChoices, understandList, type ListParameter } from './index.ts';

const rows = readFileSync(join(import.meta.dirname, 'fixtures/list-cells.csv'), 'utf8')
  .trim()
  .split('\n')
  .slice(1)
  .map((line) => {
    const [what = '', ...rest] = line.split(';');
    return { what, rest: rest.join(';') };
  })
  .map(({ what, rest }) => {
    const [headings = ''] = rest.split(';');
    const columns = headings.split('|');
    // Cells may hold semicolons and bars; the first and the last word of the line cannot.
    const body = rest.slice(headings.length + 1);
    const at = body.search(/;(?=(?:number|option|bits|stop:)[^;]*(?:;[^|]*)?$)/);
    return { what, columns, cells: body.slice(0, at), expects: body.slice(at + 1) };
  });

function gridOf(columns: readonly string[], cells: readonly string[]): Grid {
  const row = (line: number, texts: readonly string[]) => ({
    line,
    cells: texts,
    numbers: [],
    hidden: false,
  });
  return { rows: [row(1, columns), row(2, cells)], hiddenColumns: [] };
}

/** Bars in cells stay with the cell where there are more than columns. */
function split(cells: string, columns: number): readonly string[] {
  const parts = cells.split('|');
  const surplus = parts.length - columns;
  if (surplus <= 0) return parts.map((part) => part.trim());
  return [
    parts[0] ?? '',
    parts[1] ?? '',
    parts.slice(2, 3 + surplus).join('|'),
    ...parts.slice(3 + surplus),
  ].map((part) => part.trim());
}

function shown({ cells }: ListParameter): string {
  const { kind, minimum = '', maximum = '', unit = '', resolution = '', options = '' } = cells;
  const usual = cells.default === '' ? '-' : (cells.default ?? '-');
  return kind === 'number'
    ? `number ${minimum} ${maximum} ${usual} ${unit === '' ? '-' : unit} /${resolution}`
    : `${kind ?? ''} ${options} #${usual}`;
}

describe('a cell of a maker’s list', () => {
  it.each(rows)('is understood whole or told: $what', ({ columns, cells, expects }) => {
    const { parameters, findings } = understandList(gridOf(columns, split(cells, columns.length)), {});
    const codes = findings.map(({ attention, code }) => `${attention}:${code}`);
    const stops = codes.filter((code) => code.startsWith('stop:'));
    if (expects.startsWith('stop:')) {
      expect(stops).toContain(expects);
      return;
    }
    expect(stops).toEqual([]);
    const [wanted = '', ...more] = expects.split(/ (?=look:|access:)/);
    const [parameter] = parameters;
    if (!parameter) throw new Error('no parameter');
    expect(shown(parameter)).toBe(wanted);
    for (const each of more) {
      if (each.startsWith('access:')) expect(`access:${parameter.cells.access ?? ''}`).toBe(each);
      else expect(codes).toContain(each);
    }
  });
});

describe('numbers, ranges and options', () => {
  it('read back in whatever way they are written', () => {
    const ways = {
      point: ['', ',', ' ', ' ', ' ', "'", '’'],
      comma: ['', '.', ' ', ' ', ' ', "'", '’'],
    } as const;
    fc.assert(
      fc.property(
        fc.integer({ min: -9_999_999, max: 9_999_999 }),
        fc.integer({ min: 0, max: 4 }),
        fc.constantFrom('point' as const, 'comma' as const),
        fc.nat({ max: 6 }),
        (digits, places, mark, way) => {
          const size = String(Math.abs(digits)).padStart(places + 1, '0');
          const whole = size.slice(0, size.length - places);
          const fraction = places === 0 ? '' : size.slice(-places);
          const sign = digits < 0 ? '-' : '';
          const groups = whole.replace(/\B(?=(\d{3})+$)/g, ways[mark][way] ?? '');
          const written = `${sign}${groups}${fraction && (mark === 'comma' ? ',' : '.') + fraction}`;
          const plain = `${sign}${whole}${fraction && `.${fraction}`}`;
          expect(Number(numberIn(written, mark))).toBe(Number(plain));
          expect(rangeIn(`${written} to ${written} Hz`, mark)).toMatchObject({ unit: 'Hz' });
          // A rest of whatever kind makes the whole cell not understood.
          for (const rest of ['*', '/60', ' (60)', ' 1)', ' ×2', ',', '..', '5 6'])
            expect(numberIn(`${written}${rest}`, mark) === undefined || rest === '').toBe(true);
        },
      ),
      { ...SEEDED, numRuns: 500 },
    );
  });

  it('keep every option and every letter of its text, with any separator and any mark', () => {
    const text = fc
      .stringMatching(/^[a-z][a-z ()-]{0,14}[a-z]$/)
      .map((each) => each.replace(/\s+/g, ' ').replace(/ - /g, ' '))
      .filter((each) => !/^(bit|b\d)/.test(each));
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(fc.nat({ max: 300 }), text), {
          minLength: 2,
          maxLength: 8,
          selector: ([number]) => number,
        }),
        fc.constantFrom('; ', '\n', ', ', ' | ', ' / ', '  ', '\t'),
        fc.constantFrom(' = ', ': ', '=', ' – ', ' - '),
        (options, separator, mark) => {
          const read = choicesIn(
            options.map(([number, words]) => `${number}${mark}${words}`).join(separator),
          );
          expect(read).toEqual({
            ok: true,
            choices: options.map(([number, words]) => ({ number, text: words })),
            counted: 'plain',
          });
          if (read.ok) expect(choicesIn(showChoices(read.choices))).toEqual(read);
        },
      ),
      { ...SEEDED, numRuns: 500 },
    );
  });
});

describe('the rows of a maker’s list', () => {
  const understood = (text: string, wish: Parameters<typeof understandList>[1] = {}) => {
    const grid = readGrid(text);
    if (!grid.ok) throw new Error(grid.fault.code);
    const list = understandList(grid.value, wish);
    return {
      ...list,
      codes: list.parameters.map(({ line, cells }) =>
        `${line} ${cells.code ?? ''} ${cells.menu ?? ''}`.trim(),
      ),
      told: list.findings.map(({ line, code }) => `${line ?? 0} ${code}`),
    };
  };

  it('are found under titles, groups and headings that come again, and notes are told', () => {
    const { codes, told } = understood(
      'Parameter list X5;;;;\nValid from 2026;;;;\n\nNo.;Name;Range;Default;Access\n1 Motor;;;;\nP1;Ramp;0.0 to 9.0 s;1.0;rw\nNo.;Name;Range;Default;Access\n2 Limits;;;;\nP2;Limit;0 to 9 A;1;rw\n* depends on the size;;;;\n',
    );
    expect(codes).toEqual(['6 P1 1 Motor', '9 P2 2 Limits']);
    expect(told).toEqual(
      expect.arrayContaining(['5 row-is-group', '7 row-is-heading', '8 row-is-group', '10 row-is-note']),
    );
  });

  it('are parameters where only their code is there: they have to be completed', () => {
    const list = understood('No;Name;Range;Default\nMotor;;;\nP1;Ramp;0 to 9 s;1\nP2;;;\nP3;Gain;0 to 9;1\n');
    expect(list.codes).toEqual(['3 P1 Motor', '4 P2 Motor', '5 P3 Motor']);
  });

  it('are told with the note that a mark points to', () => {
    const { findings } = understood(
      'No;Name;Range;Default\nP1;Limit;0 to 200 %;150*\nP2;Ramp;0 to 9 s;1 2)\n* 130 % with large units;;;\n2) depends on the region;;;\n',
    );
    const notes = findings.flatMap((each) => (each.code === 'cell-not-understood' ? [each.facts.note] : []));
    expect(notes).toEqual(['* 130 % with large units', '2) depends on the region']);
  });

  it('have two rows of headings where one spans the other', () => {
    const { table, parameters } = understood(
      'No.;Name;Setting;;;Access\n;;Min;Max;Default;\nP1;Ramp;0.0;9.0;1.0;rw\n',
    );
    expect(table.columns).toEqual(['No.', 'Name', 'Min', 'Max', 'Default', 'Access']);
    expect(parameters.map(({ cells }) => [cells.minimum, cells.maximum, cells.default])).toEqual([
      ['0.0', '9.0', '1.0'],
    ]);
  });

  it('go on with the line above where only options follow', () => {
    const { parameters, told } = understood(
      'No;Name;Options;Default\nP1;Source;0 = keypad;0\n;;1 = terminals;\n;;2 = network;\nP2;Ramp;;\n',
      {
        assignment: new Map([
          ...[['No', 'code']],
          ...[['Name', 'name']],
          ...[['Options', 'options']],
          ...[['Default', 'default']],
        ] as never),
      },
    );
    expect(parameters[0]?.cells.options).toBe('0 = keypad; 1 = terminals; 2 = network');
    expect(told).toEqual(expect.arrayContaining(['3 row-goes-on', '4 row-goes-on']));
  });

  it('are told where they have no code, cells under no heading, or a heading that is there before', () => {
    const { told, table } = understood('No;Name;Default;Default;\nP1;A;1;2;stray\n;B;1;;\n;;;;\nP2;C;1;1;\n');
    expect(table.columns).toEqual(['No', 'Name', 'Default', 'Default (2)', 'column 5']);
    expect(told).toEqual(
      expect.arrayContaining(['1 heading-twice', '1 columns-not-used', '3 row-without-code']),
    );
  });

  it('are mended, left out and explained on the spot, and are right after that', () => {
    const text = 'No;Name;Range;Default;Access\nP1;Ramp;0 to 60 s;5/10;●\nP2;Odd;0 to 9 s;1;●\nxx;yy;zz;;\n';
    const before = understood(text);
    expect(before.accessAsked).toEqual(
      new Map([
        ['●', 2],
        ['', 1],
      ]),
    );
    const after = understood(text, {
      mended: new Map([[2, new Map([['Default', '5']])]]),
      leftOut: new Set([4]),
      access: new Map([['●', 'write-stopped']]),
    });
    expect(after.findings.filter(({ attention }) => attention === 'stop')).toEqual([]);
    expect(after.parameters.map(({ cells }) => [cells.default, cells.access])).toEqual([
      ['5', 'write-stopped'],
      ['1', 'write-stopped'],
    ]);
  });

  it('ask for the decimal mark where the numbers do not tell it', () => {
    const text = 'No;Name;Min;Max;Default\nP1;Speed;0;1,500;1,200\n';
    expect(understood(text).told).toContain('1 mark-unclear');
    expect(understood(text, { mark: 'comma' }).parameters[0]?.cells.maximum).toBe('1.500');
    expect(understood(text, { mark: 'point' }).parameters[0]?.cells.maximum).toBe('1500');
    const both = 'No;Name;Min;Max;Default\nP1;Speed;0,5;1.5;1\n';
    expect(understood(both).told).toContain('1 mark-unclear');
  });

  it('have no limit that is the code of another parameter', () => {
    const text = 'No;Name;Range;Default\n013;Minimum;0 ... 014;5\n014;Maximum;010 ... 400;050\n';
    expect(understood(text).told.filter((each) => each.includes('not-understood'))).toEqual([
      '2 cell-not-understood',
    ]);
  });

  it('have codes as text: a number among codes with zeros in front has lost its own', () => {
    const row = (line: number, cells: readonly string[], numbers: readonly number[] = []) => ({
      ...{ line, cells, numbers, hidden: false },
    });
    const grid = (codes: readonly (readonly [string, boolean])[]): Grid => ({
      rows: [
        row(1, ['No', 'Name', 'Range', 'Default']),
        ...codes.map(([code, stored], at) => row(at + 2, [code, 'x', '0 to 9 s', '1'], stored ? [0] : [])),
      ],
      hiddenColumns: [],
    });
    const told = (codes: readonly (readonly [string, boolean])[]) =>
      understandList(grid(codes), {}).findings.map(({ code }) => code);
    expect(
      told([
        ['001', false],
        ['2', true],
      ]),
    ).toContain('codes-cut');
    expect(
      told([
        ['1', true],
        ['2', true],
      ]),
    ).not.toContain('codes-cut');
    expect(told([['1.1', true]])).toContain('code-is-number');
    expect(told([['1.10', false]])).not.toContain('code-is-number');
  });
});
