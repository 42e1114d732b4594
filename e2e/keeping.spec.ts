import { expect, test } from '@playwright/test';
import { signIn } from './plant.ts';

test('peers stand side by side, and the odd one out is marked', async ({ page }) => {
  await signIn(page, 'viewer');
  await page.getByRole('link', { name: 'Compare' }).click();
  await page.getByLabel('Drives of the same duty').selectOption({ label: 'Glazing, Glazing belts (HN64)' });
  await expect(page.getByRole('columnheader', { name: /GL-BE-03/ })).toBeVisible();
  await expect(page).toHaveURL(/positions=GL-BE-03%2CGL-BE-04/);
  await page.getByLabel('Drives of the same duty').selectOption({ label: 'Body preparation, Slip pumps' });
  await expect(page.getByRole('columnheader', { name: /BP-SP-03/ })).toContainText('✓');
  await expect(page.getByRole('row').filter({ hasText: 'FN01 Network address' })).toContainText(
    'each its own',
  );
});

test('a round is made by an engineer and shows when it runs, and last night’s says what failed', async ({
  page,
}) => {
  await signIn(page, 'engineer');
  await page.getByRole('link', { name: 'Rounds' }).click();
  await expect(page.getByText(/every day at 02:00 · 38 units/)).toBeVisible();
  await expect(page.getByText('KL1-RD-12 did not answer within 1 s').first()).toBeVisible();
  await page.getByRole('button', { name: 'Make a round' }).click();
  await page.getByLabel('Name').fill('Kiln at noon');
  await page.getByLabel('At', { exact: true }).fill('12:00');
  await page.getByLabel('Area').selectOption('Kiln 1');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByText(/every day at 12:00 · 15 units \(Kiln 1\)/)).toBeVisible();
  await expect(page.getByText('It has not run yet.')).toBeVisible();
});

test('everything that was kept can be checked', async ({ page }) => {
  await signIn(page, 'engineer');
  await page.getByRole('link', { name: 'Logbook' }).click();
  await page.getByRole('button', { name: 'Check everything that was kept' }).click();
  await expect(
    page.getByText(/contents and \d+ rows of evidence, all as they were kept/).first(),
  ).toBeVisible();
});
