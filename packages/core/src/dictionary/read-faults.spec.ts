import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { describe as sentence, type Finding } from '../findings/index.ts';
import { SEEDED } from '../testing/arbitraries.ts';
import { shippedFiles } from '../testing/shipped-model.ts';
import { readTable, writeTable } from '../values/index.ts';
import { FAULT_COLUMNS, readModel, type Fault } from './index.ts';

const FAULTS = shippedFiles.faults ?? '';

function read(faults: string | null): { faults: readonly Fault[]; findings: readonly Finding[] } {
  const model = readModel({ ...shippedFiles, faults });
  return model.ok ? { faults: model.value.faults, findings: [] } : { faults: [], findings: model.fault };
}

/** The table with one cell exchanged; lines are counted as in the file. */
function withCell(line: number, column: string, text: string): string {
  const table = readTable(FAULTS);
  if (!table.ok) throw new Error(table.fault.code);
  const { columns, rows } = table.value;
  return writeTable(
    columns,
    rows.map((row) =>
      columns.map((each) => (row.line === line && each === column ? text : (row.cells[each] ?? ''))),
    ),
  );
}

describe('the faults of a model', () => {
  it('are read by number, with their lists apart', () => {
    const { faults } = read(FAULTS);
    const overvoltage = faults.find(({ kind }) => kind === 'overvoltage');
    expect(overvoltage).toMatchObject({ number: 2, shown: '2', restarts: true });
    expect(overvoltage?.parameters).toEqual(['02R', '23R', '20P', '22P', '25P']);
    expect(overvoltage?.causes[0]).toBe('ramp down too short for the inertia');
    expect(faults.map(({ number }) => number)).toEqual(
      faults.map(({ number }) => number).sort((a, b) => a - b),
    );
  });

  it('are none where the model does not tell them', () => {
    expect(read(null)).toEqual({ faults: [], findings: [] });
  });

  it('are the same in whatever order rows and columns stand', () => {
    const table = readTable(FAULTS);
    if (!table.ok) throw new Error(table.fault.code);
    const { rows } = table.value;
    const orders = fc.tuple(
      fc.shuffledSubarray([...FAULT_COLUMNS], { minLength: FAULT_COLUMNS.length }),
      fc.shuffledSubarray([...rows], { minLength: rows.length }),
    );
    const wanted = read(FAULTS).faults;
    fc.assert(
      fc.property(orders, ([columns, shuffled]) => {
        const cells = shuffled.map((row) => columns.map((column) => row.cells[column] ?? ''));
        expect(read(writeTable(columns, cells)).faults).toEqual(wanted);
      }),
      { ...SEEDED, numRuns: 15 },
    );
  });

  it.each([
    ['a number that is none', 'number', '1.5', 'from 1 to 65535'],
    ['the number of no fault', 'number', '0', 'from 1 to 65535'],
    ['a number that no register holds', 'number', '65536', 'from 1 to 65535'],
    ['a kind that nobody knows', 'kind', 'mood', 'overcurrent'],
    ['no meaning', 'meaning', '', 'must not be'],
    ['no cause', 'causes', '', 'must not be'],
    ['a parameter that there is not', 'parameters', '01R; 99Z', '99Z'],
    ['half a yes', 'restarts', 'perhaps', 'yes, no'],
  ])('are refused with %s, at its line and column', (_, column, text, says) => {
    const { findings } = read(withCell(3, column, text));
    expect(findings).toEqual([expect.objectContaining({ file: 'faults.csv', line: 3, column })]);
    expect(findings.map(sentence).join()).toContain(says);
  });

  it('are refused where a number stands twice, or a column is missing', () => {
    expect(read(withCell(3, 'number', '1')).findings).toEqual([
      expect.objectContaining({ code: 'fault-twice', line: 3, facts: { number: '2', first: 2 } }),
    ]);
    const [head = '', ...rest] = FAULTS.split('\n');
    const { findings } = read([head.replace('restarts', 'again'), ...rest].join('\n'));
    expect(findings).toEqual([expect.objectContaining({ code: 'column-missing', column: 'restarts' })]);
    expect(read('').findings).toEqual([]);
  });
});
