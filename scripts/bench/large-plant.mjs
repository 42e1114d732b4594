// Two hundred units on three lines, each answering after 3 ms: how long a backup of all takes against what the protocol
// needs at the least. The least is measured, too: the same requests, one in flight per line, over bare sockets that do
// nothing else.

import { connect } from 'node:net';
import { loadModels } from '@drive-keep/plant-sim';
import { Children } from '../setup/children.mjs';
import { modelsFolder } from '../setup/folders.mjs';
import { jobMs } from './line.mjs';
import { manyUnits, MODEL, registerMany, startMany } from './many-units.mjs';
import { median } from './timing.mjs';

const UNITS = 200;
const LINES = 3;
const DELAY_MS = 3;
const ROUNDS = 3;

export async function largePlantBench({ withDatabase }) {
  return withDatabase(async () => {
    const { RunningPlant } = await import('../../apps/server/dist/testing/running-plant.js');
    const running = await RunningPlant.start();
    const children = new Children();
    try {
      const many = manyUnits(LINES, UNITS);
      const ports = await startMany(children, many, DELAY_MS);
      await registerMany(running, many, ports);
      return [await row(running, many, ports)];
    } finally {
      await children.end();
      await running.stop();
    }
  });
}

async function row(running, many, ports) {
  const engineer = await running.signIn('engineer');
  const tags = many.map(({ tag }) => tag);
  const plan = await requestsOfOne();
  await jobMs(running, engineer, tags.slice(0, 12));
  const ours = [];
  const minimum = [];
  for (let round = 0; round < ROUNDS; round += 1) {
    minimum.push(await minimumMs(many, ports, plan));
    ours.push(await jobMs(running, engineer, tags));
  }
  const [bare, full] = [median(minimum), median(ours)];
  return {
    what: `${UNITS} units on ${LINES} lines, ${plan.length} requests each, against the same over bare sockets`,
    measured: `${full.toFixed(0)} ms against ${bare.toFixed(0)} ms (×${(full / bare).toFixed(2)})`,
    wanted: 'at most ×1.15',
  };
}

async function requestsOfOne() {
  const { planReads } = await import('../../apps/server/dist/lines/read-plan.js');
  const { identityPlaces } = await import('../../apps/server/dist/lines/identity.js');
  const dictionary = loadModels(modelsFolder).get(MODEL);
  const places = dictionary.parameters.flatMap(({ register: place }) =>
    place ? [{ address: place.address, count: place.width / 16 }] : [],
  );
  return planReads([...identityPlaces(dictionary.line), ...places], dictionary.line);
}

async function minimumMs(many, ports, plan) {
  const began = performance.now();
  const lines = new Map(many.map(({ line }) => [line, many.filter((unit) => unit.line === line)]));
  await Promise.all([...lines].map(([line, units]) => readLine(ports[line], units, plan)));
  return performance.now() - began;
}

async function readLine(port, units, plan) {
  const socket = connect(port, '127.0.0.1');
  socket.setNoDelay(true);
  await new Promise((resolve) => socket.once('connect', resolve));
  let transaction = 0;
  for (const { address } of units) {
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
