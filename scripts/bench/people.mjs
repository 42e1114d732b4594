// Many people look at a plant while all of it is backed up: how long an answer takes, and how much memory the server needs. The
// server is a process of its own; the people are here.

import { readFileSync } from 'node:fs';
import { Children } from '../setup/children.mjs';
import { manyUnits, registerMany, startMany } from './many-units.mjs';

/** A person in a hurry reads a screen for so long; one who looks through a plant for so long. */
const HURRIES_MS = 1000;
const READS_MS = 3000;
const QUIET_MS = 15_000;

export async function peopleBench({ withDatabase }) {
  return withDatabase(async () => [...(await demoRows()), ...(await largeRows())]);
}

async function started() {
  const dist = '../../apps/server/dist';
  const { RunningPlant } = await import(`${dist}/testing/running-plant.js`);
  const { WorkQueue } = await import(`${dist}/queue/work-queue.service.js`);
  const processes = await import(`${dist}/testing/server-process.js`);
  const running = await RunningPlant.start();
  // Work is done by the process that is measured alone.
  await running.app.get(WorkQueue).onApplicationShutdown();
  const server = await processes.startServer(running.database.url, running.ports);
  const caller = await processes.signInAt(server.base, 'engineer', 'glaze-and-fire');
  const stop = async () => {
    await processes.kill(server.child);
    await running.stop();
  };
  return { running, server, caller, stop };
}

/** Fifty people on the demo plant, first with nothing else to do and then beside backups of all. */
async function demoRows() {
  const { caller, stop } = await started();
  try {
    const { body } = await caller.get('register?most=500');
    const tags = body.positions.map(({ tag }) => tag);
    const onLine = body.positions.filter(({ unit }) => unit.line).map(({ tag }) => tag);
    const quiet = await look(caller, tags, 50, HURRIES_MS, after(QUIET_MS));
    const busy = await look(caller, tags, 50, HURRIES_MS, backups(caller, onLine, 3));
    return [
      row('50 people on the demo plant, a screen a second each, nothing else to do', quiet, 'p99 under 1 s'),
      row('50 people beside backups of all', busy, 'p99 under 1 s'),
    ];
  } finally {
    await stop();
  }
}

/** 120 lines with 480 units are backed up while 100 people look, 40 look at silent units live and 20 papers are made. */
async function largeRows() {
  const { running, server, caller, stop } = await started();
  const children = new Children();
  try {
    const units = manyUnits(120, 480);
    const ports = await startMany(children, units, 3, 40);
    await registerMany(running, units, ports);
    const tags = units.map(({ tag }) => tag);
    const known = (await caller.get('register?most=50')).body.positions.map(({ tag }) => tag);
    const work = backups(caller, tags, 1);
    const aborts = tags.slice(0, 40).map((tag) => live(server.base, caller.cookie, tag));
    const papers = Promise.all(
      Array.from({ length: 20 }, (_, at) =>
        timed(() =>
          caller.raw(`positions/${known[at % known.length]}/settings-record?set=newest&format=pdf`),
        ),
      ),
    );
    const times = await look(caller, [...known, ...tags.slice(40, 90)], 100, READS_MS, work);
    const made = await papers;
    for (const abort of aborts) abort();
    const peak = /VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server.child.pid}/status`, 'utf8'))?.[1];
    return [
      row(
        '100 people, a screen every 3 s each, beside 480 units on 120 lines, 40 live views of silent units, 20 papers',
        times,
        'all under 2 s',
      ),
      {
        what: 'Memory of the server at the most',
        measured: `${(Number(peak) / 1024).toFixed(0)} MB; papers ${made.filter(({ ok }) => ok).length} of 20, the last after ${(Math.max(...made.map(({ ms }) => ms)) / 1000).toFixed(1)} s`,
        wanted: 'under 600 MB, all papers',
      },
    ];
  } finally {
    await children.end();
    await stop();
  }
}

const after = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

async function backups(caller, positions, times) {
  for (let time = 0; time < times; time += 1) {
    const { body } = await caller.post('backups', { positions, reason: 'Bench' });
    for (;;) {
      await after(500);
      const { body: job } = await caller.get(`jobs/${body.job.id}`);
      if (['done', 'stopped', 'interrupted'].includes(job.state)) break;
    }
  }
}

function live(base, cookie, tag) {
  const aborted = new AbortController();
  const read = async () => {
    const response = await fetch(`${base}/api/positions/${tag}/live`, {
      headers: { cookie },
      signal: aborted.signal,
    });
    for await (const _ of response.body) void _;
  };
  read().catch(() => undefined);
  return () => aborted.abort();
}

async function timed(ask) {
  const began = performance.now();
  const answer = await ask();
  if (answer instanceof Response) await answer.arrayBuffer();
  return { ms: performance.now() - began, ok: answer.status < 400, status: answer.status };
}

/** So many people look here and there until the work is done. */
async function look(caller, tags, people, readsMs, work) {
  let over = false;
  const times = [];
  void work.then(() => (over = true));
  const screens = [
    () => 'register',
    (tag) => `positions/${tag}`,
    (tag) => `positions/${tag}/history`,
    (tag) => `positions/${tag}/comparison?a=default&b=newest`,
    () => 'jobs',
    () => 'logbook?most=50',
    () => 'register?state=drift',
  ];
  const person = async (number) => {
    await after((number * readsMs) / people);
    for (let turn = number; !over; turn += 1) {
      const path = screens[turn % screens.length](tags[(turn * 7) % tags.length]);
      times.push({ path, ...(await timed(() => caller.get(path))) });
      await after(readsMs * (0.5 + Math.random()));
    }
  };
  await Promise.all([work, ...Array.from({ length: people }, (_, number) => person(number))]);
  return times;
}

function row(what, times, wanted) {
  const sorted = times.map(({ ms }) => ms).sort((a, b) => a - b);
  const at = (share) => (sorted[Math.floor(share * (sorted.length - 1))] ?? 0).toFixed(0);
  const broken = times.filter(({ status }) => status >= 500).length;
  return {
    what,
    measured: `p50 ${at(0.5)} ms, p99 ${at(0.99)} ms, most ${at(1)} ms of ${sorted.length} answers, ${broken} failed`,
    wanted,
  };
}
