// Watching and recording: samples while a round backs up the same line, many people at many units, a long trace on the screen,
// and what a thousand simulated units cost.

import { createRequire } from 'node:module';
import { join } from 'node:path';
import { ensureChromium } from '../setup/chromium.mjs';
import { root, webFolder } from '../setup/folders.mjs';
import { withClient } from './postgres-client.mjs';
import { median, showMs } from './timing.mjs';

const TAG = 'KL1-RD-03';
const SIGNALS = ['frequency', 'setpoint', 'current', 'torque', 'speed', 'busVoltage'];
const PEOPLE = 50;
const UNITS = 20;
const FRAMES = 180;
const FLAGS = ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-sync'];

export async function liveBench({ withDatabase }) {
  return [
    ...(await floorRows()),
    ...(await withDatabase(async () => [...(await lineRows()), ...(await screenRows())])),
  ];
}

/** Every unit of the demo plant many times over, each looked at ten times a second. */
async function floorRows() {
  const { loadModels, SimUnit } = await import('../../packages/plant-sim/dist/index.js');
  const { bridgeBeside, describePlant } = await import('../../apps/server/dist/demo/describe-plant.js');
  const models = loadModels(join(root, 'packages/catalogue/models'));
  const { units, mains } = describePlant(models, bridgeBeside(join(root, 'packages/catalogue/models')));
  let now = 0;
  const thousand = Array.from({ length: 1000 }, (_, at) => {
    const told = units[at % units.length];
    return new SimUnit(told, models.get(told.dictionary), mains, () => now);
  });
  const seconds = 10;
  const began = performance.now();
  for (let at = 0; at < seconds * 10; at += 1) {
    now += 100;
    for (const unit of thousand) void unit.running;
  }
  const share = (performance.now() - began) / (seconds * 1000);
  return [
    {
      what: '1,000 simulated units, each looked at ten times a second, from their start on',
      measured: `${(share * 100).toFixed(0)} % of one processor`,
      wanted: 'one processor',
    },
  ];
}

async function lineRows() {
  const { running, caller, stop } = await started();
  try {
    const { body } = await caller.get('register?most=500');
    const line = body.positions.find(({ tag }) => tag === TAG).unit.line.name;
    const others = body.positions
      .filter(({ tag, unit }) => unit.line?.name === line && tag !== TAG)
      .map(({ tag }) => tag);
    // A unit that does not answer keeps its line waiting for its time-outs, whoever else looks.
    const silent = await running.backUp(caller, ...others);
    const answering = silent.items.filter(({ outcome }) => outcome === 'kept').map(({ tag }) => tag);
    const alone = await rounds(running, caller, answering);
    const { body: trace } = await caller.post(`positions/${TAG}/traces`, {
      title: 'Bench',
      signals: SIGNALS,
      seconds: 300,
    });
    await wait(2000);
    const from = await count(caller, trace);
    const began = performance.now();
    const beside = await rounds(running, caller, answering);
    const rate = ((await count(caller, trace)) - from) / ((performance.now() - began) / 1000);
    await caller.post(`traces/${trace.id}/stop`);
    return [
      {
        what: `Samples a second of six signals while ${answering.length} units of the same line are backed up`,
        measured: rate.toFixed(1),
        wanted: '20',
      },
      {
        what: 'The same backups beside it, against without',
        measured: `${beside.toFixed(2)} s against ${alone.toFixed(2)} s (${((beside / alone - 1) * 100).toFixed(0)} % slower)`,
        wanted: 'no more than 10 % slower',
      },
      await peopleRow(running, caller, body.positions),
    ];
  } finally {
    await stop();
  }
}

async function started() {
  const { RunningPlant } = await import('../../apps/server/dist/testing/running-plant.js');
  const running = await RunningPlant.start({ webFolder });
  for (const line of running.plant.lines.values()) line.delayMs = 3;
  return { running, caller: await running.signIn('engineer'), stop: () => running.stop() };
}

const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** Seconds for the backup of all, the middle one of many within twelve seconds. */
async function rounds(running, caller, tags) {
  const times = [];
  for (const end = performance.now() + 12_000; performance.now() < end;) {
    const began = performance.now();
    await running.backUp(caller, ...tags);
    times.push((performance.now() - began) / 1000);
  }
  return median(times);
}

async function count(caller, { id, signals }) {
  const { unpackTrace } = await import('../../packages/core/dist/signals/index.js');
  const bytes = new Uint8Array(await (await caller.raw(`traces/${id}/samples`)).arrayBuffer());
  return unpackTrace(signals, bytes).value.times.length;
}

/** Fifty people look at twenty units: how many samples reach each of them. */
async function peopleRow(running, caller, positions) {
  const { EventStream } = await import('../../apps/server/dist/testing/event-stream.js');
  const tags = positions
    .filter(({ unit, tag }) => unit.line && !/SP-ST|DR-CF-02|KL1-RD-1[0-2]/.test(tag))
    .map(({ tag }) => tag);
  const callers = await Promise.all(['engineer', 'technician', 'viewer'].map((role) => running.signIn(role)));
  const streams = await Promise.all(
    Array.from({ length: PEOPLE }, (_, at) =>
      EventStream.open(callers[at % callers.length], `positions/${tags[at % UNITS]}/now`),
    ),
  );
  await wait(2000);
  const samples = ({ events }) => events.filter(({ kind }) => kind === 'sample').length;
  const before = streams.map(samples);
  const began = performance.now();
  const { user, system } = process.cpuUsage();
  await wait(10_000);
  const seconds = (performance.now() - began) / 1000;
  const spent = process.cpuUsage();
  // One unit of the story does not answer, and in the place of another sits a strange one.
  const rates = streams
    .map((stream, at) => (samples(stream) - before[at]) / seconds)
    .filter((rate) => rate > 0);
  for (const stream of streams) stream.close();
  const cpu = (spent.user + spent.system - user - system) / 1e6 / seconds;
  return {
    what: `${PEOPLE} people look at ${UNITS} units, five samples a second each`,
    measured: `${median(rates).toFixed(1)} a second, the slowest ${Math.min(...rates).toFixed(1)}; server, plant and people ${(cpu * 100).toFixed(0)} % of a processor`,
    wanted: '5',
  };
}

/** Ten minutes of six signals: what it takes to keep, to open and to move. */
async function screenRows() {
  const { running, caller, stop } = await started();
  try {
    const id = await longTrace(running, caller);
    const kept = await withClient(running, async (client) => {
      const { rows } = await client.query('select length(samples) as bytes from trace where id = $1', [id]);
      return rows[0].bytes;
    });
    return [
      {
        what: 'A trace of ten minutes, six signals, 20 samples a second, kept',
        measured: `${(kept / 1000).toFixed(0)} kB`,
        wanted: 'under 100 kB',
      },
      ...(await onScreen(running, caller, id)),
    ];
  } finally {
    await stop();
  }
}

async function longTrace(running, caller) {
  const { Traces } = await import('../../apps/server/dist/traces/traces.service.js');
  const { Register } = await import('../../apps/server/dist/register/register.service.js');
  const { body } = await caller.post(`positions/${TAG}/traces`, {
    title: 'For its signals',
    signals: SIGNALS,
    seconds: 2,
  });
  const { position, unit } = await running.app.get(Register).unitAt(TAG);
  const times = Array.from({ length: 12_000 }, (_, at) => at * 50 + (at % 4));
  const values = body.signals.map((_, own) =>
    times.map((at) =>
      Math.round(2500 + 900 * Math.sin(at / 11_000 + own) + 8 * Math.sin(at * 1.37 * (own + 1))),
    ),
  );
  const began = new Date();
  return running.app.get(Traces).keep(
    {
      ...{
        positionId: position.id,
        dictionaryId: unit.dictionaryId,
        serial: '1',
        title: 'Ten minutes',
        signals: body.signals,
      },
      ...{
        everyMs: 50,
        seconds: 600,
        settings: body.settings,
        beganAt: began,
        beganBy: 'Bench',
        endedAt: began,
      },
    },
    { signals: body.signals, times, values },
  );
}

async function onScreen(running, caller, id) {
  const require = createRequire(join(root, 'package.json'));
  const { chromium } = require('playwright');
  const browser = await chromium.launch({ executablePath: await ensureChromium(), args: FLAGS });
  try {
    const context = await browser.newContext({
      viewport: { width: 1280, height: 800 },
      baseURL: running.base,
    });
    const [name, value] = caller.cookie.split('=');
    await context.addCookies([{ name, value, url: running.base }]);
    const page = await context.newPage();
    await page.goto('/register');
    await page.waitForTimeout(1500);
    const opened = [];
    for (let run = 0; run < 5; run += 1) {
      await page.goto(`/positions/${TAG}/traces`);
      await page.getByRole('link', { name: 'Ten minutes' }).waitFor();
      opened.push(
        await page.evaluate(async (title) => {
          const link = [...document.querySelectorAll('a')].find((each) => each.textContent === title);
          const began = performance.now();
          link.click();
          while (!document.querySelector('canvas')) await new Promise((done) => requestAnimationFrame(done));
          await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
          return performance.now() - began;
        }, 'Ten minutes'),
      );
    }
    for (let at = 0; at < 6; at += 1) await page.getByRole('button', { name: 'Closer' }).click();
    const idle = await page.evaluate(async (count) => {
      const times = [];
      let before = performance.now();
      for (let at = 0; at < count; at += 1) {
        await new Promise((done) => requestAnimationFrame(done));
        times.push(performance.now() - before);
        before = performance.now();
      }
      return times;
    }, FRAMES);
    const frames = await page.evaluate(async (count) => {
      const canvas = document.querySelector('canvas');
      const box = canvas.getBoundingClientRect();
      const point = (type, x) =>
        canvas.dispatchEvent(
          new PointerEvent(type, {
            bubbles: true,
            pointerId: 1,
            clientX: box.left + x,
            clientY: box.top + 60,
          }),
        );
      canvas.setPointerCapture = () => undefined;
      point('pointerdown', 400);
      const times = [];
      let before = performance.now();
      for (let at = 0; at < count; at += 1) {
        point('pointermove', 400 + ((at % 60) - 30) * 6);
        await new Promise((done) => requestAnimationFrame(done));
        const now = performance.now();
        times.push(now - before);
        before = now;
      }
      return times;
    }, FRAMES);
    const slow = [...frames].sort((a, b) => a - b)[Math.floor(frames.length * 0.95)];
    return [
      {
        what: 'Ten minutes of trace opened from its list',
        measured: showMs(median(opened)),
        wanted: 'under 300 ms',
      },
      {
        what: 'A frame while it is moved',
        measured: `${showMs(median(frames))} in the middle, 95 of 100 within ${showMs(slow)}; ${showMs(median(idle))} with nothing to draw`,
        wanted: '16.7 ms (60 a second)',
      },
    ];
  } finally {
    await browser.close();
  }
}
