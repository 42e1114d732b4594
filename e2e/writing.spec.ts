// Writing: a reset of the wrong-region fan and back, a plan that breaks off and is gone on with, and the sheet for fingers.

import { expect, test, type Page } from '@playwright/test';
import { AxeBuilder } from '@axe-core/playwright';
import { changeUnit, signIn } from './plant.ts';

const FAN = 3_300_410;
const SECTION_FOUR = 6_401_100 + 4 * 37;

async function carryOut(page: Page, name: RegExp): Promise<void> {
  await page.getByRole('button', { name: /is stopped and safe to write to/ }).click();
  await expect(page.getByText('T. Pellow stated that the machine is stopped')).toBeVisible();
  await page.getByRole('button', { name }).click();
  await page.getByRole('button', { name: 'Write now' }).click();
}

test('the fan that was reset for the wrong region is reset, gets back what the baseline wants, and can be taken back', async ({
  page,
}) => {
  await changeUnit(FAN, { runContact: false });
  await signIn(page, 'technician');
  await page.goto('/positions/KL1-CA-01');
  await page.getByRole('button', { name: 'Back up now' }).click();
  await expect(page.getByText(/parameters\./).first()).toBeVisible({ timeout: 30_000 });
  await page.goto('/positions/KL1-CA-01');
  await page.getByRole('link', { name: 'Reset' }).click();
  await expect(page.getByText(/holds the defaults of the other region, 60 Hz, imperial/)).toBeVisible();
  await expect(page.getByLabel('50 Hz, metric')).toBeChecked();
  // Another region would leave the same base frequency and lose it against the baseline.
  // The choice stands in the address, and a busy machine takes a moment to follow it.
  await page.getByLabel('60 Hz, imperial').click();
  await expect(page).toHaveURL(/region=60-hz/);
  await expect(page.getByLabel('60 Hz, imperial')).toBeChecked();
  await page.getByLabel('50 Hz, metric').click();
  await expect(page.getByLabel('50 Hz, metric')).toBeChecked();
  await expect(page.getByRole('row', { name: /FL01/ })).toContainText('60.0 s');
  await expect(page.getByLabel('Put back FL01')).toBeChecked();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.getByRole('button', { name: /^Plan the reset with \d+ lines put back/ }).click();
  await expect(page.getByRole('heading', { name: /^Reset of KL1-CA-01/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /FU03/ })).toContainText('takes 2.5 s');
  await carryOut(page, /^Reset KL1-CA-01 and write \d+ values/);
  await expect(
    page.getByText(/^✓ Reset, defaults proven\. \d+ values written, read back, saved/),
  ).toBeVisible({
    timeout: 30_000,
  });
  await page.getByRole('link', { name: 'Look at the position' }).click();
  await expect(page.getByText('As signed').first()).toBeVisible();
  await page.goBack();
  await page.getByRole('button', { name: 'Plan the way back' }).click();
  await expect(page.getByRole('heading', { name: /^The way back for KL1-CA-01/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /FM04/ })).toContainText('60.0 Hz');
});

test('a plan that a power cut has broken off says what the unit holds, and is gone on with', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await changeUnit(SECTION_FOUR, { runContact: false, values: { '01R': 2222, '10C': 1111, '05R': 333 } });
  await page.goto('/positions/KL1-RD-04');
  await page.getByRole('button', { name: 'Back up now' }).click();
  await expect(page.getByText(/parameters\./).first()).toBeVisible({ timeout: 30_000 });
  await page.goto('/positions/KL1-RD-04/set');
  await expect(page.getByLabel(/^Baseline, revision/)).toBeChecked();
  await page.getByRole('button', { name: 'Plan the writes' }).click();
  await expect(page.getByRole('heading', { name: /^Write plan for KL1-RD-04/ })).toBeVisible();
  // The whole unit takes six requests, each step four: the cut comes after the second step.
  await changeUnit(SECTION_FOUR, { mischief: { event: { after: 14, what: 'power-cycle' } } });
  await carryOut(page, /^Write \d+ values? to KL1-RD-04/);
  await expect(page.getByRole('alert')).toContainText('0 of 2 written values are in the unit', {
    timeout: 30_000,
  });
  await changeUnit(SECTION_FOUR, { mischief: { event: null } });
  await expect(async () => {
    await page.getByRole('button', { name: 'Plan the rest' }).click();
    await expect(page.getByRole('heading', { name: /^The rest of a write plan/ })).toBeVisible({
      timeout: 3000,
    });
  }).toPass({ timeout: 30_000 });
  await carryOut(page, /^Write \d+ values? to KL1-RD-04/);
  await expect(page.getByText(/values? written, read back, saved permanently/)).toBeVisible({
    timeout: 30_000,
  });
});

test('a key-in sheet goes on without a network on a phone, and its marks arrive later', async ({
  browser,
}) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  await signIn(page, 'technician');
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await page.goto('/positions/BP-AG-03/set');
  await page.getByLabel(/^Defaults/).check();
  await page.getByRole('button', { name: 'Make a key-in sheet' }).click();
  await expect(page.getByText(/key presses/)).toBeVisible();
  // The second visit is the one that the service worker takes along.
  await page.reload();
  await expect(page.getByText(/key presses/)).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  const lines = page.locator('[data-code]:visible');
  const total = await lines.count();
  expect(total).toBeGreaterThan(3);

  await context.setOffline(true);
  await lines
    .nth(0)
    .getByRole('button', { name: /is keyed in$/ })
    .click();
  await lines
    .nth(1)
    .getByRole('button', { name: /^Note for/ })
    .click();
  await page.getByRole('textbox', { name: /^Note for/ }).fill('Cover sits tight');
  await page.keyboard.press('Tab');
  await expect(page.getByText('2 marks on this device only')).toBeVisible();
  await page.reload();
  await expect(page.getByText(`1 of ${total}`)).toBeVisible();
  await expect(page.getByText('Cover sits tight')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Finish the sheet' })).toBeDisabled();

  await context.setOffline(false);
  await expect(page.getByText('All marks are on the server.')).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Finish the sheet' }).click();
  await expect(page.getByText(/Finished by T. Pellow/)).toBeVisible();
  await context.close();
});

test('the file of one axis is refused for another, and all axes of the stacker are loaded in one go', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/positions/SP-ST-02');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    (async () => {
      await page.getByRole('button', { name: /^Save B/ }).click();
      await page.getByRole('menuitem', { name: 'CSV' }).click();
    })(),
  ]);
  await page.goto('/positions/SP-ST-01/import');
  await page.getByLabel('File with a parameter set').setInputFiles(await download.path());
  await expect(
    page.getByText(/This is a set of SP-ST-02, not of SP-ST-01: 2030:04, 2060:01 are/),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep as a set of SP-ST-01' })).toBeDisabled();

  for (const tag of ['SP-ST-01', 'SP-ST-02', 'SP-ST-03']) {
    await page.goto(`/positions/${tag}`);
    await page.getByRole('button', { name: 'Back up now' }).click();
    await expect(page.getByText(/parameters\./).first()).toBeVisible({ timeout: 30_000 });
  }
  await page.goto('/positions/SP-ST-01');
  await page.getByRole('link', { name: 'All axes' }).click();
  await expect(page.getByRole('heading', { name: 'All axes of Stacker' })).toBeVisible();
  await page.getByLabel(/^Go back/).check();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.getByRole('button', { name: 'Plan the load of 3 axes' }).click();
  await expect(page.getByRole('heading', { name: 'Load the axes of Stacker' })).toBeVisible();
  await page.getByRole('button', { name: /Stacker is stopped and safe to write to/ }).click();
  await page.getByRole('button', { name: 'Load 3 axes' }).click();
  await page.getByRole('button', { name: 'Load them now' }).click();
  await expect(
    page.getByText(/All 3 axes are written, saved and proven; the controller is ready/),
  ).toBeVisible({
    timeout: 45_000,
  });
});
