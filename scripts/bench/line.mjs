// Backups over Modbus TCP from the simulated plant: how many requests, and how much three lines gain over one unit
// after the other. The second figure is taken from the times that the jobs themselves record, so waiting in the queue
// does not count for either side.

import { DataSource } from 'typeorm';

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

async function requestsRow({ dictionary, plant, ports }) {
  const { readUnit } = await import('../../apps/server/dist/line/unit-reader.js');
  const { ModbusLine } = await import('../../apps/server/dist/line/modbus-line.js');
  const { identityPlaces } = await import('../../apps/server/dist/line/identity.js');
  const [unit] = plant.units.values();
  const line = new ModbusLine('127.0.0.1', ports[unit.description.line]);
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
  const least = leastRequests([...identityPlaces(dictionary.line), ...registers], dictionary.line);
  return {
    what: 'Requests of a full backup against the least possible',
    measured: `${requests} of ${least} (×${(requests / least).toFixed(2)})`,
    wanted: 'at most ×1.1',
  };
}

/** The least number of requests over all divisions, found place by place; independent of the planner. */
function leastRequests(places, { largestRead, reserved }) {
  const sorted = [...places].sort((a, b) => a.address - b.address);
  const best = [0];
  sorted.forEach((last, at) => {
    let least = Infinity;
    for (let first = at; first >= 0; first -= 1) {
      const from = sorted[first].address;
      const end = last.address + last.count;
      const torn = reserved.some((area) => area.from < end && area.to >= from);
      if (end - from > largestRead || torn) break;
      least = Math.min(least, best[first] + 1);
    }
    best.push(least);
  });
  return best.at(-1);
}

const ROUNDS = 5;

async function linesRows(running) {
  const engineer = await running.signIn('engineer');
  const { body } = await engineer.get('register');
  const tags = body.areas
    .flatMap((area) => area.machines.flatMap((machine) => machine.positions))
    .filter(({ tag, unit }) => tag.startsWith('KL1-RD') && unit.line)
    .map(({ tag, unit }) => ({ tag, serial: unit.serial }));
  // Whole units alone: one that is silent or refuses registers costs more requests, and its line would be the longest.
  for (const unit of running.plant.units.values()) unit.setMischief({ silent: false, refuse: [] });
  for (const { tag, serial } of tags) running.unit(tag).serial = serial;
  const names = tags.map(({ tag }) => tag);
  const together = [];
  const single = [];
  for (let round = 0; round < ROUNDS; round += 1) {
    together.push(await jobMs(running, engineer, names));
    let sum = 0;
    for (const name of names) sum += await jobMs(running, engineer, [name]);
    single.push(sum);
  }
  const [fast, slow] = [together, single].map((times) => times.sort((a, b) => a - b)[Math.floor(ROUNDS / 2)]);
  return [
    {
      what: `${names.length} units on three lines against one after the other`,
      measured: `${fast.toFixed(0)} ms against ${slow.toFixed(0)} ms (×${(slow / fast).toFixed(2)})`,
      wanted: 'at least ×2.5',
    },
  ];
}

/**
 * From the first request to the end of the job, by the database's own clock. It is waited for with a light question:
 * the job's whole view, asked for again and again, would compete with the work that is measured.
 */
async function jobMs(running, engineer, tags) {
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
