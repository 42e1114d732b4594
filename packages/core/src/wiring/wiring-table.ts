// A wiring as a table, one row a device, a wire, a link or a switch, for CSV and spreadsheets. `read(format(x)) = x`; what is
// not understood whole is a finding with its row, and nothing of the file is taken.

import { finding, type Finding } from '../findings/index.ts';
import { fail, ok, readTable, writeTable, type Result, type Table } from '../values/index.ts';
import { DEVICE_KINDS, formatFacts, parseFacts, type DeviceKind, type FieldDevice } from './device.ts';
import { parseEnd, showEnd, type FittedLink, type Wire, type Wiring } from './wiring.ts';

export const WIRING_COLUMNS = ['row', 'name', 'colour', 'from', 'to', 'facts', 'what'] as const;
export type WiringColumn = (typeof WIRING_COLUMNS)[number];
type Column = WiringColumn;
type Cells = Readonly<Record<Column, string>>;

const EMPTY: Cells = { row: '', name: '', colour: '', from: '', to: '', facts: '', what: '' };

/** Rows of the table: devices first, as a reader needs them to understand the wires. */
export function wiringRows(wiring: Wiring): readonly (readonly string[])[] {
  const rows: Cells[] = [
    ...wiring.devices.map((device) => ({
      ...EMPTY,
      row: device.kind,
      name: device.name,
      facts: formatFacts(device),
      what: device.what,
    })),
    ...wiring.wires.map(({ number, colour, from, to }) => ({
      ...EMPTY,
      ...{ row: 'wire', name: number, colour, from: showEnd(from), to: showEnd(to) },
    })),
    ...wiring.links.map(({ between: [from, to], place }) => ({
      ...EMPTY,
      row: 'link',
      from,
      to,
      facts: place,
    })),
    ...Object.entries(wiring.switches).map(([name, place]) => ({
      ...EMPTY,
      row: 'switch',
      name,
      facts: place,
    })),
    ...(wiring.arrangement === '' ? [] : [{ ...EMPTY, row: 'arrangement', name: wiring.arrangement }]),
  ];
  return rows.map((row) => WIRING_COLUMNS.map((column) => row[column]));
}

export const formatWiring = (wiring: Wiring): string => writeTable(WIRING_COLUMNS, wiringRows(wiring));

interface Parts {
  readonly devices: FieldDevice[];
  readonly wires: Wire[];
  readonly links: FittedLink[];
  readonly switches: Map<string, string>;
  arrangement: string;
}

/** The wiring of a table; every row that is not understood is told by its line. */
export function readWiring(table: Table): Result<Wiring, readonly Finding[]> {
  const findings: Finding[] = [];
  for (const column of WIRING_COLUMNS.filter((each) => !table.columns.includes(each)))
    findings.push(finding('stop', { line: 1, column }, 'column-missing', { column }));
  for (const column of table.columns.filter((each) => !(WIRING_COLUMNS as readonly string[]).includes(each)))
    findings.push(finding('stop', { line: 1, column }, 'wiring-strange-column', { column }));
  if (findings.length > 0) return fail(findings);
  const parts: Parts = { devices: [], wires: [], links: [], switches: new Map(), arrangement: '' };
  for (const { line, cells } of table.rows) {
    const row = { ...EMPTY, ...cells } as Cells;
    const trouble = takeRow(parts, row, line);
    if (trouble) findings.push(trouble);
  }
  if (findings.length > 0) return fail(findings);
  return ok({ ...parts, switches: Object.fromEntries(parts.switches) });
}

function takeRow(parts: Parts, row: Cells, line: number): Finding | undefined {
  const bad = (column: Column, wanted: string) =>
    finding('stop', { line, column }, 'cell-unreadable', { column, text: row[column], wanted });
  const strange = leftOver(row);
  if (strange)
    return finding('stop', { line, column: strange }, 'wiring-strange-cell', {
      column: strange,
      text: row[strange],
      row: row.row,
    });
  switch (row.row) {
    case 'wire': {
      const [from, to] = [parseEnd(row.from), parseEnd(row.to)];
      if (!from || !to) return bad(from ? 'to' : 'from', 'a terminal, or a device and its connection: S2:13');
      parts.wires.push({ number: row.name, colour: row.colour, from, to });
      return undefined;
    }
    case 'link':
      if (row.facts !== 'drive' && row.facts !== 'plug') return bad('facts', 'drive or plug');
      if (row.from === '' || row.to === '') return bad(row.from === '' ? 'from' : 'to', 'a terminal');
      parts.links.push({ between: [row.from, row.to], place: row.facts });
      return undefined;
    case 'switch':
      if (parts.switches.has(row.name)) return bad('name', 'each switch once');
      parts.switches.set(row.name, row.facts);
      return undefined;
    case 'arrangement':
      if (parts.arrangement !== '') return bad('name', 'one arrangement');
      parts.arrangement = row.name;
      return undefined;
    default:
      return takeDevice(parts, row, line, bad);
  }
}

function takeDevice(
  parts: Parts,
  row: Cells,
  line: number,
  bad: (column: Column, wanted: string) => Finding,
): Finding | undefined {
  if (!Object.hasOwn(DEVICE_KINDS, row.row))
    return bad(
      'row',
      `wire, link, switch, arrangement, or a device: ${Object.keys(DEVICE_KINDS).join(', ')}`,
    );
  const kind = row.row as DeviceKind;
  const facts = parseFacts(kind, row.facts);
  if (!facts.ok) return bad('facts', 'missing' in facts.fault ? facts.fault.missing : DEVICE_KINDS[kind]);
  if (row.name === '') return finding('stop', { line, column: 'name' }, 'cell-empty', { column: 'name' });
  parts.devices.push({ ...facts.value, name: row.name, what: row.what });
  return undefined;
}

const USED: ReadonlyMap<string, readonly Column[]> = new Map([
  ['wire', ['row', 'name', 'colour', 'from', 'to']],
  ['link', ['row', 'from', 'to', 'facts']],
  ['switch', ['row', 'name', 'facts']],
  ['arrangement', ['row', 'name']],
]);

/** A cell that stands where its row has no use for it. */
const leftOver = (row: Cells): Column | undefined =>
  WIRING_COLUMNS.find(
    (column) =>
      row[column] !== '' && !(USED.get(row.row) ?? ['row', 'name', 'facts', 'what']).includes(column),
  );

/** Of a text that `formatWiring` made; nothing where it is not such a text. */
export function wiringFromText(text: string): Wiring | undefined {
  const table = readTable(text);
  const read = table.ok ? readWiring(table.value) : undefined;
  return read?.ok ? read.value : undefined;
}
