// Checks and calculators: a finding mended by a write plan, one accepted for a while, and the sums behind them.

import { expect, test } from '@playwright/test';
import { changeUnit, signIn, tile } from './plant.ts';

/** Its current limit is more than normal duty bears. */
const BALL_MILL = 6_402_871;

test('a finding is found on the register, mended by a plan, and gone when the unit was read back', async ({
  page,
}) => {
  await changeUnit(BALL_MILL, { runContact: false });
  await signIn(page, 'technician');
  await page.getByRole('button', { name: /with findings$/ }).click();
  await expect(page).toHaveURL(/findings=open/);
  await expect(tile(page, 'BP-SP-01')).toHaveCount(0);
  await tile(page, 'BP-BM-01').getByRole('link').click();
  await page.getByRole('link', { name: 'Checks: 1' }).click();
  await expect(page.getByRole('heading', { name: '1 to look at' })).toBeVisible();
  await expect(
    page.getByText('The current limit is 170 %, and the unit bears 120 % for a minute in normal duty.'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Plan: 19R to 120 %' }).click();
  await expect(
    page.getByText(/Against what the unit was last seen to hold: 1 finding fewer, none new/),
  ).toBeVisible();
  await page.getByRole('button', { name: /is stopped and safe to write to/ }).click();
  await page.getByRole('button', { name: /^Write 1 value/ }).click();
  await page.getByRole('button', { name: 'Write now' }).click();
  await expect(page.getByText(/^✓ 1 value written, read back/)).toBeVisible({ timeout: 30_000 });
  await page.goto('/positions/BP-BM-01/checks');
  await expect(page.getByRole('heading', { name: 'Nothing open in what could be checked' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Checks', exact: true })).toBeVisible();
});

test('an engineer accepts a finding until a day, and the register counts it no more', async ({ page }) => {
  await signIn(page, 'engineer');
  await page.goto('/positions/SP-OB-01/checks');
  await page.getByRole('button', { name: /^Accept: Input 5 at 27/ }).click();
  await page.getByLabel('Why it may stay so').fill('The button goes with the next shutdown');
  await page.getByRole('button', { name: 'Accept', exact: true }).click();
  await expect(page.getByText(/^Accepted until .* by R. Ashgrove: The button goes/)).toBeVisible();
  await page.goto('/?findings=open');
  await expect(tile(page, 'SP-OB-02')).toHaveCount(1);
  await expect(tile(page, 'SP-OB-01')).toHaveCount(0);
  await page.goto('/logbook');
  await expect(
    page.getByText(/Accepted until .*The button goes with the next shutdown/).first(),
  ).toBeVisible();
});

test('the calculators begin with the numbers of a position and go on with what is typed', async ({
  page,
}) => {
  await signIn(page, 'viewer');
  await page.goto('/positions/KL1-FD-01/checks');
  await page
    .locator('[data-finding="signal-sender signal 2"]')
    .getByRole('link', { name: 'Signal calculator' })
    .click();
  await expect(page.getByLabel('Measured', { exact: true })).toHaveValue('-50');
  // 4 to 20 mA read as 0 to 20: the middle of the range is seen as 60 %.
  await expect(page.getByLabel('Drive sees')).toHaveValue('60');
  await page.getByLabel('Drive reads').selectOption('4-20-ma');
  await expect(page.getByLabel('Drive sees')).toHaveValue('50');
  await page.getByLabel('Measured', { exact: true }).fill('-35');
  await expect(page.getByLabel('Sender gives').last()).toHaveValue('14.4');
  await page.goto('/positions/GL-BE-01/checks');
  await page.getByRole('link', { name: 'Motor calculator' }).click();
  await expect(page.getByRole('row', { name: /Rated torque/ })).toContainText('2.542 Nm');
  await page.getByLabel('Speed').fill('2800');
  await expect(page.getByRole('row', { name: /Poles/ })).toContainText('2');
  await expect(page).toHaveURL(/speed=2800/);
});
