// The whole of a replacement: the agitator that has failed gets its successor, from the dead unit to the signed baseline; the wires
// are ticked off on a phone in the cabinet, where there is no network.

import { expect, test, type Page } from '@playwright/test';
import { openReplacement, signIn, swapUnit } from './plant.ts';

const TAG = 'BP-AG-03';
const DEAD = 204_100 + 3 * 13;
const FRESH = 6_420_811;

async function decide(page: Page): Promise<void> {
  const asked = page.getByRole('textbox', { name: /^(What was found|Why it|Who changes)/ });
  await expect(asked.first()).toBeVisible();
  for (const field of await asked.all()) {
    if ((await field.inputValue()) !== '') continue;
    await field.fill('looked at it in the cabinet');
    await field.press('Tab');
  }
}

test('a dead unit is replaced: questions, wires without a network, settings, and the baseline', async ({
  page,
  browser,
}) => {
  test.setTimeout(180_000);
  await signIn(page, 'technician');
  await page.goto(`/positions/${TAG}`);
  await page.getByRole('link', { name: /^Replacement of HN20 by HN64/ }).click();
  await expect(page.getByText(/things are open/)).toBeVisible();
  // Somebody else has said something of it before.
  await expect(page.getByRole('textbox', { name: /Room/ })).toHaveValue(/200 mm deep/);
  await expect(page.getByText('First decide what is open about the wires')).toBeVisible();

  // A wire is dragged to another input: what it does goes with it, and comes back with it.
  await page
    .getByRole('group', { name: /^Wires/ })
    .or(page.getByRole('heading', { name: 'Wires' }))
    .first()
    .scrollIntoViewIfNeeded();
  await decide(page);
  await expect(page.getByText(/^Nothing is open/)).toBeVisible();

  // On the phone, in a cabinet without a network.
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const hand = await phone.newPage();
  await signIn(hand, 'technician');
  await hand.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await openReplacement(hand, TAG, '/wires');
  await expect(hand.getByText('Before a hand goes in')).toBeVisible();
  await hand.reload();
  await expect(hand.getByText('Before a hand goes in')).toBeVisible();
  await phone.setOffline(true);
  const buttons = hand.getByRole('button', { name: /: done$/, pressed: false });
  const left = await buttons.count();
  expect(left).toBeGreaterThan(20);
  for (let at = 0; at < left; at += 1) await buttons.first().click();
  await expect(hand.getByText(`No network: ${left} ticks on this device only`)).toBeVisible();
  await hand.reload();
  await expect(hand.getByText(`${left} ticks on this device only`)).toBeVisible();
  await phone.setOffline(false);
  await expect(hand.getByText('All ticks are on the server.')).toBeVisible({ timeout: 30_000 });
  await phone.close();

  // The new unit comes in at the place of the old one.
  await swapUnit(DEAD, { dictionary: 'halvern-hn64@1', rating: 'HN64-22', serial: FRESH, firmware: 207 });
  await page.reload();
  await page.getByLabel('Serial number, from its plate').fill(String(FRESH));
  await page.getByLabel('Firmware').fill('2.07');
  await page.getByRole('button', { name: 'The new unit is in' }).click();
  await page.getByRole('button', { name: 'It sits there' }).click();
  await expect(page.getByText(/The wiring was kept with the new terminals/)).toBeVisible();
  await page.getByRole('button', { name: 'Back up as found' }).click();
  await expect(page.getByText(/parameters\./).first()).toBeVisible({ timeout: 30_000 });
  await openReplacement(page, TAG);
  await expect(page.getByText(/^As found, .*not as delivered in one setting \(01N\)/)).toBeVisible();
  await page.getByRole('button', { name: 'Plan the reset and all settings' }).click();
  await page.getByRole('link', { name: 'Write plan' }).click();
  await page.getByRole('button', { name: /is stopped and safe to write to/ }).click();
  await page.getByLabel(/I know what this means for the line/).check();
  await page.getByRole('button', { name: new RegExp(`^Reset ${TAG} and write`) }).click();
  await page.getByRole('button', { name: 'Write now' }).click();
  await expect(page.getByText(/^✓ Reset, defaults proven/)).toBeVisible({ timeout: 60_000 });
  await openReplacement(page, TAG);
  await expect(page.getByText(/it holds what this sheet promises/)).toBeVisible();
  await page.getByRole('button', { name: 'Propose as baseline' }).click();
  await expect(page.getByText(/Proposed; an engineer signs it/)).toBeVisible();
  await expect(page.getByText(/^Not ready to be closed: its baseline is not signed\.$/)).toBeVisible();

  // The engineer signs, and closes the sheet.
  const office = await browser.newContext();
  const desk = await office.newPage();
  await signIn(desk, 'engineer');
  await desk.goto(`/positions/${TAG}`);
  await expect(desk.getByText('What the new unit holds after its replacement')).toBeVisible();
  await desk.getByRole('button', { name: /^Sign/ }).click();
  await expect(desk.getByText('As signed').first()).toBeVisible();
  await openReplacement(desk, TAG);
  await desk.getByRole('button', { name: 'Close the replacement' }).click();
  await desk.getByRole('button', { name: 'Close it' }).click();
  await expect(desk.getByText(/^Closed by R\. Ashgrove/)).toBeVisible();
  await expect(desk.getByRole('textbox')).toHaveCount(0);
  const record = await desk.request.get(
    `/api/replacements/${desk.url().split('/').pop() ?? ''}/replacement-record?format=csv`,
  );
  expect(await record.text()).toContain('looked at it in the cabinet');
  await desk.goto('/replace');
  await expect(desk.getByText('2 of 8 replaced, 0 begun, 6 not begun.')).toBeVisible();
  await office.close();
});

test('a wire is dragged to another input, and the setting of that input goes with it', async ({ page }) => {
  await signIn(page, 'technician');
  await openReplacement(page, 'SP-OB-02');
  await expect(page.getByText(/things are open/)).toBeVisible();
  const handle = page.locator('svg g.cursor-grab').filter({ hasText: /^Wire 1:/ });
  await handle.scrollIntoViewIfNeeded();
  const from = await handle.boundingBox();
  const place = page.locator('svg g').filter({ hasText: /^24 / }).last();
  const to = await place.boundingBox();
  if (!from || !to) throw new Error('not drawn');
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 12 });
  await page.mouse.up();
  await page.getByText('Every end').click();
  await expect(page.getByLabel(/^New terminal for R1, wire/)).toHaveValue('24');
  await expect(page.getByText('IA4').first()).toBeAttached();
});
