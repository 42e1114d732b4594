import { expect, test } from '@playwright/test';
import { changeUnit, SECTION_SEVEN, signIn, tile } from './plant.ts';

test('a wrong password is refused in words, and nothing of the plant is shown before', async ({ page }) => {
  await page.goto('/positions/KL1-RD-07');
  await expect(page.getByRole('heading', { name: 'Drive Keep' })).toBeVisible();
  await page.getByLabel('Name').fill('technician');
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toContainText('Name or password is wrong. Nobody was signed in.');
  await page.getByLabel('Password').fill('roller-table');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'KL1-RD-07' })).toBeVisible();
});

test('the register shows the whole plant with its states, each by shape and word', async ({ page }) => {
  await signIn(page, 'technician');
  await expect(page.locator('[data-position]')).toHaveCount(42);
  await expect(tile(page, 'KL1-RD-07')).toContainText('◆1 difference');
  await expect(tile(page, 'KL1-RD-10')).toContainText('!Other unit');
  await expect(tile(page, 'KL1-RD-12')).toContainText('!No answer');
  await expect(tile(page, 'KL1-RD-01')).toContainText('✓As signed');
  await page.getByRole('button', { name: '5 with differences' }).click();
  await expect(page.locator('[data-position]')).toHaveCount(5);
  await expect(page).toHaveURL(/state=drift/);
  await page.reload();
  await expect(page.locator('[data-position]')).toHaveCount(5);
});

test('a backup of all shows each unit’s own outcome and goes on while the page is left', async ({ page }) => {
  await signIn(page, 'technician');
  await page.getByRole('button', { name: 'Back up all 38' }).click();
  await expect(page.getByRole('heading', { name: 'Backup of 38' })).toBeVisible();
  const address = page.url();
  await page.getByRole('link', { name: 'Logbook' }).click();
  await expect(page.getByRole('link', { name: /Backing up: \d+ of 38/ })).toBeVisible();
  await page.goto(address);
  await expect(page.getByText('ended, 38 of 38')).toBeVisible({ timeout: 30_000 });
  const line = (tag: string) => page.getByRole('listitem').filter({ hasText: tag });
  await expect(line('KL1-RD-01')).toContainText('Same as the backup before');
  await expect(line('KL1-RD-09')).toContainText('2 were refused by the unit and are kept as unreadable');
  await expect(line('KL1-RD-10')).toContainText('Was the unit swapped without a record? Nothing was kept.');
  await expect(line('KL1-RD-12')).toContainText(
    'did not answer within 1 s. Is its supply on? Nothing was kept.',
  );
  await expect(page.getByRole('button', { name: 'Run the 3 again' })).toBeVisible();
});

test('some positions are chosen for a backup, which may be stopped', async ({ page }) => {
  await changeUnit(SECTION_SEVEN, { mischief: { extraDelayMs: 700 } });
  await signIn(page, 'technician');
  for (const tag of ['KL1-RD-07', 'KL1-RD-08']) await page.getByLabel(`Choose ${tag}`).check();
  await page.getByLabel('Reason').fill('Before the belt change');
  await page.getByRole('button', { name: 'Back up 2 chosen' }).click();
  await expect(page.getByText('at work', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText('stopped, 2 of 2')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('Stopped before this unit was read.')).toBeVisible();
  await changeUnit(SECTION_SEVEN, { mischief: { extraDelayMs: 0 } });
  await page.getByRole('button', { name: 'Run the 2 again' }).click();
  await expect(page.getByText('ended, 2 of 2')).toBeVisible({ timeout: 30_000 });
});

test('one field finds a tag, a serial number, a code and a word', async ({ page }) => {
  await signIn(page, 'viewer');
  const find = async (text: string) => {
    await page.keyboard.press('Control+k');
    await page.getByRole('textbox', { name: 'Find anything' }).fill(text);
    await expect(page.getByRole('dialog').getByRole('listitem').first()).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('dialog')).toBeHidden();
  };
  await find('rd-07');
  await expect(page).toHaveURL(/positions\/KL1-RD-07/);
  await find('6401137');
  await expect(page).toHaveURL(/positions\/KL1-RD-01/);
  await find('01R');
  await expect(page).toHaveURL(/models\/halvern-hn64@2\?find=01R/);
  await expect(page.getByText('Time from standstill to base frequency.')).toBeVisible();
  await find('wire break');
  await expect(page).toHaveURL(/models\/[\w-]+@\d\?find=/);
});

test('an address that is not there leads on', async ({ page }) => {
  await signIn(page, 'viewer');
  await page.goto('/nowhere');
  await expect(page.getByRole('heading', { name: 'There is nothing at this address' })).toBeVisible();
  await page.goto('/positions/KL9-XX-99');
  await expect(page.getByRole('alert')).toContainText('The position KL9-XX-99 does not exist');
});
