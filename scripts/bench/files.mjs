// What it costs to understand a large maker's list: a spreadsheet and a CSV of 5,000 rows, from the bytes to the findings.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { headingsByColumn, makeOwnModel, understandList } from '@drive-keep/core/formats';
import { readGrid } from '@drive-keep/core/values';
import { readSheets, writeSheets } from '../../apps/server/dist/file-content/spreadsheet.js';
import { root } from '../setup/folders.mjs';
import { showMs } from './timing.mjs';

const ROWS = 5000;
const FACTS = { maker: 'M', name: 'N', about: '', firmwareFrom: '1', firmwareTo: '2', version: 1 };

/** The list of the browser tests, over and over under new codes. */
function largeList() {
  const text = readFileSync(join(root, 'e2e/fixtures/makers-list.csv'), 'latin1');
  const grid = readGrid(text);
  if (!grid.ok) throw new Error('the list cannot be read');
  const parameters = grid.value.rows.filter(({ cells }) => /^\d{3}$/.test(cells[0] ?? ''));
  const rows = Array.from({ length: ROWS }, (_, at) => {
    const [, ...cells] = parameters[at % parameters.length].cells;
    return [`P${String(at).padStart(5, '0')}`, ...cells];
  });
  return { head: grid.value.rows.find(({ cells }) => cells[0] === 'No.').cells, rows };
}

function understood(grid) {
  const { parameters, assignment } = understandList(grid, { mark: 'comma' });
  makeOwnModel(
    FACTS,
    parameters.filter(({ stopped }) => !stopped),
    headingsByColumn(assignment),
  );
}

export async function filesBench() {
  const { head, rows } = largeList();
  const columns = head.map((heading) => ({ heading, width: 12 }));
  const bytes = await writeSheets([{ name: 'List', columns, rows }]);
  const csv = [head, ...rows]
    .map((row) => row.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(';'))
    .join('\n');
  const timed = async (work) => {
    const began = performance.now();
    await work();
    return performance.now() - began;
  };
  const sheet = await timed(async () => {
    const sheets = await readSheets(bytes);
    if (!sheets.ok) throw new Error(sheets.fault.fault);
    understood(sheets.value[0]);
  });
  const text = await timed(() => understood(readGrid(csv).value));
  return [
    { what: `a spreadsheet of ${ROWS} rows understood`, measured: showMs(sheet), wanted: 'below 2 s' },
    { what: `a CSV of ${ROWS} rows understood`, measured: showMs(text), wanted: 'below 2 s' },
  ];
}
