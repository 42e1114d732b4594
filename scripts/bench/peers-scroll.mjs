// Forty peers of five hundred parameters on the screen of the built application, in headless Chromium: how long a frame
// takes while the page is scrolled. Nearly every parameter disagrees somewhere, so that nothing folds away.

import { createRequire } from 'node:module';
import { join } from 'node:path';
import { ensureChromium } from '../setup/chromium.mjs';
import { root, webFolder } from '../setup/folders.mjs';
import { withClient } from './postgres-client.mjs';
import { median } from './timing.mjs';

const PARAMETERS = 500;
const PEERS = 40;
const FRAMES = 240;
/** What a hard flick of the wheel moves in a sixtieth of a second. */
const STEP_PX = 60;
const WAYS = { down: { top: STEP_PX, left: 0 }, across: { top: 0, left: STEP_PX } };
const FLAGS = ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-sync'];

export async function peersScrollBench({ withDatabase }) {
  return withDatabase(async () => {
    const { RunningPlant } = await import('../../apps/server/dist/testing/running-plant.js');
    const running = await RunningPlant.start({ webFolder });
    try {
      const tags = await register(running);
      const asked = await askMs(running, tags);
      return [asked, ...(await onScreen(running, tags))];
    } finally {
      await running.stop();
    }
  });
}

/** A model of the plant's own, and forty positions that each hold it with values of their own here and there. */
async function register(running) {
  const { ContentStore } = await import('../../apps/server/dist/sets/content-store.service.js');
  const engineer = await running.signIn('engineer');
  const model = new FormData();
  const fields = { maker: 'Made', name: 'Up', firmwareFrom: '1.00', firmwareTo: '1.99' };
  for (const [key, value] of Object.entries(fields)) model.set(key, value);
  const codes = Array.from({ length: PARAMETERS }, (_, at) => `P${String(at + 1).padStart(3, '0')}`);
  const lines = codes.map((code, at) => `${code},Ramp time of the made-up kind ${at + 1},0.0 to 600.0 s,5.0`);
  model.set('file', new Blob([['code,name,range,default', ...lines].join('\n')]), 'list.csv');
  const { status, body } = await engineer.post('models', model);
  if (status !== 201) throw new Error(JSON.stringify(body));
  const contents = running.app.get(ContentStore);
  const hashes = [];
  for (let peer = 0; peer < PEERS; peer += 1) {
    const raw = (at) => ((at * 31 + peer * 17) % 13 === 0 ? 50 + ((at * 7 + peer) % 5900) : 50 + at);
    const readings = new Map(codes.map((code, at) => [code, raw(at)]));
    hashes.push(await contents.keep({ dictionary: body.id, readings }));
  }
  return withClient(running, (client) => place(client, body.id, hashes));
}

async function place(client, dictionary, hashes) {
  const tags = hashes.map((_, at) => `PEER-${String(at + 1).padStart(2, '0')}`);
  const { rows } = await client.query('select id from machine order by id limit 1');
  for (const [at, tag] of tags.entries())
    await client.query(
      `with fresh as (insert into position (machine_id, tag, duty, criticality, motor, place)
                      values ($1, $2, 'Made up', 'low', '', 900) returning id),
            its_unit as (insert into unit (position_id, dictionary_id, rating, region, serial, firmware)
                         select id, $3, '', '', $4, '1.00' from fresh returning id, position_id)
       insert into backup (position_id, unit_id, content_hash, taken_at, taken_by, how, reason, serial, firmware, unreadable, aside)
       select position_id, id, $5, now(), 'X', 'read', 'Made', $4, '1.00', 0, '{}' from its_unit`,
      [rows[0].id, tag, dictionary, 60_000_000 + at, hashes[at]],
    );
  return tags;
}

async function askMs(running, tags) {
  const viewer = await running.signIn('viewer');
  const times = [];
  let rows = 0;
  for (let run = 0; run < 9; run += 1) {
    const began = performance.now();
    const { body } = await viewer.get(`peers?positions=${tags.join(',')}`);
    times.push(performance.now() - began);
    rows = body.rows.length;
  }
  return {
    what: `${PEERS} peers of ${PARAMETERS} parameters over HTTP, ${rows} rows`,
    measured: `${median(times).toFixed(0)} ms`,
    wanted: 'for comparison',
  };
}

async function onScreen(running, tags) {
  const { chromium } = createRequire(join(root, 'e2e/package.json'))('@playwright/test');
  const browser = await chromium.launch({ executablePath: await ensureChromium(), args: FLAGS });
  try {
    const context = await browser.newContext({
      viewport: { width: 1280, height: 800 },
      baseURL: running.base.replace('[::1]', 'localhost'),
    });
    const person = { name: 'viewer', password: 'look-only-1' };
    await context.request.post('/api/session', { data: person });
    const page = await context.newPage();
    await page.goto(`/compare?positions=${tags.join(',')}`);
    await page.getByRole('table', { name: 'Peers side by side' }).waitFor();
    await page.waitForTimeout(1000);
    await moved(page, WAYS.down);
    const rows = [];
    for (const way of Object.keys(WAYS)) rows.push(row(way, await moved(page, WAYS[way])));
    await page.setContent(standingPage());
    rows.push(row('down, a page that only stands there', await moved(page, WAYS.down)));
    return rows;
  } finally {
    await browser.close();
  }
}

/** What this machine's Chromium makes of the same moves when there is nothing to do but to show it. */
function standingPage() {
  const cells = Array.from(
    { length: PEERS },
    (_, at) => `<span style="position:absolute;left:${390 + at * 104}px">5.0 s</span>`,
  ).join('');
  const line = (at) =>
    `<div style="position:absolute;top:${at * 30}px;height:30px;width:4550px">P${at} Ramp time${cells}</div>`;
  const lines = Array.from({ length: PARAMETERS }, (_, at) => line(at)).join('');
  return `<div role="table" style="height:630px;overflow:auto;background:#fff;font:14px monospace">
    <div style="position:relative;width:4550px;height:${PARAMETERS * 30}px">${lines}</div></div>`;
}

/**
 * The table is moved once in each frame, there and back. Taken are the time until the next frame comes, and the time
 * that the page itself works in it, up to the moment when it has been handed over to be drawn.
 */
async function moved(page, by) {
  return page.evaluate(
    async ({ by, count }) => {
      const table = document.querySelector('[role=table]');
      const next = () => new Promise((resolve) => requestAnimationFrame(resolve));
      const [waits, works] = [[], []];
      let sign = 1;
      let last = await next();
      for (let frame = 0; frame < count; frame += 1) {
        const began = performance.now();
        const before = `${table.scrollTop} ${table.scrollLeft}`;
        table.scrollBy({ top: sign * by.top, left: sign * by.left, behavior: 'instant' });
        if (`${table.scrollTop} ${table.scrollLeft}` === before) sign = -sign;
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => works.push(performance.now() - began);
        port2.postMessage(null);
        const now = await next();
        waits.push(now - last);
        last = now;
      }
      return { waits, works };
    },
    { by, count: FRAMES },
  );
}

function row(way, { waits, works }) {
  const at = (times, share) => [...times].sort((a, b) => a - b)[Math.floor(times.length * share)].toFixed(1);
  const perSecond = (1000 * waits.length) / waits.reduce((sum, ms) => sum + ms, 0);
  return {
    what: `${PEERS} × ${PARAMETERS} scrolled ${way} (${STEP_PX} px a frame): frames a second`,
    measured: `${perSecond.toFixed(1)}, own work ${at(works, 0.5)} ms a frame, 90 % under ${at(works, 0.9)} ms`,
    wanted: '60; own work under 16.7 ms',
  };
}
