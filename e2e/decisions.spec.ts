import { expect, test } from '@playwright/test';
import { signIn, tile } from './plant.ts';

test('a drift is found, decided, proposed by one person and signed by another', async ({ browser }) => {
  const technician = await (await browser.newContext()).newPage();
  await signIn(technician, 'technician');
  await technician.goto('/positions/GL-PU-01');
  const rows = technician.locator('[data-code]');
  await expect(rows).toHaveCount(2);
  // One key each: the ramp belongs into the baseline, the limit is tolerated for a while.
  await rows.filter({ hasText: 'RA1' }).press('i');
  await technician.getByLabel(/Take in/).fill('Nozzles want the short ramp');
  await technician.getByRole('button', { name: 'Decide' }).click();
  await rows.filter({ hasText: 'RB2' }).press('t');
  await technician.getByRole('button', { name: 'Decide' }).click();
  await expect(technician.getByRole('alert')).toContainText('Say why');
  await technician.getByLabel(/Tolerate/).fill('Until the new pump wheel');
  await technician.getByRole('button', { name: 'Decide' }).click();
  await expect(rows.filter({ hasText: 'RB2' })).toContainText('tolerated until');
  await expect(technician.getByText('Decided: 1 into the baseline, 1 tolerated')).toBeVisible();
  // Unfinished decisions are still there after leaving.
  await technician.reload();
  await technician.getByRole('button', { name: 'Finish these decisions' }).click();
  await expect(technician.getByText('Revision 3 of the baseline waits for its signature.')).toBeVisible();
  await expect(technician.getByRole('button', { name: /Sign revision/ })).toHaveCount(0);

  const engineer = await (await browser.newContext()).newPage();
  await signIn(engineer, 'engineer');
  await engineer.goto('/positions/GL-PU-01');
  await expect(engineer.getByText('Nozzles want the short ramp')).toBeVisible();
  await engineer.getByRole('button', { name: 'Sign revision 3' }).click();
  await expect(engineer.getByText('Baseline, revision 3, signed by R. Ashgrove')).toBeVisible();
  await expect(engineer.locator('[data-code]')).toHaveCount(1);
  await expect(engineer.locator('[data-code]')).toContainText('tolerated until');
  await engineer.getByRole('link', { name: 'Register' }).click();
  await expect(tile(engineer, 'GL-PU-01')).toContainText('◇1 tolerated');
  await engineer.getByRole('link', { name: 'Logbook' }).click();
  await expect(
    engineer.getByText(
      /Signed revision 3 of the baseline, with revision 1 of the wiring: Nozzles want the short ramp/,
    ),
  ).toBeVisible();
});
