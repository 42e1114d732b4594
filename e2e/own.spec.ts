// From an empty folder to the first backup of one's own drive: a firmware that no installation knows, with a list and two pages
// of a manual, on a gateway that passes RTU frames through. Nothing of the demo, and no hand in the database.

import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { expect, test, type Page } from '@playwright/test';

const root = join(import.meta.dirname, '..');
const seventh = join(import.meta.dirname, 'seventh');
const port = 8496;
const SERIAL = 90_012_345;
const PASSWORD = 'belt-and-fan-room';

/** What page 41 and 42 of the manual say, as somebody types it. */
const LINE = `line:
  word_order: low-first
  largest_read: 20
  bridge_gaps: false
  reserved: [{ from: 112, to: 199 }]
  only_function_16: true
  identity:
    model: { register: 899, value: 9009 }
    rating: 900
    firmware: 901
    serial: 902
  status: { register: 909, running: 2, fault: 5 }
  save: { register: 989, value: 1, busy_ms: 600 }
  restart: { register: 990, value: 2, busy_ms: 1200 }
`;
const RATINGS = `ratings:
  - { id: OD9-22, number: 22, name: '2.2 kW, 5.6 A', facts: { rated_current: '5.6' } }
`;

const children: ChildProcess[] = [];
let data: string;
let control: number;
let gateway: number;
let oneTime: string;

/** The first line of a program that fits. */
function started(args: readonly string[], fits: RegExp): Promise<string> {
  const env = { ...process.env, DRIVE_KEEP_TEST: '1' };
  const child = spawn(process.execPath, args, { env, stdio: ['ignore', 'pipe', 'inherit'] });
  children.push(child);
  return new Promise((resolve, reject) => {
    child.once('exit', (code) => reject(new Error(`${args[0] ?? ''} ended with ${String(code)}`)));
    createInterface({ input: child.stdout }).on('line', (line) => {
      if (fits.test(line)) resolve(line);
    });
  });
}

test.beforeAll(async () => {
  // A database is made first.
  test.setTimeout(180_000);
  data = mkdtempSync(join(tmpdir(), 'drive-keep-own-'));
  const simulator = join(root, 'packages/plant-sim/dist/main.js');
  const plant = join(seventh, 'plant.json');
  const ports = await started([simulator, '--plant', plant, '--models', join(seventh, 'models')], /"lines"/);
  ({
    control,
    lines: { yard: gateway },
  } = JSON.parse(ports) as { control: number; lines: { yard: number } });
  const start = join(root, 'scripts/start.mjs');
  const line = await started([start, '--plain', '--port', String(port), '--data', data], /one-time password/);
  oneTime = /one-time password (\S+)/.exec(line)?.[1] ?? '';
});

test.afterAll(async () => {
  for (const child of children.reverse()) {
    const over = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGINT');
    await over;
  }
  rmSync(data, { recursive: true, force: true });
});

test.use({ baseURL: `http://127.0.0.1:${port}` });

/** What the keypad of the drive shows, by code: raw values of its memory. */
async function keypad(): Promise<Readonly<Record<string, number>>> {
  const response = await fetch(`http://127.0.0.1:${control}/units`);
  const [unit] = (await response.json()) as { permanent: Record<string, number> }[];
  return unit?.permanent ?? {};
}

const firstSteps = (page: Page) => page.getByRole('region', { name: 'First steps' });
const openStep = (page: Page, name: string) => firstSteps(page).getByRole('link', { name });

test('a technician with one drive, its spreadsheet and a network cable has a kept, compared, restorable backup', async ({
  page,
}) => {
  test.setTimeout(300_000);

  await test.step('the first engineer chooses a password and sees what comes next', async () => {
    await page.goto('/');
    await page.getByLabel('Name').fill('engineer');
    await page.getByLabel('Password').fill(oneTime);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.getByLabel('One-time password').fill(oneTime);
    await page.getByLabel('New password').fill(PASSWORD);
    await page.getByRole('button', { name: 'Keep the new password' }).click();
    await expect(firstSteps(page)).toBeVisible();
    await expect(firstSteps(page).getByRole('link')).toHaveCount(8);
  });

  await test.step('the plant gets its name', async () => {
    await openStep(page, 'Name the plant').click();
    await page.getByLabel('Name of the plant').fill('Yard');
    await page.getByLabel('Address at which people reach it').fill('https://drives.yard.local');
    await page.getByRole('button', { name: 'Keep the changes' }).click();
    await expect(page.getByText('✓ Kept')).toBeVisible();
    await expect(page.getByRole('link', { name: 'Yard' })).toBeVisible();
  });

  await test.step('a line is tried with the wrong frames, then with the right ones, and kept', async () => {
    await page.goto('/');
    await openStep(page, 'Add a line').click();
    await page.getByLabel('Name', { exact: true }).fill('yard gateway');
    await page.getByLabel('Address of the gateway').fill('127.0.0.1');
    await page.getByLabel('Port').fill('1');
    await page.getByLabel('Waits for an answer').fill('200');
    await page.getByRole('button', { name: 'Try it first' }).click();
    await expect(page.getByText('Nothing accepts a connection at 127.0.0.1:1.')).toBeVisible();
    await page.getByLabel('Port').fill(String(gateway));
    await page.getByLabel('Frames').selectOption('rtu');
    await page.getByLabel('Registers at once').fill('20');
    await page.getByRole('button', { name: 'Try it first' }).click();
    await expect(page.getByText(/Answers in \d+ ms; 1 unit found at 7/)).toBeVisible({ timeout: 30_000 });
    await page.getByRole('button', { name: 'Keep the line' }).click();
    await expect(page.locator('[data-line="yard gateway"]')).toContainText('RTU frames');
  });

  await test.step('the maker’s list becomes a draft', async () => {
    await page.goto('/');
    await openStep(page, 'Bring a model').click();
    await page.getByLabel('File with a parameter list').setInputFiles(join(seventh, 'manual.xlsx'));
    await page.getByLabel('Maker').fill('Ostrand');
    await page.getByLabel('Model').fill('OD 9');
    await page.getByLabel('Firmware from').fill('5.00');
    await page.getByLabel('Firmware to').fill('5.20');
    await expect(page.getByText('36 parameters')).toBeVisible();
    await expect(page.getByText('Nothing is wrong with it.')).toBeVisible();
    await page.getByRole('button', { name: 'Complete it first' }).click();
    await expect(page.getByRole('heading', { name: 'Ostrand OD 9', level: 1 })).toBeVisible();
    await expect(page.getByText('No line: units are read off at the keypad')).toBeVisible();
  });
  const draft = new URL(page.url()).pathname;

  await test.step('at the drive the assistant finds how the maker counts', async () => {
    await page.getByRole('link', { name: 'Try it at a unit' }).click();
    await page.getByLabel('Address on the line').fill('7');
    const shown = await keypad();
    const asked = [
      ['40104', ((shown['b-04'] ?? 0) / 10).toFixed(1)],
      ['40105', ((shown['b-05'] ?? 0) / 10).toFixed(1)],
      ['40203', ((shown['m-03'] ?? 0) / 10).toFixed(1)],
    ] as const;
    for (const [at, [number, text]] of asked.entries()) {
      await page.getByLabel(`Number in the manual, ${at + 1}`).fill(number);
      await page.getByLabel(`Keypad shows, ${at + 1}`).fill(text);
    }
    await page.getByRole('button', { name: 'Find out' }).click();
    const best = page.getByRole('listitem').filter({ hasText: 'Explains 3 of 3' }).first();
    await expect(best).toContainText('Counted from 40001: number 40001 is address 0, holding registers');
    await best.getByRole('button', { name: 'Count all registers of the draft like this' }).click();
    await expect(page.getByText('31 registers are numbered anew; 5 it does not reach')).toBeVisible();
    // The display stands in input registers.
    await page.getByLabel('Number in the manual, 1').fill('30003');
    await page.getByLabel('Keypad shows, 1').fill('566');
    for (const at of [2, 3]) await page.getByLabel(`Number in the manual, ${at}`).fill('');
    await page.getByRole('button', { name: 'Find out' }).click();
    const input = page.getByRole('listitem').filter({ hasText: 'Counted from 30001' }).first();
    await input.getByRole('button', { name: 'Count all registers of the draft like this' }).click();
    await expect(page.getByText('5 registers are numbered anew')).toBeVisible();
    await expect(page.getByText(/✓ Draft as of/)).toBeVisible();
  });

  await test.step('the manual’s two pages complete it, wrong at first', async () => {
    await page.goto(draft);
    await page.getByLabel('Line as text').fill(LINE.replace('value: 9009', 'value: none'));
    await expect(page.getByText(/line\.identity\.model\.value/)).toBeVisible();
    await page.getByLabel('Line as text').fill(LINE.replace('low-first', 'high-first'));
    await page.getByLabel('Ratings as text').fill(RATINGS);
    await expect(page.getByText(/✓ Draft as of/)).toBeVisible();
    await page.getByRole('link', { name: 'Try it at a unit' }).click();
    await page.getByLabel('Address on the line').fill('7');
    await page.getByRole('button', { name: 'Read all parameters' }).click();
    // The other word order is seen before anything is kept: the running time limit lies outside its range.
    await expect(page.getByText('36 answered')).toBeVisible({ timeout: 30_000 });
    await expect(page.getByText('1 lie outside their range')).toBeVisible();
    await page.goto(draft);
    await page.getByLabel('Word order').selectOption('low-first');
    await expect(page.getByLabel('Line as text')).toHaveValue(/word_order: low-first/);
    await expect(page.getByText(/✓ Draft as of/)).toBeVisible();
    await page.getByRole('link', { name: 'Try it at a unit' }).click();
    await page.getByLabel('Address on the line').fill('7');
    await page.getByRole('button', { name: 'Read all parameters' }).click();
    await expect(page.getByText('0 were refused, 0 lie outside their range, 0 have no register')).toBeVisible(
      {
        timeout: 30_000,
      },
    );
    await expect(page.getByText(`Serial number: ${SERIAL}`)).toBeVisible();
    await page.getByLabel('Keypad shows at b-05').fill('8.5');
    await page.getByLabel('Keypad shows at b-06').fill('11.0');
    await expect(page.getByText('1 of 2 compared differ from the keypad')).toBeVisible();
  });

  await test.step('it is kept, and its unit is found and taken into the register', async () => {
    await page.goto(draft);
    await page.getByRole('button', { name: 'Keep as ostrand-od-9@1' }).click();
    await expect(page).toHaveURL(/\/models\/ostrand-od-9@1/);
    await page.goto('/');
    await openStep(page, 'Find units').click();
    await page.getByLabel('Last address').fill('9');
    await page.getByRole('button', { name: 'Search this line' }).click();
    const found = page.locator('[data-address="7"]');
    await expect(found).toContainText(`Ostrand OD 9 OD9-22, serial ${SERIAL}, firmware 5.12`, {
      timeout: 40_000,
    });
    await found.getByRole('link', { name: 'Take into the register' }).click();
    await page.getByLabel('Tag').fill('YD-FN-01');
    await page.getByLabel('Duty').fill('Yard fan');
    await page.getByLabel('Area').fill('Yard');
    await page.getByLabel('Machine').fill('Fans');
    await page.getByRole('button', { name: 'Add the position' }).click();
    await expect(page.getByRole('heading', { name: /YD-FN-01/ })).toBeVisible();
  });

  await test.step('the first backup is kept and signed as what the drive should hold', async () => {
    await page.getByRole('button', { name: 'Back up now' }).click();
    await expect(page.getByText(/31 parameters/).first()).toBeVisible({ timeout: 30_000 });
    await page.goto('/positions/YD-FN-01');
    await page.getByLabel('Reason').fill('As commissioned');
    await page.getByRole('button', { name: 'Propose the newest backup as baseline' }).click();
    await page.getByRole('button', { name: 'Sign revision 1' }).click();
    await expect(page.getByText('As signed').first()).toBeVisible();
  });

  await test.step('somebody changes it at the keypad: drift, seen and put back over the line', async () => {
    const change = { values: { 'b-05': 40 } };
    await fetch(`http://127.0.0.1:${control}/units/${SERIAL}`, {
      method: 'PATCH',
      body: JSON.stringify(change),
    });
    await page.goto('/positions/YD-FN-01');
    await page.getByRole('button', { name: 'Back up now' }).click();
    await expect(page.getByText(/31 parameters/).first()).toBeVisible({ timeout: 30_000 });
    await page.goto('/positions/YD-FN-01');
    await expect(page.getByText('1 difference').first()).toBeVisible();
    await page.locator('[data-code="b-05"]').press('p');
    await page.getByRole('button', { name: 'Finish these decisions' }).click();
    await expect(page.getByRole('heading', { name: /^Write plan for YD-FN-01/ })).toBeVisible();
    await page.getByRole('button', { name: /is stopped and safe to write to/ }).click();
    await page.getByRole('button', { name: /^Write 1 value/ }).click();
    await page.getByRole('button', { name: 'Write now' }).click();
    await expect(page.getByText(/1 value written, read back, saved permanently/)).toBeVisible({
      timeout: 30_000,
    });
    await expect.poll(async () => (await keypad())['b-05'], { timeout: 30_000 }).toBe(85);
    await page.goto('/positions/YD-FN-01');
    await expect(page.getByText('As signed').first()).toBeVisible({ timeout: 30_000 });
  });

  await test.step('and what comes next is told until all is done', async () => {
    await page.goto('/');
    await expect(firstSteps(page).getByRole('link')).toHaveCount(2);
    await expect(openStep(page, 'Add people')).toBeVisible();
    await expect(openStep(page, 'Make a round')).toBeVisible();
    expect(readFileSync(join(seventh, 'manual.md'), 'utf8')).toContain('the lower word in the first');
  });
});
