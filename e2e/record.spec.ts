// Keeping the plant's record: the register and its changes, motors, comparisons of every kind, reading off by hand.

import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { changeUnit, signIn, tile } from './plant.ts';

test('the register is filtered, sorted and shown as a table, and the address says so', async ({ page }) => {
  await signIn(page, 'viewer');
  await page.getByLabel('Model').selectOption({ label: 'Quenby S4' });
  await expect(page.locator('[data-position]')).toHaveCount(3);
  await page.getByRole('button', { name: 'Table' }).click();
  await page.getByLabel('Model').selectOption({ label: 'all models' });
  await page.getByRole('button', { name: 'State' }).click();
  await expect(
    page.getByRole('table', { name: 'Positions' }).locator('[data-position]').first(),
  ).toContainText('! Other unit answers');
  await expect(page).toHaveURL(/as=table.*sort=state/);
  await page.reload();
  await expect(page.locator('[data-position]').first()).toContainText('KL1-RD-10');
  await page.getByLabel('Filter positions').fill('stacker lift');
  await expect(page.locator('[data-position]')).toHaveCount(1);
});

test('an engineer takes in a plant list that was looked at first, and what is wrong is said by line', async ({
  page,
}) => {
  await signIn(page, 'engineer');
  await page.getByRole('button', { name: 'Change the register' }).click();
  await page.getByRole('menuitem', { name: 'Take in a plant list' }).click();
  const list = (serial: string) => ({
    name: 'kiln-2.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      `Tag;Duty;Area;Machine;Type;Rating;Region;Serial;Firmware\r\nKL2-RD-01;Kiln 2 roller section 1;Kiln 2;Roller sections;HN64;HN64-15;50-hz;${serial};2.05\r\n`,
    ),
  });
  await page.getByLabel('Plant list').setInputFiles(list('6,4E+06'));
  await expect(page.getByText('"6,4E+06" is no serial number. Write digits only.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Add 0 and change 0' })).toBeDisabled();
  await page.getByLabel('Plant list').setInputFiles(list('6490001'));
  await expect(page.getByText('Kiln 2 roller section 1 is added')).toBeVisible();
  await page.getByRole('button', { name: 'Add 1 and change 0' }).click();
  await expect(tile(page, 'KL2-RD-01')).toContainText('○No backup');
  // It was a mistake: it leaves the register, and its record stays.
  await tile(page, 'KL2-RD-01').getByRole('link').click();
  await page.getByRole('link', { name: 'Record' }).click();
  await page.getByLabel('Reason, for the record').fill('Kiln 2 is not built yet');
  await page.getByRole('button', { name: 'Retire KL2-RD-01' }).click();
  await expect(page.getByText('Kiln 2 is not built yet')).toBeVisible();
  await page.getByRole('link', { name: 'Register' }).click();
  await expect(tile(page, 'KL1-RD-01')).toBeVisible();
  await expect(tile(page, 'KL2-RD-01')).toHaveCount(0);
  // What is retired is still found, and its record is where it can be brought back.
  await page.goto('/?state=retired');
  await tile(page, 'KL2-RD-01').getByRole('link').click();
  await expect(page.getByRole('link', { name: 'Import a file' })).toHaveCount(0);
  await page.getByRole('link', { name: 'Record' }).click();
  await expect(page.getByRole('button', { name: 'Bring KL2-RD-01 back' })).toBeVisible();
});

test('units are found on a line, and a swap without a record is put on record', async ({ page }) => {
  await signIn(page, 'technician');
  // The notice that asks leads to its answer, with what was found filled in.
  await page.goto('/positions/KL1-RD-10');
  await page.getByRole('link', { name: 'Record the swap' }).click();
  await expect(page.getByLabel('Serial number').last()).toHaveValue(/^\d{7}$/);
  await page.goto('/register/find-units');
  await page.getByLabel('Line').selectOption('gateway-3');
  await page.getByLabel('First address').fill('9');
  await page.getByLabel('Last address').fill('12');
  await page.getByRole('button', { name: 'Search this line' }).click();
  await expect(page.getByText('4 of 4 asked, 4 found, 2 as registered')).toBeVisible({ timeout: 40_000 });
  await expect(page.locator('[data-address="12"]')).toContainText('does not answer');
  await page.locator('[data-address="10"]').getByRole('link', { name: 'Record a swap' }).click();
  await page.getByLabel('Reason, for the record').fill('Found at the yearly check');
  await page.getByRole('button', { name: 'Swap the unit of KL1-RD-10' }).click();
  await expect(page.getByText('Found at the yearly check')).toBeVisible();
  await page.getByRole('link', { name: 'KL1-RD-10' }).click();
  await expect(page.getByText('Not backed up since the swap')).toBeVisible();
  await page.getByRole('button', { name: 'Back up now' }).click();
  await expect(page.getByText('ended, 1 of 1')).toBeVisible();
});

test('two motors under one name are told apart by a name of their own', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/motors');
  const arrival = page.locator('[data-arrival="GL-BE-04"]');
  await expect(arrival).toContainText('winding resistance');
  await expect(arrival.getByRole('row').filter({ hasText: 'Winding resistance' })).toContainText('13.1 Ω');
  await arrival.getByLabel(/give it a name of its own/).fill('Belt gear motor 0.75 kW, rewound');
  await arrival.getByRole('button', { name: 'Take it into the library' }).click();
  await expect(page.locator('[data-arrival="GL-BE-04"]')).toHaveCount(0);
  await expect(page.locator('[data-motor="Belt gear motor 0.75 kW, rewound"]')).toContainText('GL-BE-04');
});

test('the unit itself is compared as it is now, and nothing of it is kept', async ({ page }) => {
  await changeUnit(6_401_100 + 4 * 37, { values: { '01R': 1500 } });
  await signIn(page, 'viewer');
  await page.goto('/positions/KL1-RD-04');
  await expect(page.getByText('No differences: B holds what A holds.')).toBeVisible();
  await page.getByRole('button', { name: 'the unit itself, now' }).click();
  await expect(page.locator('[data-code]')).toHaveCount(1);
  await expect(page.locator('[data-code]')).toContainText('+7.00 s');
  await expect(page.getByText(/read at .*, 1 difference/)).toBeVisible();
  await changeUnit(6_401_100 + 4 * 37, { values: { '01R': 800 } });
  await page.getByRole('button', { name: 'Read it again' }).click();
  await expect(page.getByText(/read at .*, 0 differences/)).toBeVisible();
});

test('three ways, over the years, and across models', async ({ page }) => {
  await signIn(page, 'viewer');
  await page.goto('/positions/KL1-CA-01');
  await page.getByLabel('three ways').click();
  await expect(page.getByRole('table', { name: 'Three ways' }).locator('[data-code="FM04"]')).toContainText(
    /50\.0 Hz.*60\.0 Hz/,
  );
  await page.goto('/positions/KL1-RD-07/parameters/01R');
  await page.getByLabel(/with the 11 peers/).click();
  await expect(page).toHaveURL(/peers=yes/);
  await expect(
    page.getByRole('listitem').filter({ hasText: 'Tiles slip at the start: longer ramp' }),
  ).toBeVisible();
  await expect(page.getByRole('img', { name: 'Acceleration time over time' }).locator('path')).toHaveCount(
    13,
  );
  await page.goto('/compare/two');
  await page.getByLabel('A', { exact: true }).fill('BP-AG-01');
  await page.getByLabel('B', { exact: true }).fill('GL-BE-03');
  await expect(page.locator('[data-meaning="motor.ratedPower"]')).toContainText(/2200 W.*750 W/);
  // 2.3 Hz of a plate's slip of 2.33 Hz, against a share of the slip.
  const slip = page.locator('[data-meaning="motor.slipCompensation"]');
  await expect(slip).toContainText(/99 %.*0 %/);
  await slip.getByRole('button').first().click();
  await expect(slip).toContainText(/2\.3 Hz/);
});

test('a comparison is printed with its hashes and signatures', async ({ page }, info) => {
  await signIn(page, 'viewer');
  await page.goto('/positions/KL1-RD-07');
  await page.getByRole('button', { name: 'Save this comparison' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Comparison record, PDF' }).click(),
  ]);
  const file = info.outputPath(download.suggestedFilename());
  await download.saveAs(file);
  expect(readFileSync(file).subarray(0, 5).toString()).toBe('%PDF-');
  await page.getByRole('button', { name: 'Link' }).click();
  await expect(page.getByLabel('Link to this comparison')).toHaveValue(/a=baseline%3A3&b=backup%3A/);
});

test('a keypad-only unit is read off on a phone without a network, and becomes a backup later', async ({
  browser,
}) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  await signIn(page, 'technician');
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  // The second visit is the one that the service worker takes along.
  await page.goto('/positions/BP-AG-02');
  await page.getByRole('link', { name: 'Read off at the keypad' }).click();
  await expect(page.getByText('0 of 84')).toBeVisible();
  await page.reload();
  await expect(page.getByText('0 of 84')).toBeVisible();

  await context.setOffline(true);
  await page.getByRole('button', { name: '1/01 as default' }).click();
  await expect(page.getByText('1 on this device only')).toBeVisible();
  const line = (code: string) => page.locator(`[data-code="${code}"]`);
  await line('1/04').getByRole('button', { expanded: false }).first().click();
  await page.getByRole('button', { name: '9', exact: true }).click();
  await page.getByRole('button', { name: '9', exact: true }).click();
  await page.getByRole('button', { name: '9', exact: true }).click();
  await page.getByRole('button', { name: 'Enter' }).click();
  await expect(line('1/04').getByRole('alert')).toContainText(
    '999.0 Hz is above the maximum value, 120.0 Hz',
  );
  for (let at = 0; at < 3; at += 1) await page.getByLabel('Delete the last digit').click();
  for (const key of ['6', '0']) await page.getByRole('button', { name: key, exact: true }).click();
  await page.getByRole('button', { name: 'Enter' }).click();
  await expect(line('1/04')).toContainText('60.0 Hz');
  // The phone is put away: the page comes back without a network, with what was entered.
  await page.reload();
  await expect(page.getByText('2 of 84')).toBeVisible();
  await expect(line('1/04')).toContainText('60.0 Hz');
  await expect(page.getByRole('button', { name: 'Keep 2 values as a backup' })).toBeDisabled();

  await context.setOffline(false);
  await expect(page.getByText('All of it is on the server.')).toBeVisible({ timeout: 30_000 });
  const rest = page.getByRole('button', { name: /(All|The other \d+) as default/ });
  while ((await rest.count()) > 0) await rest.first().click();
  await expect(page.getByText('84 of 84')).toBeVisible();
  await page.getByRole('button', { name: 'Keep 84 values as a backup' }).click();
  await expect(page.getByText('Read off by T. Pellow')).toBeVisible();
  await context.close();
});
