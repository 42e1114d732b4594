// Sets of five hundred parameters, forty peers of them, and the register of five thousand positions.

import microdiff from 'microdiff';
import { comparePeers, compareSets } from '@drive-keep/core/compare';
import { largeDictionary, madeUpSet, rawAt } from './made-up.mjs';
import { withClient } from './postgres-client.mjs';
import { median, medianMs, showMs } from './timing.mjs';

const PARAMETERS = 500;
const PEERS = 40;
const POSITIONS = 5000;

export async function keepingBench({ withDatabase }) {
  return [...coreRows(), ...(await withDatabase(databaseRows))];
}

function coreRows() {
  const dictionary = largeDictionary(PARAMETERS);
  const a = madeUpSet(dictionary);
  const changed = (every, seed) => {
    const readings = new Map(a.readings);
    dictionary.parameters.forEach((parameter, at) => {
      if (at % every === 0) readings.set(parameter.code, rawAt(parameter, at + 1 + seed));
    });
    return { ...a, readings };
  };
  const b = changed(11, 0);
  const [plainA, plainB] = [a, b].map(({ readings }) => Object.fromEntries(readings));
  const sets = Array.from({ length: PEERS }, (_, at) => (at % 8 === 0 ? changed(25, at) : a));
  const plain = sets.map(({ readings }) => Object.fromEntries(readings));
  return [
    {
      what: `Two sets of ${PARAMETERS} parameters, ${compareSets(dictionary, a, b).rows.length} differences`,
      measured: showMs(medianMs(() => compareSets(dictionary, a, b))),
      wanted: 'under 2 ms',
    },
    {
      what: 'The same two as plain objects, microdiff',
      measured: showMs(medianMs(() => microdiff(plainA, plainB))),
      wanted: 'for comparison',
    },
    {
      what: `${PEERS} peers of ${PARAMETERS} parameters, ${comparePeers(dictionary, sets).rows.length} rows`,
      measured: showMs(medianMs(() => comparePeers(dictionary, sets), 60)),
      wanted: 'under 50 ms',
    },
    {
      what: `The first against each of the other ${PEERS - 1} as plain objects, microdiff`,
      measured: showMs(medianMs(() => plain.slice(1).map((other) => microdiff(plain[0], other)), 60)),
      wanted: 'for comparison',
    },
  ];
}

/** A plant of so many positions, each with two years of nights behind it: five backups stand for them. */
async function databaseRows() {
  const { RunningPlant } = await import('../../apps/server/dist/testing/running-plant.js');
  const running = await RunningPlant.start();
  try {
    await withClient(running, fillRegister);
    const viewer = await running.signIn('viewer');
    const ask = async (query) => {
      const began = performance.now();
      const { body } = await viewer.get(`register?${query}`);
      return { ms: performance.now() - began, body };
    };
    // Differences that nobody has counted yet are counted once, and then known.
    const first = await ask('sort=state');
    const times = [];
    for (let run = 0; run < 9; run += 1) times.push((await ask('sort=state')).ms);
    const filtered = [];
    for (let run = 0; run < 9; run += 1) filtered.push((await ask('state=drift&find=made')).ms);
    const unknown = await arrivals(viewer);
    // As it is once somebody has brought the motors into the library.
    await withClient(running, (client) =>
      client.query(
        `update position set motor_id = (select motor_id from position where tag = 'KL1-RD-01') where tag like 'MX-%'`,
      ),
    );
    const known = await arrivals(viewer);
    return [
      {
        what: `Motors that arrived with the newest backups of ${first.body.all} positions (${known.found} to look at)`,
        measured: known.measured,
        wanted: 'under 300 ms',
      },
      {
        what: `The same, with ${unknown.found} to look at`,
        measured: unknown.measured,
        wanted: 'for comparison',
      },
      {
        what: `Drift summary of ${first.body.all} positions from the database, over HTTP`,
        measured: `${median(times).toFixed(0)} ms (the first time ${first.ms.toFixed(0)} ms)`,
        wanted: 'under 300 ms',
      },
      {
        what: `The same, filtered (${(await ask('state=drift&find=made')).body.total} left)`,
        measured: `${median(filtered).toFixed(0)} ms`,
        wanted: 'for comparison',
      },
    ];
  } finally {
    await running.stop();
  }
}

async function arrivals(viewer) {
  const times = [];
  let found = 0;
  for (let run = 0; run < 9; run += 1) {
    const began = performance.now();
    found = (await viewer.get('motor-arrivals')).body.length;
    times.push(performance.now() - began);
  }
  return {
    found,
    measured: `${median(times.slice(1)).toFixed(0)} ms (the first time ${times[0].toFixed(0)} ms)`,
  };
}

async function fillRegister(client) {
  await client.query('begin');
  await client.query(`
insert into area (name, place) select 'Made ' || n, 1000 + n from generate_series(1, 20) n;
insert into machine (area_id, name, place)
  select a.id, 'Machine ' || n, 1000 + n from area a, generate_series(1, 10) n where a.name like 'Made %';
insert into position (machine_id, tag, duty, criticality, motor, place)
  select (array(select m.id from machine m join area a on a.id = m.area_id where a.name like 'Made %' order by m.id))[1 + n % 200],
         'MX-' || lpad(n::text, 5, '0'), 'Made-up duty ' || n, 'middle', '', 1000 + n
    from generate_series(1, ${POSITIONS}) n;
insert into unit (position_id, dictionary_id, rating, region, serial, firmware)
  select id, 'halvern-hn64@1', 'HN64-15', '50-hz', 90000000 + place, '2.07' from position where tag like 'MX-%';
insert into baseline (position_id, revision, content_hash, signed_at, signed_by, reason, dictionary_hash, signature)
  select p.id, 1, b.content_hash, now() - interval '1 year', 'X', 'Made', b.dictionary_hash, b.signature
    from position p, (select b.* from baseline b join position k on k.id = b.position_id
                       where k.tag = 'KL1-RD-01' order by revision desc limit 1) b
   where p.tag like 'MX-%';
insert into backup (position_id, unit_id, content_hash, taken_at, taken_by, how, reason, serial, firmware, unreadable, aside)
  select u.position_id, u.id,
         (array(select content_hash from backup b join position k on k.id = b.position_id
                 where k.tag like 'KL1-RD-%' group by content_hash order by content_hash))[1 + (p.place * 7 + n) % 12],
         now() - n * interval '1 day' - interval '3 hours', 'X', 'read', 'Night', u.serial, u.firmware, 0, '{}'
    from unit u join position p on p.id = u.position_id, generate_series(0, 4) n where p.tag like 'MX-%';
with night as (
  insert into job (kind, state, reason, requested_by, started_at, finished_at)
    select 'backup', 'done', 'Night', 'Night', now() - n * interval '1 day', now() - n * interval '1 day'
      from generate_series(0, 4) n
  returning id, finished_at
)
insert into job_item (job_id, place, unit_id, state, outcome, ended_at)
  select night.id, p.place, u.id, 'ended', 'kept', night.finished_at
    from night, unit u join position p on p.id = u.position_id where p.tag like 'MX-%';
`);
  await client.query('commit');
  await client.query('analyze');
}
