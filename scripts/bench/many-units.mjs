// A simulated plant of many equal units on many lines, in a process of its own, and its rows in the register.

import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { modelsFolder, root } from '../setup/folders.mjs';
import { withClient } from './postgres-client.mjs';

export const MODEL = 'halvern-hn64@1';

/** The units one by one: line, address, serial number and tag. */
export const manyUnits = (lines, units) =>
  Array.from({ length: units }, (_, at) => ({
    line: `large-${(at % lines) + 1}`,
    address: 1 + Math.floor(at / lines),
    serial: 70_000_000 + at,
    tag: `LP-${String(at + 1).padStart(3, '0')}`,
  }));

/** Answers with the port of each line. The first `silent` units do not answer. */
export async function startMany(children, units, delayMs, silent = 0) {
  const told = {
    mains: 400,
    lines: [...new Set(units.map(({ line }) => line))].map((id) => ({ id, port: 0, delayMs })),
    units: units.map(({ line, address, serial }, at) => ({
      ...{ line, address, serial, dictionary: MODEL, rating: 'HN64-15', region: '50-hz' },
      ...{ firmware: 207, values: {}, runContact: false },
      ...(at < silent ? { mischief: { silent: true } } : {}),
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

export async function registerMany(running, units, ports) {
  await withClient(running, async (client) => {
    await client.query(`insert into area (name, place) values ('Large', 900)`);
    await client.query(
      `insert into machine (area_id, name, place) select id, 'All', 900 from area where name = 'Large'`,
    );
    for (const name of new Set(units.map(({ line }) => line)))
      await client.query('insert into line (name, host, port) values ($1, $2, $3)', [
        name,
        '127.0.0.1',
        ports[name],
      ]);
    for (const { line, address, serial, tag } of units) {
      await client.query(
        `with fresh as (
           insert into position (machine_id, tag, duty, criticality, motor, place)
             select m.id, $1, 'Made up', 'low', '', 900 from machine m where m.name = 'All' returning id)
         insert into unit (position_id, dictionary_id, rating, region, serial, firmware, line_id, line_address)
           select fresh.id, $2, 'HN64-15', '50-hz', $3, '2.07', l.id, $4 from fresh, line l where l.name = $5`,
        [tag, MODEL, serial, address, line],
      );
    }
  });
}
