// Can everybody use it? Rules of WCAG 2.2 AA that a machine can check, in both themes, and the widths of the cabinet.

import { AxeBuilder } from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { signIn } from './plant.ts';

const SCREENS = [
  '/',
  '/positions/KL1-RD-09?a=default',
  '/jobs',
  '/rounds',
  '/compare',
  '/logbook',
  '/models',
  '/models/halvern-hn64@1?find=ramp',
  '/models/toreka-c7@1?part=terminals',
  '/models/toreka-c7@1?part=ways',
  '/models/halvern-hn64@2/changes?since=halvern-hn64@1',
  '/models/new',
  '/look-up?find=ramp',
  '/positions/KL1-RD-01/import',
  '/?as=table',
  '/register/plant-list',
  '/register/find-units',
  '/register/places',
  '/positions/KL1-RD-07?three=yes',
  '/positions/KL1-RD-07/record',
  '/positions/KL1-RD-07/parameters/01R?peers=yes',
  '/positions/GL-BE-02/read-off',
  '/compare/two?a=BP-AG-01&b=GL-BE-03',
  '/motors',
  '/motors/new',
  '/positions/KL1-RD-07/reset',
  '/positions/KL1-RD-07/set',
  '/positions/SP-ST-01/axes',
];

for (const colorScheme of ['light', 'dark'] as const) {
  test(`no screen breaks a rule of accessibility (${colorScheme})`, async ({ browser }) => {
    // Some seconds for each screen.
    test.setTimeout(SCREENS.length * 12_000);
    const context = await browser.newContext({ colorScheme });
    const page = await context.newPage();
    await signIn(page, 'technician');
    for (const screen of SCREENS) {
      await page.goto(screen);
      await page.waitForLoadState('networkidle');
      const rules = new AxeBuilder({ page });
      // What is not a matter of colour was looked at in the light.
      const { violations } = await (
        colorScheme === 'dark'
          ? rules.withRules(['color-contrast'])
          : rules.withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
      ).analyze();
      expect(violations.map(({ id, nodes }) => `${screen} ${id}: ${nodes[0]?.html ?? ''}`)).toEqual([]);
    }
    await context.close();
  });
}

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
