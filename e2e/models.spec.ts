import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import ExcelJS from 'exceljs';
import { signIn } from './plant.ts';

const MAKERS_LIST = join(import.meta.dirname, 'fixtures/makers-list.csv');
const EDS = join(import.meta.dirname, '../packages/core/src/formats/fixtures/makers-drive.eds');

test('any word finds the parameter in every model, with options and range on the spot', async ({ page }) => {
  await signIn(page, 'viewer');
  await page.getByRole('link', { name: 'Look-up' }).click();
  await page.getByLabel('Look up').pressSequentially('coast at stop');
  const first = page.getByRole('listitem').filter({ hasText: 'HN20' }).first();
  await expect(first).toContainText('bit 1 coast at stop');
  await page.getByLabel('Look up').fill('acceleratoin');
  await expect(page.getByText('Seconds from standstill to base speed (ME).')).toBeVisible();
  await expect(page).toHaveURL(/find=acceleratoin/);
  await page.getByLabel('Look up').fill('FP08');
  await page.getByRole('button', { name: 'FP08' }).click();
  await expect(page.getByText('counted another way')).toBeVisible();
  await expect(page.getByRole('link', { name: /Halvern HN20\s*6\/03 Gain/ })).toBeVisible();
});

test('with a position its present values stand beside', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/look-up?find=ramp+up&position=KL1-RD-03');
  await expect(page.getByText('now 8.00 s')).toBeVisible();
  await page.getByLabel('with the values of').fill('GL-PU-01');
  await expect(page.getByText('now 2.5 s')).toBeVisible();
});

test('a model shows its terminals with both numberings, its ratings and what a write puts back', async ({
  page,
}) => {
  await signIn(page, 'viewer');
  await page.getByRole('link', { name: 'Models' }).click();
  await page.getByRole('link', { name: 'C7', exact: true }).click();
  await page.getByRole('button', { name: 'Terminals' }).click();
  await expect(page).toHaveURL(/part=terminals/);
  const row = page.getByRole('row').filter({ hasText: '25 Input 5' });
  await expect(row).toContainText('external fault');
  await expect(row).toContainText('X4');
  await expect(row).toContainText('drive, or program by UA2 bit 4');
  await page.getByRole('button', { name: '7 ratings' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'C7-40' })).toContainText('9.60');
  await page.getByRole('button', { name: 'How it works' }).click();
  await page.getByText('Writing this puts these 13 back to default').click();
  await expect(page.getByText('PA9 Jog speed')).toBeVisible();
});

test('what a firmware changed is a screen of its own', async ({ page }) => {
  await signIn(page, 'viewer');
  await page.goto('/models');
  await page.getByRole('link', { name: 'what changed since' }).click();
  await expect(page.getByText('3 added, 1 gone, 8 changed')).toBeVisible();
  await expect(page.getByText('8 ms → 12 ms')).toBeVisible();
});

/** A list as makers write them: headings of their own, ranges and options in one cell. */
async function makersList(): Promise<Buffer> {
  const workbook = new ExcelJS.Workbook();
  const sheet = workbook.addWorksheet('Parameters');
  sheet.addRow(['Par. no.', 'Designation', 'Explanation', 'Adjustable', 'Works setting', 'Group']);
  sheet.addRow([
    '4/12',
    'Belt speed',
    'Speed of the belt at full signal.',
    '0.00 to 2.50 m/s',
    '1.20 m/s',
    'Belt',
  ]);
  sheet.addRow([
    '4/13',
    'Belt direction',
    'Which way the belt runs.',
    '0 = forward; 1 = reverse',
    '0',
    'Belt',
  ]);
  sheet.addRow(['4/14', 'Start ramp', 'Time to full speed.', '0.1 to 60.0 s', '3.0 s', 'Belt']);
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

async function addPosition(page: Page, tag: string, model: string, serial: string): Promise<void> {
  await page.goto('/positions/new');
  await page.getByLabel('Tag').fill(tag);
  await page.getByLabel('Duty').fill('Yard conveyor');
  await page.getByLabel('Area').fill('Yard');
  await page.getByLabel('Machine').fill('Conveyor');
  await page.getByLabel('Model').selectOption({ label: model });
  await page.getByLabel('Serial number').fill(serial);
  await page.getByLabel('Firmware').fill('1.20');
  await page.getByRole('button', { name: 'Add the position' }).click();
  await expect(page.getByText('No history yet.')).toBeVisible();
}

async function importSet(
  page: Page,
  tag: string,
  text: string,
  as = `Keep as a set of ${tag}`,
): Promise<void> {
  await page.goto(`/positions/${tag}/import`);
  await page
    .getByLabel('File with a parameter set')
    .setInputFiles({ name: 'set.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await page.getByRole('button', { name: as }).click();
}

test('a maker’s spreadsheet becomes a model, and a set for it is imported and compared', async ({ page }) => {
  await signIn(page, 'engineer');
  await page.goto('/models/new');
  await page.getByLabel('File with a parameter list').setInputFiles({
    name: 'list.xlsx',
    mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    buffer: await makersList(),
  });
  await expect(page.getByText('Say the maker and the name of the model.')).toBeVisible();
  await page.getByLabel('Maker').fill('Yardley');
  await page.getByLabel('Model', { exact: true }).fill('B2');
  // Two headings that nobody could guess.
  await page.getByLabel('Use of the column adjustable').selectOption('range');
  await page.getByLabel('Use of the column works setting').selectOption('default');
  const understood = page.getByLabel('How it was understood');
  await expect(understood.getByRole('row').filter({ hasText: '4/12' })).toContainText('0.00 to 2.50');
  await expect(understood.getByRole('row').filter({ hasText: '4/13' })).toContainText(
    '0 = forward; 1 = reverse',
  );
  await page.getByRole('button', { name: 'Keep as yardley-b2@1' }).click();
  await expect(page.getByRole('heading', { name: 'Yardley B2' })).toBeVisible();
  await expect(page.getByText('Speed of the belt at full signal.')).toBeVisible();

  await addPosition(page, 'YD-CV-01', 'Yardley B2, firmware 0.00 to 99.99', '812');
  await importSet(page, 'YD-CV-01', 'code,value,unit\n4/12,1.50,m/s\n4/13,1,\n4/14,4500,ms\n');
  await expect(page.getByText('Imported set by R. Ashgrove')).toBeVisible();
  const rows = page.locator('[data-code]');
  await expect(rows).toHaveCount(3);
  await expect(rows.filter({ hasText: '4/14' })).toContainText('+1.5 s (×1.5)');
  await expect(rows.filter({ hasText: '4/13' })).toContainText('forward → reverse');
});

test('an EDS becomes a model, and a set for it is imported and compared', async ({ page }) => {
  await signIn(page, 'engineer');
  await page.goto('/models/new');
  await page
    .getByLabel('File with a parameter list')
    .setInputFiles({ name: 'x5.eds', mimeType: 'text/plain', buffer: readFileSync(EDS) });
  await expect(page.getByText('513 holds for node 1')).toBeVisible();
  await page.getByRole('button', { name: 'Keep as millbrook-x5@1' }).click();
  await expect(page.getByRole('heading', { name: 'Millbrook X5' })).toBeVisible();
  await addPosition(page, 'YD-CV-02', 'Millbrook X5, firmware 0.00 to 99.99', '813');
  await importSet(page, 'YD-CV-02', 'code,value\n2000:00,30\n2002:01,-200\n', 'Take in as a part');
  await expect(page.locator('[data-code]').filter({ hasText: '2000:00' })).toContainText('+22 (×3.8)');
  await page.getByRole('link', { name: 'Models' }).click();
  await expect(page.getByText('Brought by R. Ashgrove.').first()).toBeVisible();
});

test('an import shows what was converted and what a spreadsheet program has changed', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/positions/PR-PB-01/import');
  await page.getByLabel('File with a parameter set').setInputFiles({
    name: 'belt.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('code;value;unit\n2/01;3500;ms\n04.Dez;12;\nFL01;20.0;s\n'),
  });
  await expect(page.getByText('2/01: 3500 ms was taken as 3.5 s.')).toBeVisible();
  await expect(page.getByText('"04.Dez" is a date: a spreadsheet program has changed a code')).toBeVisible();
  await expect(page.getByText('The codes are those of Toreka F3.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep as a set of PR-PB-01' })).toBeDisabled();
});

test('a maker’s list as it leaves a spreadsheet becomes a right dictionary, mended on the spot', async ({
  page,
}) => {
  await signIn(page, 'engineer');
  await page.goto('/models/new');
  // Titles, a named delimiter, Latin-1, groups, headings again on the second page, a note, decimal commas, thousands with a point.
  await page.getByLabel('File with a parameter list').setInputFiles(MAKERS_LIST);
  await page.getByRole('button', { name: 'Read it as Latin-1' }).click();
  await page.getByLabel('Maker').fill('Orrin');
  await page.getByLabel('Model', { exact: true }).fill('KD5');
  // Signs for the access, explained once.
  await page.getByLabel('What Ø means').selectOption('written while it stands');
  await page.getByLabel('What ± means').selectOption('written at all times');
  // Two supplies, two mains, a limit that is another parameter, a mark of a note, a range of options.
  for (const [line, column, text] of [
    [8, 'Factory setting', '400'],
    [10, 'Factory setting', '50'],
    [19, 'Range', '0,0 ... 400,0'],
    [21, 'Factory setting', '150'],
    [33, 'Range', '0 = ramp; 1 = coast'],
  ] as const) {
    const cell = page.getByLabel(`Line ${line}, ${column}, in other words`);
    await cell.fill(text);
    await cell.press('Enter');
    await expect(cell).toHaveCount(0);
  }
  await expect(page.getByText('45 parameters', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Keep as orrin-kd5@1' }).click();
  await expect(page.getByRole('heading', { name: 'Orrin KD5' })).toBeVisible();
  const answer = await page.request.get('/api/dictionaries/orrin-kd5@1');
  const { parameters } = (await answer.json()) as { parameters: readonly Shown[] };
  const shown = (wanted: string) => {
    const { form, minimum, maximum, access, menu, ...rest } = parameters.find(
      ({ code }) => code === wanted,
    ) as Shown;
    const step = form.resolution ? form.resolution.step / 10 ** form.resolution.places : 1;
    const value = (raw: number | undefined) =>
      raw === undefined ? null : Math.round(raw * step * 1000) / 1000;
    const usual = rest.default?.raw;
    return [value(minimum.raw), value(maximum.raw), value(usual), form.unit ?? form.kind, access, menu[0]];
  };
  expect(parameters).toHaveLength(45);
  expect(shown('001')).toEqual([0.12, 15, 1.5, 'kW', 'write-stopped', 'A Motor']);
  expect(shown('002')).toEqual([180, 480, 400, 'V', 'write-stopped', 'A Motor']);
  expect(shown('005')).toEqual([100, 24_000, 1420, 'rpm', 'write-stopped', 'A Motor']);
  expect(shown('007')).toEqual([0, 65_000, 0, 'µH', 'write-stopped', 'A Motor']);
  expect(shown('012')).toEqual([0.001, 60, 0.01, 's', 'write', 'B Ramps and limits']);
  expect(shown('013')).toEqual([0, 400, 5, 'Hz', 'write', 'B Ramps and limits']);
  expect(shown('020')).toEqual([0, 2, 1, 'option', 'write-stopped', 'C Commands']);
  expect(shown('034')).toEqual([0, 2, 0, 'option', 'write-stopped', 'D Inputs and outputs']);
  expect(shown('039')).toEqual([0, 7, 1, 'bits', 'write', 'D Inputs and outputs']);
  expect(shown('052')).toEqual([0, 1000, null, 'V', 'read', 'E Protection and view']);
});

interface Shown {
  readonly code: string;
  readonly menu: readonly string[];
  readonly access: string;
  readonly form: {
    readonly kind: string;
    readonly unit?: string;
    readonly resolution?: { readonly step: number; readonly places: number };
  };
  readonly minimum: { readonly raw: number };
  readonly maximum: { readonly raw: number };
  readonly default: { readonly raw: number } | null;
}
