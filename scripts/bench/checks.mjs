// The checks: one position by itself, as a worker of the browser would, and five thousand on the server, each with its wiring, its
// motor, its site, its baseline and peers; every set is another one.

import { performance } from 'node:perf_hooks';
import { modelsFolder } from '../setup/folders.mjs';
import { median, showMs } from './timing.mjs';

const WANTED = 5000;
const ROUNDS = 12;

export async function checksBench({ withDatabase }) {
  const alone = await onePosition();
  const many = await withDatabase(manyPositions);
  return [alone, many];
}

async function onePosition() {
  const dist = '../../apps/server/dist/demo';
  const { loadModels } = await import('@drive-keep/plant-sim');
  const { groundOf, runChecks } = await import('@drive-keep/core/checks');
  const { demoPositions } = await import(`${dist}/demo-positions.js`);
  const { demoWiring } = await import(`${dist}/demo-wirings.js`);
  const { bridgeBeside } = await import(`${dist}/describe-plant.js`);
  const { setAt } = await import(`${dist}/position-history.js`);
  const models = loadModels(modelsFolder);
  const bridge = bridgeBeside(modelsFolder);
  const times = [];
  for (const told of demoPositions()) {
    const dictionary = models.get(told.model);
    const wiring = demoWiring(told, dictionary, bridge);
    const { readings } = setAt(dictionary, told, 0);
    const own = [];
    for (let round = 0; round < ROUNDS; round += 1) {
      const begin = performance.now();
      runChecks(groundOf(bridge, dictionary, told, readings, { wiring }));
      own.push(performance.now() - begin);
    }
    times.push(median(own));
  }
  return {
    what: `one position with all checks (${times.length} of the demo)`,
    measured: `${showMs(median(times))} median, ${showMs(Math.max(...times))} slowest`,
    wanted: 'below 20 ms',
  };
}

async function manyPositions() {
  const dist = '../../apps/server/dist';
  const { RunningPlant } = await import(`${dist}/testing/running-plant.js`);
  const { Checks } = await import(`${dist}/checks/checks.service.js`);
  const { ContentStore } = await import(`${dist}/sets/content-store.service.js`);
  const { wiringHash } = await import(`${dist}/wiring/wiring-hash.js`);
  const { DataSource } = await import('typeorm');
  const running = await RunningPlant.start();
  try {
    const data = running.app.get(DataSource);
    const contents = running.app.get(ContentStore);
    const count = await multiply(data, contents, wiringHash);
    const began = performance.now();
    const looked = await running.app.get(Checks).lookAgain();
    const seconds = (performance.now() - began) / 1000;
    const again = performance.now();
    await running.app.get(Checks).lookAgain();
    const idle = (performance.now() - again) / 1000;
    return {
      what: `${looked} of ${count} positions on the server; looking again when nothing has changed`,
      measured: `${seconds.toFixed(1)} s; ${idle.toFixed(1)} s`,
      wanted: 'below 20 s',
    };
  } finally {
    await running.stop();
  }
}

/** The demo again and again, until there are so many; each copy of a machine stands by itself. */
async function multiply(data, contents, wiringHash) {
  const rows = await data.query(
    `select p.*, m.area_id, m.name as machine, u.dictionary_id, u.rating, u.region, u.serial, u.firmware, u.line_id,
            b.content_hash, base.content_hash as base_hash, w.content as wiring
       from position p join machine m on m.id = p.machine_id
       join unit u on u.position_id = p.id and u.removed_at is null
       join last_look l on l.position_id = p.id join backup b on b.id = l.backup_id
       left join lateral (select content_hash from baseline where position_id = p.id order by revision desc limit 1) base on true
       left join wiring_revision w on w.position_id = p.id and w.revision = 1 and w.dictionary_id = u.dictionary_id`,
  );
  const copies = Math.ceil(WANTED / rows.length) - 1;
  for (let copy = 1; copy <= copies; copy += 1) {
    const machines = new Map();
    for (const row of rows) {
      if (!machines.has(row.machine_id)) {
        const [{ id }] = await data.query(
          'insert into machine (area_id, name, place) values ($1, $2, 100) returning id',
          [row.area_id, `${row.machine} ${copy}`],
        );
        machines.set(row.machine_id, id);
      }
      await copyOf(data, contents, wiringHash, row, machines.get(row.machine_id), copy);
    }
  }
  return rows.length * (copies + 1);
}

async function copyOf(data, contents, wiringHash, row, machineId, copy) {
  const [{ id }] = await data.query(
    `insert into position (machine_id, tag, duty, criticality, motor, place, motor_id, supply_id, cabinet_id)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9) returning id`,
    [
      machineId,
      `${row.tag}-${copy}`,
      row.duty,
      row.criticality,
      row.motor,
      row.place,
      row.motor_id,
      row.supply_id,
      row.cabinet_id,
    ],
  );
  const serial = Number(row.serial) + copy * 10_000_000;
  const [{ id: unitId }] = await data.query(
    `insert into unit (position_id, dictionary_id, rating, region, serial, firmware, installed_at)
     values ($1, $2, $3, $4, $5, $6, now()) returning id`,
    [id, row.dictionary_id, row.rating, row.region, serial % 2_000_000_000, row.firmware],
  );
  const set = await contents.get(row.content_hash);
  const readings = new Map(set.readings);
  // Another set each: its first whole number is one more for every copy.
  const [code, raw] = [...readings].findLast(([, each]) => typeof each === 'number') ?? [];
  if (code !== undefined) readings.set(code, (raw % 7) + copy);
  const hash = await contents.keep({ dictionary: set.dictionary, readings });
  await data.query(
    `insert into backup (position_id, unit_id, content_hash, taken_at, taken_by, how, reason, serial, firmware, unreadable, aside)
     values ($1, $2, $3, now(), 'bench', 'read', 'bench', $4, $5, 0, '{}')`,
    [id, unitId, hash, serial % 2_000_000_000, row.firmware],
  );
  if (row.base_hash)
    await data.query(
      `insert into baseline (position_id, revision, content_hash, signed_at, signed_by, reason, dictionary_hash, signature)
       values ($1, 1, $2, now(), 'bench', 'bench', '', '')`,
      [id, row.base_hash],
    );
  if (!row.wiring) return;
  const kept = {
    ...{ positionId: id, revision: 1, dictionaryId: row.dictionary_id, content: row.wiring },
    ...{ savedAt: new Date(), savedBy: 'bench', why: 'bench' },
  };
  await data.query(
    `insert into wiring_revision (position_id, revision, dictionary_id, content, hash, saved_at, saved_by, why)
     values ($1, 1, $2, $3, $4, $5, 'bench', 'bench')`,
    [id, row.dictionary_id, row.wiring, wiringHash(kept, undefined), kept.savedAt],
  );
}
