// Ten years of nightly backups of forty drives, beside the same files in a git repository, packed.

import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defaultSet, hashOf } from '@drive-keep/core/sets';
import { writeSetCsv } from '@drive-keep/core/formats';
import { loadModels } from '@drive-keep/plant-sim';
import { DataSource } from 'typeorm';
import { modelsFolder } from '../setup/folders.mjs';
import { rawAt } from './made-up.mjs';
import { withClient } from './postgres-client.mjs';

export const storageBench = ({ withDatabase }) => withDatabase(storageRows);

const YEARS = 10;
const UNITS = 40;
/** Changes per unit and year, as in the demo plant: a handful in two years. */
const CHANGES = 3;

/** The same ten years twice: as rows of the database, and as one file for each unit, committed every night. */
async function storageRows() {
  const { RunningPlant } = await import('../../apps/server/dist/testing/running-plant.js');
  const { ContentStore } = await import('../../apps/server/dist/sets/content-store.service.js');
  const { FoundAgain } = await import('../../apps/server/dist/sets/found-again.service.js');
  const running = await RunningPlant.start();
  const folder = mkdtempSync(join(tmpdir(), 'bench-git-'));
  try {
    const dictionary = loadModels(modelsFolder).get('halvern-hn64@1');
    const tables = await withClient(running, async (client) => {
      const { rows: units } = await client.query('select id, position_id from unit limit 40');
      const before = await tableBytes(client);
      const keep = { client, store: running.app.get(ContentStore), found: running.app.get(FoundAgain) };
      await tenYears(dictionary, units, keep, running.app.get(DataSource).manager, folder);
      const after = await tableBytes(client);
      return TABLES.map((name) => [name, after.get(name) - before.get(name)]);
    });
    execFileSync('git', ['gc', '--aggressive', '--quiet', '--prune=now'], {
      cwd: folder,
      env: { ...process.env, ...PLAIN_GIT },
    });
    const git = folderBytes(join(folder, '.git'));
    const ours = tables.reduce((sum, [, bytes]) => sum + bytes, 0);
    return [
      {
        what: `Ten years of nightly backups of ${UNITS} drives, tables and indexes, against git packed`,
        measured: `${megabytes(ours)} against ${megabytes(git)} (×${(ours / git).toFixed(2)})`,
        wanted: 'at most ×1.5',
      },
      {
        what: 'Of which',
        measured: tables.map(([name, bytes]) => `${name} ${megabytes(bytes)}`).join(', '),
        wanted: 'for comparison',
      },
    ];
  } finally {
    await running.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

async function tenYears(dictionary, units, { client, store, found }, manager, folder) {
  const git = (...args) => execFileSync('git', args, { cwd: folder, env: { ...process.env, ...PLAIN_GIT } });
  git('init', '-q');
  const outfit = { rating: 'HN64-15', region: '50-hz' };
  const sets = units.map(() => defaultSet(dictionary, outfit));
  const numbers = dictionary.parameters.filter((each) => sets[0].readings.has(each.code));
  const nights = YEARS * 365;
  let seed = 7;
  const random = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
  const seqs = [];
  for (let night = 0; night < nights; night += 1) {
    const changed = [];
    for (const [at, set] of sets.entries()) {
      const due = night === 0 || random() < CHANGES / 365;
      if (!due) continue;
      if (night > 0) {
        const parameter = numbers[Math.floor(random() * numbers.length)];
        const readings = new Map(set.readings).set(
          parameter.code,
          rawAt(parameter, Math.floor(random() * 900)),
        );
        sets[at] = { ...set, readings };
      }
      const same = night > 0 && hashOf(sets[at]) === hashOf(set);
      if (same) continue;
      changed.push(at);
      await store.keep(sets[at]);
      writeFileSync(join(folder, `unit-${at}.csv`), writeSetCsv(dictionary, sets[at]));
    }
    const day = night - nights;
    const again = units.map((_, at) => at).filter((at) => !changed.includes(at));
    if (again.length > 0)
      await foundAgain(
        found,
        manager,
        again.map((at) => seqs[at]),
        day,
      );
    for (const at of changed) seqs[at] = await keepBackup(client, units[at], hashOf(sets[at]), day);
    if (changed.length > 0) git('add', ...changed.map((at) => `unit-${at}.csv`));
    // A night without a change is a record, too: it says that nothing had changed.
    git('commit', '-q', '--allow-empty', '-m', `Night ${night}`);
  }
}

/** Nobody's own settings of git count: it is the plain one that is measured. */
const PLAIN_GIT = {
  GIT_CONFIG_GLOBAL: '/dev/null',
  GIT_CONFIG_SYSTEM: '/dev/null',
  GIT_AUTHOR_NAME: 'Round',
  GIT_AUTHOR_EMAIL: 'round@localhost',
  GIT_COMMITTER_NAME: 'Round',
  GIT_COMMITTER_EMAIL: 'round@localhost',
};

/** As a round does at its end. */
function foundAgain(found, manager, seqs, day) {
  const at = new Date(Date.now() + day * 86_400_000);
  return found.record({ at, takenBy: 'Nightly round', reason: 'Nightly round', seqs }, manager);
}

async function keepBackup(client, { id, position_id: position }, hash, day) {
  const { rows } = await client.query(
    `insert into backup (position_id, unit_id, content_hash, taken_at, taken_by, how, reason, serial, firmware, unreadable, aside)
     values ($1, $2, $3, now() + $4 * interval '1 day', 'Nightly round', 'read', 'Nightly round', 1, '2.07', 0, '{"90H": 123456}')
     returning seq::integer`,
    [position, id, hash, day],
  );
  return rows[0].seq;
}

const TABLES = ['backup', 'set_content', 'found_again', 'found_list', 'last_look'];

/** Bytes of each table with its indexes. */
async function tableBytes(client) {
  const { rows } = await client.query(
    `select c::text as name, pg_total_relation_size(c)::integer as bytes from unnest($1::text[]::regclass[]) c`,
    [TABLES],
  );
  return new Map(rows.map(({ name, bytes }) => [name, bytes]));
}

function folderBytes(folder) {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .reduce((sum, entry) => sum + statSync(join(entry.parentPath, entry.name)).size, 0);
}

const megabytes = (bytes) => `${(bytes / 1e6).toFixed(2)} MB`;
