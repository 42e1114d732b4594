// A million odd and damaged files through every reader: none may throw, and none may take long. `npm run bench -- fuzz`, or
// FUZZ_CASES=10000 for fewer.

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { readModel } from '@drive-keep/core/dictionary';
import {
  gridOf,
  headingsByColumn,
  makeOwnModel,
  readEds,
  readSet,
  understandList,
} from '@drive-keep/core/formats';
import { readSettingTable } from '@drive-keep/core/tables';
import { readGrid, readTable, tableFromJson } from '@drive-keep/core/values';
import { readWiring } from '@drive-keep/core/wiring';
import { loadModels } from '@drive-keep/plant-sim';
import { modelsFolder, root } from '../setup/folders.mjs';
import { showMs } from './timing.mjs';

const CASES = Number(process.env.FUZZ_CASES ?? 1_000_000);
const SEED = 640_712;
const PIECES = [
  ...[
    '',
    '"',
    ';',
    ',',
    '\n',
    '\r\n',
    '[',
    ']',
    '{',
    '}',
    '=',
    '0x',
    '$NODEID',
    '\u0000',
    '\uFEFF',
    '1e999',
    "'",
    '=1+1',
  ],
  ...[
    '4/12',
    '-',
    '@',
    ': *a',
    '&a',
    '\t',
    '9'.repeat(40),
    'ä',
    '💡',
    '…',
    '±',
    ' ',
    '1/10',
    '0 = a; 1 = b',
    'Bit 0',
  ],
  ...['constructor', '__proto__', 'toString', '|', '50/60', '1 ms to 60 s', 'sep=;\n', '(', ')', '*', '?'],
];

/** Mulberry32: the same cases in every run. */
function numbers(seed) {
  let state = seed;
  return (below) => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return Math.floor((((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296) * below);
  };
}

function damage(text, any) {
  let now = text;
  for (let cut = any(6); cut >= 0; cut -= 1) {
    const at = now.length === 0 ? 0 : any(now.length);
    now = now.slice(0, at) + PIECES[any(PIECES.length)] + now.slice(at + any(60));
  }
  return now;
}

export function fuzzBench() {
  const fixtures = join(root, 'packages/core/src/formats/fixtures');
  const seeds = readdirSync(fixtures).map((name) =>
    readFileSync(join(fixtures, name), 'utf8').slice(0, 3000),
  );
  const dictionary = loadModels(modelsFolder).get('toreka-c1@1');
  const facts = { maker: 'M', name: 'N', about: '', firmwareFrom: '1', firmwareTo: '2', version: 1 };
  const modelFile = readFileSync(join(modelsFolder, 'toreka-c1/model.yaml'), 'utf8').slice(0, 1500);
  const list = (grid) => {
    const { parameters, assignment } = understandList(grid, {});
    makeOwnModel(facts, parameters.slice(0, 40), headingsByColumn(assignment));
  };
  const readers = {
    'sets as CSV': (text) => readSet('csv', text, dictionary, {}),
    'sets as JSON': (text) => readSet('json', text, dictionary, {}),
    'sets as DCF': (text) => readSet('dcf', text, dictionary, {}),
    'models as EDS': (text) => readEds(text),
    'makers’ lists as CSV': (text) => {
      const grid = readGrid(text);
      if (grid.ok) list(grid.value);
    },
    'makers’ lists as JSON': (text) => {
      const table = tableFromJson(text);
      if (table.ok) list(gridOf(table.value));
    },
    'parameter tables': (text) => readModel({ model: modelFile, parameters: text, terminals: null }),
    'wirings and setting tables': (text) => {
      const table = readTable(text);
      if (!table.ok) return;
      readWiring(table.value);
      readSettingTable(table.value, dictionary);
    },
  };
  const any = numbers(SEED);
  const names = Object.keys(readers);
  const slowest = Object.fromEntries(names.map((name) => [name, 0]));
  const began = performance.now();
  for (let at = 0; at < CASES; at += 1) {
    const name = names[at % names.length];
    const text = damage(seeds[any(seeds.length)], any);
    const start = performance.now();
    try {
      readers[name](text);
    } catch (error) {
      throw new Error(`${name}, case ${at}: ${String(error)}\n${JSON.stringify(text)}`, { cause: error });
    }
    slowest[name] = Math.max(slowest[name], performance.now() - start);
  }
  const minutes = ((performance.now() - began) / 60_000).toFixed(1);
  return [
    { what: `${CASES} odd and damaged files, none of which threw`, measured: `${minutes} min`, wanted: '' },
    ...names.map((name) => ({
      what: `the slowest of ${name}`,
      measured: showMs(slowest[name]),
      wanted: 'below 4 s',
    })),
  ];
}
