// Backups over Modbus TCP from the simulated plant: how many requests, and how much three lines gain over one unit
// after the other. The second figure is taken from the times that the jobs themselves record, so waiting in the queue
// does not count for either side.

import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { loadModels } from '@drive-keep/plant-sim';
import { DataSource } from 'typeorm';
import { Children } from '../setup/children.mjs';
import { modelsFolder, root } from '../setup/folders.mjs';

export async function lineBench({ withDatabase }) {
  return withDatabase(async () => {
    const { RunningPlant } = await import('../../apps/server/dist/testing/running-plant.js');
    const running = await RunningPlant.start();
    try {
      return [await requestsRow(running), ...(await linesRows(running))];
    } finally {
      await running.stop();
    }
  });
}

/** One unit of each model of the plant; the worst of them counts. */
async function requestsRow({ plant, ports }) {
  const dictionaries = loadModels(modelsFolder);
  const units = [...plant.units.values()].filter(
    ({ mischief }) => !mischief.silent && mischief.refuse.length === 0,
  );
  const models = [...new Set(units.map(({ description }) => description.dictionary))];
  const counts = [];
  for (const id of models) {
    const unit = units.find(({ description }) => description.dictionary === id);
    counts.push({ id, ...(await requestsOf(unit, dictionaries.get(id), ports)) });
  }
  const worst = counts.reduce((one, other) =>
    other.requests / other.minimum > one.requests / one.minimum ? other : one,
  );
  const sum = counts.map(({ requests, minimum }) => `${requests}/${minimum}`).join(' ');
  return {
    what: `Requests of a full backup against the minimum possible, worst of ${counts.length} models`,
    measured: `×${(worst.requests / worst.minimum).toFixed(2)} (${sum})`,
    wanted: 'at most ×1.1',
  };
}

async function requestsOf(unit, dictionary, ports) {
  const { readUnit } = await import('../../apps/server/dist/lines/unit-reader.js');
  const { ModbusLine } = await import('../../apps/server/dist/lines/modbus-line.js');
  const { identityPlaces } = await import('../../apps/server/dist/lines/identity.js');
  const line = new ModbusLine({ host: '127.0.0.1', port: ports[unit.description.line] });
  let requests = 0;
  const counting = {
    read: (...args) => {
      requests += 1;
      return line.read(...args);
    },
  };
  const expected = { address: unit.description.address, serial: unit.serial };
  const control = { progress: () => undefined, stopped: () => false };
  const read = await readUnit(counting, dictionary, dictionary.line, expected, control);
  line.close();
  if (!read.ok) throw new Error(`the unit was not read: ${read.fault.code}`);
  const registers = dictionary.parameters.flatMap(({ register }) =>
    register ? [{ address: register.address, count: register.width / 16 }] : [],
  );
  return {
    requests,
    minimum: minimumRequests([...identityPlaces(dictionary.line), ...registers], dictionary.line),
  };
}

/** The minimum number of requests over all divisions, found place by place; independent of the planner. */
function minimumRequests(places, { largestRead, reserved, bridgeGaps }) {
  const sorted = [...places].sort((a, b) => a.address - b.address);
  const best = [0];
  sorted.forEach((last, at) => {
    let minimum = Infinity;
    for (let first = at; first >= 0; first -= 1) {
      const from = sorted[first].address;
      const end = last.address + last.count;
      const torn = reserved.some((area) => area.from < end && area.to >= from);
      const next = sorted[first + 1];
      const gap = first < at && next.address > from + sorted[first].count;
      if (end - from > largestRead || torn || (gap && !bridgeGaps)) break;
      minimum = Math.min(minimum, best[first] + 1);
    }
    best.push(minimum);
  });
  return best.at(-1);
}

const ROUNDS = 5;

async function linesRows(running) {
  const engineer = await running.signIn('engineer');
  const { body } = await engineer.get('register');
  const tags = body.positions.filter(({ tag }) => tag.startsWith('KL1-RD'));
  const names = tags.map(({ tag }) => tag);
  const children = new Children();
  try {
    await useOwnPlant(running, children);
    return [await fasterRow(running, engineer, names)];
  } finally {
    await children.end();
  }
}

/** The plant in a process of its own, as in every installation, with whole units alone: no mischief in its description. */
async function useOwnPlant(running, children) {
  const { bridgeBeside, describePlant } = await import('../../apps/server/dist/demo/describe-plant.js');
  const { demoPositions } = await import('../../apps/server/dist/demo/demo-positions.js');
  const { DemoPlant } = await import('../../apps/server/dist/demo/demo-plant.service.js');
  const registered = new Map(demoPositions().map(({ answers, serial }) => [answers, serial]));
  const told = describePlant(loadModels(modelsFolder), bridgeBeside(modelsFolder));
  const units = told.units.map(({ mischief, serial, ...unit }) => ({
    ...unit,
    serial: registered.get(serial),
  }));
  const folder = mkdtempSync(join(tmpdir(), 'bench-plant-'));
  writeFileSync(join(folder, 'plant.json'), JSON.stringify({ ...told, units }));
  const main = join(root, 'packages/plant-sim/dist/main.js');
  const args = [main, '--plant', join(folder, 'plant.json'), '--models', modelsFolder];
  const { lines } = await children.start('simulated plant', args);
  rmSync(folder, { recursive: true });
  await running.app.get(DemoPlant).ensure(lines);
}

async function fasterRow(running, engineer, names) {
  const together = [];
  const single = [];
  for (let round = 0; round < ROUNDS; round += 1) {
    together.push(await jobMs(running, engineer, names));
    let sum = 0;
    for (const name of names) sum += await jobMs(running, engineer, [name]);
    single.push(sum);
  }
  const [fast, slow] = [together, single].map((times) => times.sort((a, b) => a - b)[Math.floor(ROUNDS / 2)]);
  return {
    what: `${names.length} units on three lines against one after the other`,
    measured: `${fast.toFixed(0)} ms against ${slow.toFixed(0)} ms (×${(slow / fast).toFixed(2)})`,
    wanted: 'at least ×2.5',
  };
}

/**
 * From the first request to the end of the job, by the database's own clock. It is waited for with a light question:
 * the job's whole view, asked for again and again, would compete with the work that is measured.
 */
export async function jobMs(running, engineer, tags) {
  const { body } = await engineer.post('backups', { positions: tags, reason: 'Bench' });
  const database = running.app.get(DataSource);
  const ask = () =>
    database.query(
      `select extract(epoch from finished_at - started_at) * 1000 as ms,
              (select count(*) from job_item where job_id = job.id and backup_id is not null) as kept
       from job where id = $1`,
      [body.job.id],
    );
  let [row] = await ask();
  while (row.ms === null) {
    await new Promise((resolve) => setTimeout(resolve, 200));
    [row] = await ask();
  }
  if (Number(row.kept) !== tags.length) throw new Error(`${tags.length - row.kept} units were not backed up`);
  return Number(row.ms);
}
