// First settings: a belt from nothing to its key-in sheet, typed by two people, without a network for a while, and looked at by
// somebody who may not type.

import { expect, test, type Locator, type Page } from '@playwright/test';
import { signIn } from './plant.ts';

const TAG = 'GL-BE-04';
/** A touch, a choice, a field that is filled. */
const MOST_INPUTS = 40;

const field = (page: Page, key: string) => page.locator(`[data-field="${key}"]`).getByRole('textbox');
const beside = (page: Page) => page.getByRole('complementary', { name: 'What it comes to' });
const allTold = (page: Page) => beside(page).getByText(/^All is told/);

test('a belt with preset speeds goes from nothing to a key-in sheet in few inputs', async ({ page }) => {
  test.setTimeout(120_000);
  await signIn(page, 'technician');
  await page.goto(`/positions/${TAG}`);
  let inputs = 0;
  const press = async (what: Locator) => {
    inputs += 1;
    await what.click();
  };
  const fill = async (what: Locator, text: string) => {
    inputs += 1;
    await what.fill(text);
  };
  await press(page.getByRole('link', { name: 'First settings', exact: true }));
  await press(page.getByRole('radio', { name: 'Belt by contacts and preset speeds' }));
  inputs += 1;
  await page.getByLabel('Model').selectOption({ label: 'Halvern HN64' });
  await fill(page.getByLabel('Name'), 'Glazing belt 4, anew');
  await press(page.getByRole('button', { name: 'Begin the draft' }));
  await expect(beside(page).getByText('5 things are to be told.')).toBeVisible();

  // As the plate says, and as the belt is to run.
  const plate = {
    power: '0.75',
    voltage: '400',
    current: '1.9',
    frequency: '50',
    speed: '1400',
    powerFactor: '0.76',
  };
  for (const [name, text] of Object.entries(plate)) await fill(field(page, `plate.${name}`), text);
  await fill(field(page, 'supply.volts'), '400');
  await fill(field(page, 'supply.hertz'), '50');
  for (const [at, hertz] of ['14', '22', '30'].entries())
    await fill(field(page, `ask.speed.${at + 1}`), hertz);
  await expect(allTold(page)).toBeVisible();
  await expect(beside(page).getByText('all 7 as they must')).toBeVisible();
  await expect(beside(page).getByRole('cell', { name: 'runs forward at 22.0 Hz' })).toBeVisible();
  await expect(page.getByText(/Gives 2\.3 A, the motor takes 1\.9 A/)).toBeVisible();
  // A contact is dragged to another input; what it does goes with it.
  inputs += 1;
  await page.locator('[data-end="S1:13-14"]').scrollIntoViewIfNeeded();
  await page.locator('[data-end="S1:13-14"]').dragTo(
    page
      .getByRole('img', { name: /terminals/ })
      .locator('title', { hasText: /^28 / })
      .locator('xpath=..'),
    { force: true },
  );
  await expect(page.getByLabel('Terminal of S1:13-14')).toHaveValue('28');
  await expect(beside(page).getByText('all 7 as they must')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Make the key-in sheet' })).toBeEnabled();
  await press(page.getByRole('button', { name: 'Make the key-in sheet' }));
  await expect(page).toHaveURL(/\/key-in\//);
  expect(inputs).toBeLessThanOrEqual(MOST_INPUTS);
  await expect(page.getByText(/draft "Glazing belt 4, anew"/).first()).toBeVisible();
  await expect(page.getByText('Preset speed 2').first()).toBeVisible();
  await expect(page.getByText(/22\.00/).first()).toBeVisible();
});

test('two people type into one draft, one of them without a network for a while', async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000);
  await signIn(page, 'technician');
  await page.goto('/drafts');
  await page.getByRole('link', { name: 'Second glaze pump' }).click();
  await expect(allTold(page)).toBeVisible();
  const address = page.url();
  const other = await browser.newContext();
  const engineer = await other.newPage();
  await signIn(engineer, 'engineer');
  await engineer.goto(address);
  await expect(allTold(engineer)).toBeVisible();

  // What the other has typed comes by itself.
  await field(engineer, 'ask.ramp.up').fill('7');
  await expect(field(page, 'ask.ramp.up')).toHaveValue('7', { timeout: 15_000 });

  // Both at once: the later one is told, and loses nothing.
  await page.route(/\/api\/drafts\/[^/]+$/, (route) =>
    route.request().method() === 'GET' ? route.abort() : route.continue(),
  );
  await field(engineer, 'ask.ramp.down').fill('8');
  await expect(
    engineer.locator('[data-field="ask.ramp.down"]').getByText(/typed by R\. Ashgrove/),
  ).toBeVisible();
  await field(page, 'ask.ramp.down').fill('9');
  const row = page.locator('[data-field="ask.ramp.down"]');
  await expect(row.getByText(/R\. Ashgrove has typed something/)).toBeVisible();
  await expect(field(page, 'ask.ramp.down')).toHaveValue('9');
  await page.unroute(/\/api\/drafts\/[^/]+$/);
  await expect(async () => {
    await row.getByRole('button', { name: 'Keep mine' }).click({ timeout: 2_000 });
    await expect(row.getByText(/typed by T\. Pellow; R\. Ashgrove had 8/)).toBeVisible({ timeout: 6_000 });
  }).toPass({ timeout: 30_000 });

  // No network: what is typed counts on the screen, and is kept when it is there again.
  await page.context().setOffline(true);
  await field(page, 'set.jog.speed').or(field(page, 'ask.minimum')).first().fill('18');
  await expect(page.getByText(/1 field is not kept yet/)).toBeVisible({ timeout: 15_000 });
  await page.context().setOffline(false);
  await expect(page.getByText(/not kept yet/)).toBeHidden({ timeout: 20_000 });
  await page.reload();
  await expect(field(page, 'ask.minimum')).toHaveValue('18');

  // Nonsense is kept as it was typed, and said.
  await field(page, 'plate.current').fill('three and a half');
  await expect(page.locator('[data-field="plate.current"]').getByText(/is no number/)).toBeVisible();
  await expect(beside(page).getByText('1 thing is to be told.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep it as it stands' })).toBeDisabled();
  await field(page, 'plate.current').fill('3.6');
  await expect(allTold(page)).toBeVisible();
  await other.close();
});

test('an engineer changes a starting point: faults stand at their lines, and it is kept under a name of its own', async ({
  page,
}) => {
  await signIn(page, 'engineer');
  await page.goto('/starting-points/steady-run');
  const file = page.getByRole('textbox', { name: 'File of the starting point' });
  const text = await file.inputValue();
  await file.fill(text.replace('load: mill', 'load: rocket'));
  await expect(page.getByText(/^Line 6:/)).toBeVisible();
  await page.getByRole('textbox', { name: 'Why it is kept' }).fill('chain of the dryer');
  await expect(page.getByRole('button', { name: 'Keep it', exact: true })).toBeDisabled();
  await file.fill(
    text.replace('id: steady-run', 'id: dryer-chain').replace("'One contact, one speed'", "'Dryer chain'"),
  );
  await page.getByRole('button', { name: 'Keep it as dryer-chain' }).click();
  await expect(page).toHaveURL(/starting-points\/dryer-chain$/);
  await page.goto('/drafts');
  await expect(page.getByRole('radio', { name: 'Dryer chain' })).toBeVisible();
});

test('a draft is compared, carried to another model, worked in a dry run, and only looked at by a viewer', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await signIn(page, 'technician');
  await page.goto('/drafts');
  await page.getByRole('link', { name: 'Second glaze pump' }).click();
  await page.getByRole('link', { name: 'Dry run', exact: true }).click();
  await expect(page.getByText('Stopped').first()).toBeVisible();
  await page.goBack();
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click();
  await expect(page.getByText(/say the same/)).toBeVisible();
  await page.goBack();
  await page.getByLabel('Model').last().selectOption({ label: 'Toreka C7' });
  await page.getByRole('button', { name: 'Carry the draft over' }).click();
  await expect(page.getByText('carried over from')).toBeVisible();
  await expect(
    beside(page).getByText(/^This model cannot take the duty|^All is told|to be told/),
  ).toBeVisible();
  await page.request.delete('/api/session');
  await page.goto('/');
  await signIn(page, 'viewer');
  await page.goto('/drafts');
  await expect(page.getByRole('button', { name: 'Begin the draft' })).toBeHidden();
  await page.getByRole('link', { name: 'Second glaze pump', exact: true }).click();
  await expect(field(page, 'plate.current')).toBeDisabled();
  await expect(page.getByRole('button', { name: 'Keep it as it stands' })).toBeHidden();
});
