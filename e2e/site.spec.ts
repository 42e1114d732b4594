import { expect, test } from '@playwright/test';
import { signIn } from './plant.ts';

test('a wiring is typed with the keyboard alone, checked on the way, and kept with its reason', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/positions/GL-BE-02/wiring');
  await expect(page.getByRole('heading', { name: /Wiring of GL-BE-02/ })).toBeVisible();
  const before = await page.getByRole('button', { name: /Keep as revision/ }).innerText();
  await page.getByRole('button', { name: 'Add a device' }).press('Enter');
  const name = page.getByLabel(/^Devices, row \d+, Name$/).last();
  await name.focus();
  await page.keyboard.type('S20');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await page.keyboard.type('contacts 13-14 closes');
  await page.keyboard.press('Tab');
  await page.keyboard.type('let go of the belt');
  await page.getByRole('button', { name: 'Add a wire' }).press('Enter');
  await page
    .getByLabel(/^Wires, row \d+, Number$/)
    .last()
    .focus();
  await page.keyboard.type('88');
  await page.keyboard.press('Tab');
  await page.keyboard.type('99');
  await page.keyboard.press('Tab');
  await page.keyboard.type('S20:13');
  await expect(page.getByText(/The drive has no terminal 99/)).toBeVisible();
  await page
    .getByLabel(/^Wires, row \d+, From$/)
    .last()
    .fill('12');
  await expect(page.getByText(/Input 12 is wired to something that leads to no supply/)).toBeVisible();
  await page
    .getByLabel(/^Wires, row \d+, To$/)
    .last()
    .press('Enter');
  await expect(page.getByLabel(/^Wires, row \d+, To$/).last()).toBeFocused();
  await page.keyboard.type('S20:14');
  await page
    .getByLabel(/^Wires, row \d+, From$/)
    .last()
    .fill('7');
  await expect(page.getByText(/Nothing of it is against chart or electricity/)).toBeVisible();
  await page.reload();
  await expect(page.getByText('Changed, not kept yet.')).toBeVisible();
  await page.getByLabel('Why it is another than before').fill('A let-go button was fitted');
  await page.getByLabel('Why it is another than before').press('Enter');
  await expect(page.getByText(/Revision 2 .*T\. Pellow: A let-go button was fitted/)).toBeVisible();
  await expect(page.getByRole('button', { name: /Keep as revision/ })).not.toHaveText(before);
  await page.goto('/logbook');
  await expect(page.getByText('Kept revision 2 of the wiring: A let-go button was fitted')).toBeVisible();
  await page.goto('/positions/GL-BE-02');
  const history = page.getByRole('group', { name: 'History' });
  await expect(
    history.locator('title', { hasText: /Wiring revision 2, kept .*a let-go button/i }),
  ).toHaveCount(1);
});

test('a wiring from a file with faults is refused row by row, and what stood there stays', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/positions/BP-AG-01/wiring');
  const wires = page.getByLabel(/^Wires, row \d+, Number$/);
  await expect(wires.first()).toBeVisible();
  const count = await wires.count();
  const rows = [
    'row,name,colour,from,to,facts,what',
    'wire,1,blue,8,,,',
    'bulb,H1,,,,24 V,',
    'wire,2,blue,8,9,,',
  ];
  const give = (lines: readonly string[]) =>
    page.getByLabel('Wiring as CSV or XLSX').setInputFiles({
      name: 'wiring.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(lines.join('\n')),
    });
  await give(rows);
  await expect(page.getByText('The file was not taken in; the wiring above is as it was.')).toBeVisible();
  await expect(page.getByText(/line 2, to/)).toBeVisible();
  await expect(page.getByText(/line 3, row/)).toBeVisible();
  await give([...rows.slice(0, 1), 'wire,2,blue,8,9,,,rest']);
  await expect(page.getByText(/Line 2.*"rest" stands under no heading/)).toBeVisible();
  expect(await wires.count()).toBe(count);
});

test('a supply is measured, and the position that hangs on it shows the measured voltage', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/site');
  await page.getByLabel('Measured now at Kiln supply, V').fill('431.5');
  await page.getByLabel('Measured now at Kiln supply, V').press('Enter');
  await expect(
    page.getByRole('table', { name: 'Measured at Kiln supply' }).getByRole('row').nth(1),
  ).toContainText('431.5 V');
  await page.goto('/positions/KL1-RD-07/record');
  await expect(page.getByText(/400 V nominal, 431.5 V measured · up to 48 °C/)).toBeVisible();
});

test('two makers are compared in plain values, and each value says how it was told', async ({ page }) => {
  await signIn(page, 'viewer');
  await page.goto('/compare/two?a=BP-AG-01&b=KL1-RD-01');
  await page.getByRole('button', { name: 'current limit', exact: true }).click();
  const row = page.locator('[data-meaning="limit.current"]');
  await expect(row).toContainText('150 % of rated current of the unit 5.5 A is 8.25 A');
  await expect(row).toContainText('150 % of rated current of the unit 4.1 A (02U) is 6.15 A');
});

test('a dry run is worked with the keyboard, says why, and can be sent', async ({ page }) => {
  await signIn(page, 'viewer');
  await page.goto('/positions/BP-AG-01/dry-run');
  const answer = page.getByRole('region', { name: 'What the drive does' });
  await expect(answer.getByText('Stopped', { exact: true })).toBeVisible();
  const start = page.getByLabel('S1, hold');
  await start.focus();
  await page.keyboard.down('Space');
  await page.keyboard.up('Space');
  await expect(answer.getByText('Runs forward at 18.0 Hz')).toBeVisible();
  await page.getByRole('group', { name: 'S2, place' }).getByRole('button', { name: '2' }).press('Enter');
  await expect(answer.getByText('Runs forward at 41.0 Hz')).toBeVisible();
  await expect(answer.getByText('S2 (speed) → terminal 11 closed → preset bit 1')).toBeVisible();
  await expect(page.getByRole('row', { name: 'at 1 Runs forward at 32.0 Hz' })).toBeVisible();
  const address = page.url();
  await page.getByLabel('S0, hold').focus();
  await page.keyboard.press('Space');
  await expect(answer.getByText('Stopped', { exact: true })).toBeVisible();
  await page.goto(address);
  await expect(answer.getByText('Runs forward at 41.0 Hz')).toBeVisible();
});

/** Parameters of section 7 that somebody has changed. */
const DRIFTED = 4;

test('a jog that is never read, and what differences do, are said in plain words', async ({ page }) => {
  await signIn(page, 'viewer');
  await page.goto('/positions/SP-OB-01/dry-run?do=on.at~S5~1');
  await expect(
    page.getByText(/Terminal 27 asks for jog; ignored: commands come from elsewhere/),
  ).toBeVisible();
  // By now its unit may be as signed again: the drift is looked at where it was kept.
  const answered = await page.request.get('/api/positions/KL1-RD-07/history');
  const { backups } = (await answered.json()) as {
    backups: { id: string; differences: number | null }[];
  };
  const drifted = backups.findLast(({ differences }) => differences === DRIFTED);
  await page.goto(`/positions/KL1-RD-07?a=baseline&b=backup:${drifted?.id ?? ''}`);
  const told = page.getByRole('region', { name: 'What the differences do' });
  await expect(
    told.getByText('With S1 worked, S2 at 3: runs forward at 9.0 Hz instead of 12.0 Hz.'),
  ).toBeVisible();
  await told.getByRole('link', { name: 'Show it' }).first().click();
  const answer = page.getByRole('region', { name: 'What the drive does' });
  await expect(answer.getByText('Runs forward at 9.0 Hz')).toBeVisible();
  await page.goto('/compare/behaviour?a=KL1-RD-01&b=KL1-RD-02');
  await expect(page.getByText(/^The same in all \d+ pairs of states/)).toBeVisible();
});

test('a photograph of a wiring is added, shown and withdrawn; a changed wiring is proposed for a signature', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/positions/GL-BE-02/wiring');
  // One brown point, as small as a PNG can be.
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  );
  await page.getByLabel('What the next photograph shows').fill('Strip, cover off');
  const file = page.getByLabel('Photograph of the wiring as JPEG or PNG');
  await file.setInputFiles({ name: 'strip.png', mimeType: 'image/png', buffer: png });
  await expect(page.getByAltText('Strip, cover off')).toBeVisible();
  await page.getByRole('button', { name: 'Withdraw' }).click();
  await page.getByLabel('Why Strip, cover off is withdrawn').fill('Too small');
  await page.keyboard.press('Enter');
  await expect(page.getByAltText('Strip, cover off')).toHaveCount(0);
  await expect(page.getByText(/Revision 2 of the wiring is not signed/)).toBeVisible();
  await page.getByRole('button', { name: 'Propose it for signature' }).click();
  await expect(page.getByText(/It is signed together with/)).toBeVisible();
});
