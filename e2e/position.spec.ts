import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { changeUnit, SECTION_SEVEN, signIn, tile } from './plant.ts';

const rows = (page: Page) => page.locator('[data-code]');

test('section 7 shows its four differences, in words, with the people and reasons behind them', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await tile(page, 'KL1-RD-07').getByRole('link').click();
  await expect(rows(page)).toHaveCount(4);
  await expect(rows(page).nth(0)).toContainText('+12.00 s (×2.5)');
  await expect(rows(page).nth(1)).toContainText('ramp → coast');
  await expect(rows(page).nth(2)).toContainText('−3.00 Hz (×0.75)');
  await expect(rows(page).nth(3)).toContainText('+2.70 A (×1.8)');
  await rows(page).nth(3).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('T. Pellow: Motor replaced')).toBeVisible();
  await expect(page.getByText('0.20 A to 10.80 A')).toBeVisible();
});

test('the keyboard alone is enough: filter, move, decide, undo', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/positions/KL1-RD-07');
  await expect(rows(page)).toHaveCount(4);
  await page.keyboard.press('/');
  await page.keyboard.type('ramp up');
  await expect(rows(page)).toHaveCount(1);
  await expect(page).toHaveURL(/find=ramp\+up/);
  await rows(page).first().focus();
  await page.keyboard.press('p');
  await expect(page.getByText('Decided: 1 goes back')).toBeVisible();
  await page.keyboard.press('u');
  await expect(page.getByText('Decided:')).toBeHidden();
});

test('the handles of the history strip choose what is compared, by key and by hand', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/positions/KL1-RD-07');
  const b = page.getByRole('slider', { name: 'Handle B' });
  await expect(b).toHaveAttribute('aria-valuetext', /backup of/);
  await b.focus();
  for (let presses = 0; presses < 3; presses += 1) await page.keyboard.press('ArrowLeft');
  await expect(page).toHaveURL(/b=backup/);
  await expect(rows(page)).not.toHaveCount(0);
  // An older backup on side B is nothing to put back from.
  await expect(rows(page).getByRole('checkbox')).toHaveCount(0);
  const a = page.getByRole('slider', { name: 'Handle A' });
  const strip = await page.getByRole('group', { name: 'History' }).boundingBox();
  const grip = await a.boundingBox();
  if (!strip || !grip) throw new Error('no strip');
  await page.mouse.move(grip.x + grip.width / 2, grip.y + 10);
  await page.mouse.down();
  await page.mouse.move(strip.x + 200, strip.y + 100, { steps: 5 });
  await page.mouse.up();
  await expect(page).toHaveURL(/a=baseline%3A1/);
  await expect(page.getByText('Baseline, revision 1, signed by R. Ashgrove')).toBeVisible();
});

test('defaults and earlier backups are one press away, and the address can be sent to a colleague', async ({
  page,
}) => {
  await signIn(page, 'viewer');
  await page.goto('/positions/KL1-RD-03');
  await expect(page.getByText('No differences: B holds what A holds.')).toBeVisible();
  await page.getByRole('group', { name: 'Choose A' }).getByRole('button', { name: 'defaults' }).click();
  await expect(page.getByText('Defaults of HN64-15, 50 Hz, metric')).toBeVisible();
  const count = await rows(page).count();
  expect(count).toBeGreaterThan(30);
  await page.getByLabel('all parameters').click();
  await expect(rows(page)).toHaveCount(197);
  await page.getByLabel('monitors and counters').click();
  await expect(rows(page)).toHaveCount(224);
  const colleague = await page.context().newPage();
  await colleague.goto(page.url());
  await expect(rows(colleague)).toHaveCount(224);
});

test('a viewer sees the differences and no way to write', async ({ page }) => {
  await signIn(page, 'viewer');
  await page.goto('/positions/KL1-RD-07');
  await expect(rows(page)).toHaveCount(4);
  await expect(rows(page).getByRole('checkbox')).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Back up now' })).toHaveCount(0);
});

async function planToPutBack(page: Page, codes: readonly string[]): Promise<void> {
  await page.goto('/positions/KL1-RD-07');
  for (const code of codes) await page.getByRole('checkbox', { name: new RegExp(`^Choose ${code}`) }).check();
  await page.getByRole('button', { name: /^Put back/ }).click();
  await page.getByRole('button', { name: 'Finish these decisions' }).click();
  await page.getByRole('button', { name: /is stopped and safe to write to/ }).click();
  await expect(page.getByText('T. Pellow stated that the machine is stopped')).toBeVisible();
  await page.getByRole('button', { name: /^Write \d/ }).click();
  await page.getByRole('button', { name: 'Write now' }).click();
}

test('putting back is refused while the unit runs, with the reason on the screen', async ({ page }) => {
  await signIn(page, 'technician');
  await changeUnit(SECTION_SEVEN, { runContact: true });
  await planToPutBack(page, ['02P']);
  await expect(page.getByRole('alert')).toContainText('KL1-RD-07 is running. Stop the machine', {
    timeout: 30_000,
  });
  await expect(page.getByRole('alert')).toContainText('Nothing was written.');
  await changeUnit(SECTION_SEVEN, { runContact: false });
});

test('putting back is refused for another serial number, with the reason on the screen', async ({ page }) => {
  await signIn(page, 'technician');
  await changeUnit(SECTION_SEVEN, { serial: 4242 });
  await planToPutBack(page, ['02P']);
  await expect(page.getByRole('alert')).toContainText('Serial number 4242 answers at KL1-RD-07', {
    timeout: 30_000,
  });
  await changeUnit(SECTION_SEVEN, { serial: SECTION_SEVEN });
});

test('four values are put back, read back and saved, the drift is gone, the logbook says so', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await planToPutBack(page, ['01R', '24R', '12C', '02P']);
  await expect(page.getByText('4 values written, read back, saved permanently.')).toBeVisible({
    timeout: 30_000,
  });
  await expect(page.getByText('✓ read back')).toHaveCount(4);
  await page.getByRole('link', { name: 'Look at the position' }).click();
  await expect(page.getByText('No differences: B holds what A holds.')).toBeVisible();
  await page.getByRole('link', { name: 'Register' }).click();
  await expect(tile(page, 'KL1-RD-07')).toContainText('As signed');
  await page.getByRole('link', { name: 'Logbook' }).click();
  // The check of the night may be told in the same minute.
  const entry = page
    .getByRole('listitem')
    .filter({ hasText: '4 values written, read back, saved permanently.' });
  await expect(entry.first()).toContainText('KL1-RD-07');
  await expect(entry.first()).toContainText('T. Pellow');
});

test('a set leaves in every format and comes back as the same', async ({ page }, info) => {
  await signIn(page, 'technician');
  for (const format of ['CSV', 'JSON', 'XLSX', 'DCF']) {
    await page.goto('/positions/KL1-RD-01');
    await page.getByRole('button', { name: 'Save B' }).click();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('menuitem', { name: format, exact: true }).click(),
    ]);
    const file = info.outputPath(download.suggestedFilename());
    await download.saveAs(file);
    if (format !== 'XLSX') expect(readFileSync(file, 'utf8')).toContain('Acceleration time');
    await page.getByRole('link', { name: 'Import a file' }).click();
    await page.getByLabel('File with a parameter set').setInputFiles(file);
    await expect(
      page.getByText(
        /195 of 195 parameters for Halvern HN64 \(halvern-hn64@1\)\. Same content as the backup of/,
      ),
    ).toBeVisible();
    await page.getByRole('button', { name: 'Keep as a set of KL1-RD-01' }).click();
    await expect(page.getByText('Imported set by T. Pellow')).toBeVisible();
    await expect(page.getByText('No differences: B holds what A holds.')).toBeVisible();
  }
});

test('a bad file is explained line by line and cannot be kept', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/positions/KL1-RD-01/import');
  const choose = (name: string, text: string | Buffer) =>
    page
      .getByLabel('File with a parameter set')
      .setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  await choose('bad.csv', 'code;value\n01R;12,5\n99X;1\n02R;=1+1\n');
  await expect(page.getByText('3 findings have to be mended in the file first.')).toBeVisible();
  for (const text of [
    'line 2',
    'Write decimals with a point',
    'line 3',
    '99X is not a code of HN64',
    'line 4',
    'holds a formula',
  ]) {
    await expect(page.getByText(text).first()).toBeVisible();
  }
  await expect(page.getByRole('button', { name: 'Keep as a set of KL1-RD-01' })).toBeDisabled();
  await choose('odd.csv', Buffer.from([0x63, 0xe4, 0xf6]));
  await expect(page.getByRole('alert')).toContainText(
    'Read as Latin-1 (Western Europe) it has words such as: cäö',
  );
});
