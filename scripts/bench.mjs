// npm run bench: the figures that docs/design.md promises, measured and printed as a table. Nothing here is a test: a
// slow machine gives slow figures and no failure.
//
//   npm run bench            all of them but those that take an hour
//   npm run bench -- NAME    one of them

import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { behaviourBench } from './bench/behaviour.mjs';
import { replacingBench } from './bench/replacing.mjs';
import { checksBench } from './bench/checks.mjs';
import { compareBench } from './bench/compare.mjs';
import { filesBench } from './bench/files.mjs';
import { firstLoadBench } from './bench/first-load.mjs';
import { firstSettingsBench } from './bench/first-settings.mjs';
import { fuzzBench } from './bench/fuzz.mjs';
import { keepingBench } from './bench/keeping.mjs';
import { killsBench } from './bench/kills.mjs';
import { largePlantBench } from './bench/large-plant.mjs';
import { lineBench } from './bench/line.mjs';
import { liveBench } from './bench/live.mjs';
import { lookUpBench } from './bench/look-up.mjs';
import { peersScrollBench } from './bench/peers-scroll.mjs';
import { peopleBench } from './bench/people.mjs';
import { plainValuesBench } from './bench/plain-values.mjs';
import { planningBench } from './bench/planning.mjs';
import { storageBench } from './bench/storage.mjs';
import { ensureBuilt } from './setup/build.mjs';
import { cacheFolder } from './setup/folders.mjs';
import { ensurePackages, requireNode } from './setup/packages.mjs';
import { Cluster, postgresBin } from './setup/postgres.mjs';
import { PlainError, runMain, say } from './setup/say.mjs';

const BENCHES = {
  compare: compareBench,
  'look-up': lookUpBench,
  line: lineBench,
  live: liveBench,
  'large-plant': largePlantBench,
  keeping: keepingBench,
  storage: storageBench,
  'plain-values': plainValuesBench,
  behaviour: behaviourBench,
  checks: checksBench,
  replacing: replacingBench,
  'first-settings': firstSettingsBench,
  planning: planningBench,
  'peers-scroll': peersScrollBench,
  'first-load': firstLoadBench,
  people: peopleBench,
  files: filesBench,
  fuzz: fuzzBench,
  kills: killsBench,
};

/** Takes an hour and more: only when it is asked for by its name. */
const LONG = new Set(['fuzz', 'kills']);

async function withDatabase(work) {
  const folder = join(cacheFolder, 'bench');
  const cluster = new Cluster(folder, await postgresBin(), { fast: true });
  try {
    process.env.TEST_DATABASE_URL = await cluster.start();
    return await work();
  } finally {
    cluster.stop();
    rmSync(cluster.home, { recursive: true, force: true });
  }
}

function print(rows) {
  const cells = rows.map(({ what, measured, wanted }) => [what, measured, wanted]);
  const widths = [0, 1, 2].map((at) => Math.max(...cells.map((row) => row[at].length)));
  for (const row of cells) say(row.map((cell, at) => cell.padEnd(widths[at])).join('   '));
}

await runMain(async () => {
  requireNode();
  const [name] = process.argv.slice(2);
  if (name && !BENCHES[name])
    throw new PlainError(`There is no bench "${name}"; choose one of ${Object.keys(BENCHES).join(', ')}.`);
  await ensurePackages();
  await ensureBuilt();
  const chosen = name
    ? [BENCHES[name]]
    : Object.entries(BENCHES).flatMap(([each, bench]) => (LONG.has(each) ? [] : [bench]));
  const rows = [{ what: 'Figure', measured: 'measured', wanted: 'wanted' }];
  for (const bench of chosen) rows.push(...(await bench({ withDatabase })));
  print(rows);
});
