// Two hundred units on three lines, each answering after 3 ms: how long a backup of all takes against what the protocol
// needs at the least. The least is measured, too: the same requests, one in flight per line, over bare sockets that do
// nothing else.

import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { loadModels } from '@drive-keep/plant-sim';
import pg from 'pg';
import { Children } from '../setup/children.mjs';
import { modelsFolder, root } from '../setup/folders.mjs';
import { jobMs } from './line.mjs';
import { median } from './timing.mjs';

const UNITS = 200;
const LINES = ['large-1', 'large-2', 'large-3'];
const DELAY_MS = 3;
const ROUNDS = 3;
const MODEL = 'halvern-hn64@1';

export async function largePlantBench({ withDatabase }) {
  return withDatabase(async () => {
    const { RunningPlant } = await import('../../apps/server/dist/testing/running-plant.js');
    const running = await RunningPlant.start();
    const children = new Children();
    try {
      const ports = await startPlant(children);
      await register(running, ports);
      return [await row(running, ports)];
    } finally {
      await children.end();
      await running.stop();
    }
  });
}

const unitsOf = () =>
  Array.from({ length: UNITS }, (_, at) => ({
    line: LINES[at % LINES.length],
    address: 1 + Math.floor(at / LINES.length),
    serial: 70_000_000 + at,
    tag: `LP-${String(at + 1).padStart(3, '0')}`,
  }));

async function startPlant(children) {
  const told = {
    mains: 400,
    lines: LINES.map((id) => ({ id, port: 0, delayMs: DELAY_MS })),
    units: unitsOf().map(({ line, address, serial }) => ({
      ...{ line, address, serial, dictionary: MODEL, rating: 'HN64-15', region: '50-hz' },
      ...{ firmware: 207, values: {}, runContact: false },
    })),
  };
  const folder = mkdtempSync(join(tmpdir(), 'bench-plant-'));
  writeFileSync(join(folder, 'plant.json'), JSON.stringify(told));
  const main = join(root, 'packages/plant-sim/dist/main.js');
  const args = [main, '--plant', join(folder, 'plant.json'), '--models', modelsFolder];
  const { lines } = await children.start('simulated plant', args);
  rmSync(folder, { recursive: true });
  return lines;
}

async function register(running, ports) {
  const client = new pg.Client({ connectionString: running.database.url });
  await client.connect();
  try {
    await client.query(`insert into area (name, place) values ('Large', 900)`);
    await client.query(
      `insert into machine (area_id, name, place) select id, 'All', 900 from area where name = 'Large'`,
    );
    for (const name of LINES)
      await client.query('insert into line (name, host, port) values ($1, $2, $3)', [
        name,
        '127.0.0.1',
        ports[name],
      ]);
    for (const { line, address, serial, tag } of unitsOf()) {
      await client.query(
        `with fresh as (
           insert into position (machine_id, tag, duty, criticality, motor, place)
             select m.id, $1, 'Made up', 'low', '', 900 from machine m where m.name = 'All' returning id)
         insert into unit (position_id, dictionary_id, rating, region, serial, firmware, line_id, line_address)
           select fresh.id, $2, 'HN64-15', '50-hz', $3, '2.07', l.id, $4 from fresh, line l where l.name = $5`,
        [tag, MODEL, serial, address, line],
      );
    }
  } finally {
    await client.end();
  }
}

async function row(running, ports) {
  const engineer = await running.signIn('engineer');
  const tags = unitsOf().map(({ tag }) => tag);
  const plan = await requestsOfOne();
  await jobMs(running, engineer, tags.slice(0, 12));
  const ours = [];
  const least = [];
  for (let round = 0; round < ROUNDS; round += 1) {
    least.push(await leastMs(ports, plan));
    ours.push(await jobMs(running, engineer, tags));
  }
  const [bare, full] = [median(least), median(ours)];
  return {
    what: `${UNITS} units on ${LINES.length} lines, ${plan.length} requests each, against the same over bare sockets`,
    measured: `${full.toFixed(0)} ms against ${bare.toFixed(0)} ms (×${(full / bare).toFixed(2)})`,
    wanted: 'at most ×1.15',
  };
}

async function requestsOfOne() {
  const { planReads } = await import('../../apps/server/dist/line/read-plan.js');
  const { identityPlaces } = await import('../../apps/server/dist/line/identity.js');
  const dictionary = loadModels(modelsFolder).get(MODEL);
  const places = dictionary.parameters.flatMap(({ register: place }) =>
    place ? [{ address: place.address, count: place.width / 16 }] : [],
  );
  return planReads([...identityPlaces(dictionary.line), ...places], dictionary.line);
}

async function leastMs(ports, plan) {
  const began = performance.now();
  await Promise.all(LINES.map((line) => readLine(ports[line], line, plan)));
  return performance.now() - began;
}

async function readLine(port, line, plan) {
  const socket = connect(port, '127.0.0.1');
  socket.setNoDelay(true);
  await new Promise((resolve) => socket.once('connect', resolve));
  let transaction = 0;
  for (const { address } of unitsOf().filter((unit) => unit.line === line)) {
    for (const request of plan) {
      transaction = (transaction + 1) % 0x1_0000;
      await ask(socket, transaction, address, request);
    }
  }
  socket.destroy();
}

/** Read Holding Registers in a Modbus TCP frame (Modbus Messaging on TCP/IP V1.0b, 3.1.3). */
function ask(socket, transaction, unit, { address, count }) {
  const frame = Buffer.alloc(12);
  frame.writeUInt16BE(transaction, 0);
  frame.writeUInt16BE(6, 4);
  frame.writeUInt8(unit, 6);
  frame.writeUInt8(3, 7);
  frame.writeUInt16BE(address, 8);
  frame.writeUInt16BE(count, 10);
  return new Promise((resolve) => {
    let left = 9 + 2 * count;
    const onData = (chunk) => {
      left -= chunk.length;
      if (left > 0) return;
      socket.off('data', onData);
      resolve();
    };
    socket.on('data', onData);
    socket.write(frame);
  });
}
