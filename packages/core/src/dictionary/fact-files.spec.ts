import { describe, expect, it } from '@jest/globals';
import { shippedFiles } from '../testing/shipped-model.ts';
import { tableFromJson } from '../values/index.ts';
import { describe as sentence, type Finding } from '../findings/index.ts';
import { guessPurpose, readModel } from './index.ts';

const TERMINALS = shippedFiles.terminals ?? '';
const lineOf = (text: string, piece: string): number => text.slice(0, text.indexOf(piece)).split('\n').length;

function findings(change: Partial<typeof shippedFiles>): readonly Finding[] {
  const read = readModel({ ...shippedFiles, ...change });
  return read.ok ? [] : read.fault;
}

/** The one finding of a file in which a piece was exchanged, with the line on which the piece stands. */
function found(file: 'model' | 'terminals', piece: string, by: string) {
  const text = file === 'model' ? shippedFiles.model : TERMINALS;
  expect(text).toContain(piece);
  const told = findings({ [file]: text.replace(piece, by) });
  return { told, line: lineOf(text, piece) };
}

describe('findings in the facts of a model', () => {
  it.each([
    ['a version that is no number', 'version: 1', 'version: one', 'version', 'a whole number'],
    ['a region without a name', 'name: 50 Hz, metric', 'title: 50 Hz', 'regions[0].name', 'a text'],
    [
      'an unknown word order',
      'word_order: high-first',
      'word_order: mixed',
      'line.word_order',
      'high-first, low-first',
    ],
    ['a convention nobody knows', 'speeds_in: hertz', 'speeds_in: knots', 'conventions.speeds_in', 'hertz'],
    ['a flag that is a text', 'bridge_gaps: true', 'bridge_gaps: maybe', 'line.bridge_gaps', 'true or false'],
    ['a purpose without a procedure', 'purpose: reset', 'purpose: dance', 'procedures[1].purpose', 'unlock'],
  ])('name %s with line and path', (_, piece, by, path, wanted) => {
    const { told, line } = found('model', piece, by);
    const finding = told.find((each) => each.code === 'fact-missing' && each.facts.path === path);
    expect(finding).toMatchObject({ file: 'model.yaml' });
    // A key that is gone is told at the group that lacks it.
    expect(Math.abs((finding?.line ?? 0) - line)).toBeLessThanOrEqual(1);
    expect(finding && sentence(finding)).toContain(wanted);
  });

  it('name a code that the table does not have, wherever it is used', () => {
    const { told, line } = found('model', 'when: 03U', 'when: 99Z');
    expect(told).toEqual([expect.objectContaining({ code: 'code-unknown', facts: { text: '99Z' }, line })]);
  });

  it.each(['constructor', '__proto__', 'toString'])('know no fact %s, which every object has', (name) => {
    const parameters = shippedFiles.parameters.replace(/@[a-z_]+/, `@${name}`);
    expect(findings({ parameters }).length).toBeGreaterThan(0);
  });

  it('say where a cell lost its quotation marks; what was kept so stays readable', () => {
    const [head = '', first = '', ...rest] = shippedFiles.parameters.split('\n');
    const parameters = [head, `${first},and more`, ...rest].join('\n');
    expect(findings({ parameters })[0]).toMatchObject({ code: 'table-surplus', line: 2 });
    expect(readModel({ ...shippedFiles, parameters }, 'told').ok).toBe(true);
  });

  it('say where YAML breaks, and that a key stands twice', () => {
    const [broken] = findings({ model: 'model: x\nversion: [1, 2\nmaker: y\n' });
    expect(broken).toMatchObject({ code: 'yaml-broken', file: 'model.yaml' });
    expect(broken?.line).toBeGreaterThan(1);
    const twice = findings({ model: shippedFiles.model.replace('version: 1\n', 'version: 1\nversion: 2\n') });
    expect(twice[0]).toMatchObject({ code: 'yaml-broken', file: 'model.yaml' });
  });

  it('do not follow aliases, which would let a small file grow without end', () => {
    const bomb = `a: &a [x, x]\nb: &b [*a, *a]\nratings: *b\n${shippedFiles.model.replace('ratings:', 'others:')}`;
    expect(
      findings({ model: bomb }).some((each) => each.code === 'fact-missing' && each.facts.path === 'ratings'),
    ).toBe(true);
  });

  it('are all collected', () => {
    const model = shippedFiles.model
      .replace('maker: Halvern', 'maker: ""')
      .replace('largest_read: 125', 'largest_read: many')
      .replace('fault: 3', 'fault: -1');
    const paths = findings({ model }).map((each) =>
      each.code === 'fact-missing' ? each.facts.path : each.code,
    );
    expect(paths).toEqual(expect.arrayContaining(['maker', 'line.largest_read', 'line.status.fault']));
  });
});

describe('findings in the terminals of a model', () => {
  it.each([
    ['a kind that is none', 'kind: digital-input', 'kind: magic', 'one of digital-input'],
    ['a link to a terminal that is not there', "['30', '31']", "['30', '99']", 'two terminals of this chart'],
    ['a factory place that the switch does not have', "factory: 'V'", "factory: 'X'", 'one of V, mA'],
    ['an arrangement of another logic', 'logic: sourcing', 'logic: sideways', 'one of sourcing, sinking'],
  ])('name %s', (_, piece, by, wanted) => {
    const { told } = found('terminals', TERMINALS.includes(piece) ? piece : piece.replaceAll("'", ''), by);
    expect(told).toHaveLength(1);
    expect(told[0]).toMatchObject({ file: 'terminals.yaml' });
    expect(told.map(sentence).join()).toContain(wanted);
  });

  it('name a code that is not in the table', () => {
    const told = findings({ terminals: TERMINALS.replace(/set_by: '?01T'?/, 'set_by: 77X') });
    expect(told).toEqual([
      expect.objectContaining({ code: 'code-unknown', facts: { text: '77X' }, file: 'terminals.yaml' }),
    ]);
  });
});

describe('what a parameter is probably for', () => {
  it.each([
    ['Acceleration time 1', 'ramps'],
    ['Motor rated current', 'motor'],
    ['Digital input 3 function', 'io'],
    ['PID proportional gain', 'loop'],
    ['Baud rate', 'communication'],
    ['Overload trip level', 'protection'],
    ['Preset speed 4', 'commands'],
    ['Kringle factor', 'other'],
  ])('"%s" is sorted under %s', (words, purpose) => {
    expect(guessPurpose(words)).toBe(purpose);
  });
});

describe('a list in JSON', () => {
  it('is a table whether it stands alone or inside a document', () => {
    const rows = [
      { Code: 'A', N: 1.5 },
      { Code: 'B', On: true, Odd: null },
    ];
    for (const text of [JSON.stringify(rows), JSON.stringify({ about: 'x', rows })]) {
      const table = tableFromJson(text);
      if (!table.ok) throw new Error(table.fault.code);
      expect(table.value.columns).toEqual(['code', 'n', 'on', 'odd']);
      expect(
        table.value.rows.map(({ line, cells }) => [line, cells['code'], cells['n'] ?? cells['on']]),
      ).toEqual([
        [1, 'A', '1.5'],
        [2, 'B', 'true'],
      ]);
      expect(table.value.rows[1]?.cells['odd']).toBe('');
    }
  });

  it.each([
    ['', 'table-broken'],
    ['[', 'table-broken'],
    ['[]', 'table-empty'],
    ['{"a": 1}', 'table-empty'],
    ['[1, "two", null]', 'json-odd'],
    ['null', 'table-empty'],
  ])('%s is refused', (text, code) => {
    const table = tableFromJson(text);
    expect(table.ok ? undefined : table.fault.code).toBe(code);
  });
});
