import { expect, test } from '@playwright/test';
import { changeUnit, signIn } from './plant.ts';

const TAG = 'KL1-RD-08';
const SECTION = 6_401_100 + 8 * 37;

test('what a unit shows now is shown as long as it comes, and never when it is old', async ({ page }) => {
  await signIn(page, 'viewer');
  await page.goto(`/positions/${TAG}/now`);
  await expect(page.getByText('Runs, 34.50 Hz')).toBeVisible();
  await expect(page.getByText('Runs forward at 34.5 Hz')).toBeVisible();
  await expect(page.getByRole('row', { name: /^Set-point 02V/ })).toContainText('34.50');
  await changeUnit(SECTION, { supply: false });
  await expect(page.getByText(/What it shows now is not known/)).toBeVisible({ timeout: 3500 });
  await expect(page.getByRole('row', { name: /Output frequency/ })).not.toContainText('34.50');
  await changeUnit(SECTION, { supply: true });
  await expect(page.getByRole('row', { name: /Bus voltage/ })).toContainText('604');
  await changeUnit(SECTION, { runContact: true });
  await expect(page.getByText('Runs, 34.50 Hz')).toBeVisible({ timeout: 20_000 });
});

test('a fault stands with what it means and what to check, in the numbering of that model', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto(`/positions/${TAG}/now`);
  await expect(page.getByText('Runs, 34.50 Hz')).toBeVisible();
  await changeUnit(SECTION, { surroundings: { earthed: true } });
  await expect(page.getByText('Fault 7: Earth fault')).toBeVisible();
  await expect(page.getByText('measure insulation of motor and cable, free of the unit')).toBeVisible();
  await changeUnit(SECTION, { surroundings: { earthed: false }, runContact: false, key: 'reset' });
  await expect(page.getByText('Stands', { exact: true })).toBeVisible();
  await expect(page.getByText('Before that, the newest first')).toBeVisible();
  await changeUnit(SECTION, { runContact: true });
  await page.goto('/look-up?find=fault+7');
  await expect(page.getByRole('button', { name: '7', exact: true }).first()).toBeVisible();
  await expect(page.getByText('Current flowed from an output to earth.').first()).toBeVisible();
});

test('a trace is recorded while somebody stops and starts the machine, and measures its ramps', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await signIn(page, 'technician');
  await page.goto(`/positions/${TAG}/now`);
  await expect(page.getByText('Runs, 34.50 Hz')).toBeVisible({ timeout: 20_000 });
  await page.goto(`/positions/${TAG}/traces`);
  await page.getByLabel('What for').fill('Ramps after the new gear');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText(/Being recorded since/)).toBeVisible();
  await page.waitForTimeout(1500);
  await changeUnit(SECTION, { runContact: false });
  await page.waitForTimeout(1500);
  await changeUnit(SECTION, { runContact: true });
  await page.waitForTimeout(9500);
  await page.getByRole('button', { name: 'End it now' }).click();
  await expect(page.getByRole('heading', { name: 'Ramps', exact: true })).toBeVisible();
  const rows = page.getByRole('region', { name: 'Ramps' }).getByRole('row');
  for (const [at, way] of [
    [1, '▼ down'],
    [2, '▲ up'],
  ] as const) {
    await expect(rows.nth(at)).toContainText(way);
    const text = (await rows.nth(at).textContent()) ?? '';
    const share = Number(/([\d.]+) %/.exec(text)?.[1]);
    expect(Math.abs(share - 100)).toBeLessThan(2);
  }
  const picture = page.getByRole('img', { name: /Ramps after the new gear/ });
  await picture.click({ position: { x: 200, y: 100 } });
  await picture.click({ position: { x: 500, y: 100 } });
  await expect(page.getByText(/B less A/)).toBeVisible();
  await picture.press('+');
  await expect(page.getByRole('button', { name: 'Whole' })).toBeEnabled();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save as CSV' }).click();
  expect((await download).suggestedFilename()).toMatch(/^KL1-RD-08 trace \d{8} \d{6}\.csv$/);
});

test('two traces of a loop lie on top of each other, and one stands on the history', async ({ page }) => {
  await signIn(page, 'viewer');
  await page.goto('/positions/KL1-FD-01');
  await page.getByRole('link', { name: /Trace of .* before tuning/ }).click();
  await page.getByLabel('On top of it').selectOption({ index: 1 });
  await expect(page.getByText(/Actual value of the loop, Draught loop after tuning/)).toBeVisible();
  await expect(page.getByRole('row', { name: /Overshoot/ })).toContainText(/5\d\.\d %/);
  await expect(page).toHaveURL(/with=/);
});

test('the motor is identified: asked for by a plan, begun at the machine, and held against what was known', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const unit = 6_401_100 + 9 * 37;
  await changeUnit(unit, { runContact: false });
  await signIn(page, 'technician');
  await page.goto('/positions/KL1-RD-09/now');
  await expect(page.getByText('Stands', { exact: true })).toBeVisible({ timeout: 20_000 });
  await page.getByRole('link', { name: 'Identification of the motor' }).click();
  await expect(page.getByText('nothing is asked for')).toBeVisible();
  await page.getByRole('button', { name: 'Plan: 19M to standing' }).click();
  await page.getByRole('button', { name: /is stopped and safe to write to/ }).click();
  await page.getByRole('button', { name: /^Write 1 value/ }).click();
  await page.getByRole('button', { name: 'Write now' }).click();
  await expect(page.getByText(/^✓ 1 value written, read back/)).toBeVisible({ timeout: 30_000 });
  await page.goto('/positions/KL1-RD-09/identify');
  await expect(page.getByText('waits for the run command')).toBeVisible();
  const resistance = page.getByRole('row', { name: /^21M/ });
  const ohms = async (column: number) =>
    Number(/([\d.]+) Ω/.exec((await resistance.getByRole('cell').nth(column).textContent()) ?? '')?.[1]);
  const before = await ohms(2);
  await changeUnit(unit, { runContact: true });
  await expect(page.getByText('it goes on')).toBeVisible();
  await expect(page.getByText('nothing is asked for')).toBeVisible({ timeout: 20_000 });
  // The unit now, against what its rating is delivered with: this motor has 8.3 % more.
  expect((await ohms(2)) / (await ohms(4))).toBeCloseTo(1.083, 2);
  expect(await ohms(2)).not.toBe(before);
  expect(await ohms(3)).toBe(before);
  // This drive works with what was measured already: 20M says so, and nothing is planned.
  await expect(page.getByText('used', { exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Plan: 20M/ })).toHaveCount(0);
  await changeUnit(unit, { runContact: false });
});
