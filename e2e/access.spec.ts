// Can everybody use it? Rules of WCAG 2.2 AA that a machine can check, in both themes, and the widths of the cabinet.

import { AxeBuilder } from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { openReplacement, SCREENS, signIn } from './plant.ts';

const EVERY_RULE = ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'];

async function darkViolations(page: Page) {
  await page.emulateMedia({ colorScheme: 'dark' });
  await expect(page.locator('html[data-theme=dark]')).toHaveCount(1);
  return (await new AxeBuilder({ page }).withRules(['color-contrast']).analyze()).violations;
}

for (const half of [0, 1]) {
  test(`no screen breaks a rule of accessibility, by day or in a dark cabinet (${half + 1} of 2)`, async ({
    page,
  }) => {
    const screens = SCREENS.filter((_, at) => at % 2 === half);
    test.setTimeout(screens.length * 40_000);
    await signIn(page, 'technician');
    for (const screen of screens) {
      await page.emulateMedia({ colorScheme: 'light' });
      await page.goto(screen);
      await page.waitForLoadState('networkidle');
      const day = await new AxeBuilder({ page }).withTags(EVERY_RULE).analyze();
      const broken = [...day.violations, ...(await darkViolations(page))];
      expect(broken.map(({ id, nodes }) => `${screen} ${id}: ${nodes[0]?.html ?? ''}`)).toEqual([]);
    }
  });
}

test('a replacement and its wire sheet break none either, and a wire sheet is for gloves', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await signIn(page, 'technician');
  for (const sheet of ['', '/wires']) {
    await page.emulateMedia({ colorScheme: 'light' });
    await openReplacement(page, 'SP-OB-02', sheet);
    await expect(page.getByText(sheet === '' ? 'Papers and doing' : 'Before a hand goes in')).toBeVisible();
    await page.waitForLoadState('networkidle');
    const day = await new AxeBuilder({ page }).withTags(EVERY_RULE).analyze();
    const broken = [...day.violations, ...(await darkViolations(page))];
    expect(broken.map(({ id, nodes }) => `${sheet} ${id}: ${nodes[0]?.html ?? ''}`)).toEqual([]);
  }
  await page.setViewportSize({ width: 390, height: 844 });
  const wider = () =>
    page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
  expect(await wider()).toBe(0);
  for (const box of await Promise.all(
    (await page.getByRole('button', { name: /: done$/ }).all()).map((each) => each.boundingBox()),
  ))
    expect(box?.height ?? 0).toBeGreaterThanOrEqual(48);
  await openReplacement(page, 'SP-OB-02');
  await expect(page.getByText('Papers and doing')).toBeVisible();
  expect(await wider()).toBe(0);
});

test('on a phone nothing is cut off, and what is pressed is large enough for gloves', async ({ browser }) => {
  const page = await browser.newPage({ viewport: { width: 390, height: 844 } });
  await signIn(page, 'technician');
  for (const screen of [
    '/',
    '/jobs',
    '/logbook',
    '/positions/KL1-RD-07',
    '/models',
    '/rounds',
    '/look-up?find=ramp',
    '/motors',
    '/register/find-units',
    '/positions/SP-ST-01/axes',
    '/positions/KL1-RD-07/reset',
    '/positions/KL1-RD-07/set',
    '/positions/GL-BE-02/read-off',
    '/positions/KL1-CA-01/checks',
    '/calculate/motor?position=KL1-RD-03',
    '/calculate/signal?position=GL-PU-01',
  ]) {
    await page.goto(screen);
    await page.waitForLoadState('networkidle');
    const wider = await page.evaluate(
      () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
    );
    expect([screen, wider]).toEqual([screen, 0]);
  }
  const buttons = page.getByRole('button').filter({ visible: true });
  for (const box of await Promise.all((await buttons.all()).map((button) => button.boundingBox()))) {
    expect(box?.height ?? 48).toBeGreaterThanOrEqual(44);
  }
  await page.close();
});
