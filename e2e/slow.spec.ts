// The screen is read while the server takes three seconds for every answer: nothing is said of what is not known yet, and a form
// never shows what is not so.

import { expect, test, type Page } from '@playwright/test';
import { SCREENS, signIn } from './plant.ts';

const ANSWER_MS = 3000;
/** Screens that are open at the same time. */
const AT_ONCE = 7;
const LOOK_MS = 150;

/** Sentences that only an answer can say. */
const CLAIMS =
  /(^|\n)\s*(No |Nothing (?!is kept until)|None\b|none$|They agree|There (is|are) no|All as|0 (of|different|positions|sets|lines)|✓)/im;

async function slowly(page: Page): Promise<void> {
  await page.route('**/api/**', async (route) => {
    // Who one is was known before.
    if (!route.request().url().endsWith('/api/session'))
      await new Promise((resolve) => setTimeout(resolve, ANSWER_MS));
    await route.continue().catch(() => undefined);
  });
}

/** What the screen says until the first answer is there. */
async function saidWhileAsking(page: Page, address: string): Promise<readonly string[]> {
  const said: string[] = [];
  let answered = false;
  page.on('response', (response) => {
    if (response.url().includes('/api/') && !response.url().endsWith('/api/session')) answered = true;
  });
  await page.goto(address, { waitUntil: 'commit' });
  while (!answered) {
    const text = await page.locator('#content').innerText({ timeout: 20_000 });
    if (!answered && CLAIMS.test(text)) said.push(`${address}: ${text.slice(0, 200)}`);
    await page.waitForTimeout(LOOK_MS);
  }
  return said;
}

test('nothing is claimed on any screen before it was answered', async ({ page }) => {
  test.setTimeout(240_000);
  await signIn(page, 'engineer');
  const said: string[] = [];
  for (let at = 0; at < SCREENS.length; at += AT_ONCE) {
    const looks = SCREENS.slice(at, at + AT_ONCE).map(async (address) => {
      const each = await page.context().newPage();
      await slowly(each);
      said.push(...(await saidWhileAsking(each, address)));
      await each.close();
    });
    await Promise.all(looks);
  }
  expect(said).toEqual([]);
});

interface PositionLike {
  readonly tag: string;
  readonly duty: string;
  readonly area: string;
  readonly machine: string;
  readonly criticality: string;
  readonly motor: string;
  readonly unit: {
    readonly dictionary: string;
    readonly rating: string;
    readonly region: string;
    readonly serial: number;
    readonly firmware: string;
    readonly line: { readonly name: string; readonly address: number } | null;
  };
}

test('the record shows in its fields what the server says, from the moment that they are drawn', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await signIn(page, 'engineer');
  // One of each: two models of inverters, one on the keypad alone, a servo axis.
  for (const tag of ['KL1-RD-07', 'BP-AG-01', 'GL-BE-02', 'SP-ST-01']) {
    const known = (await (await page.request.get(`/api/positions/${tag}`)).json()) as PositionLike;
    const each = await page.context().newPage();
    await slowly(each);
    await each.goto(`/positions/${tag}/record`);
    const { unit } = known;
    const wanted: Readonly<Record<string, string>> = {
      Tag: tag,
      Duty: known.duty,
      Area: known.area,
      Machine: known.machine,
      Criticality: known.criticality,
      Model: unit.dictionary,
      Rating: unit.rating,
      Region: unit.region,
      'Serial number': String(unit.serial),
      Firmware: unit.firmware,
      Line: unit.line?.name ?? '',
      'Address on the line': unit.line ? String(unit.line.address) : '',
    };
    for (const [label, value] of Object.entries(wanted)) {
      const field = each.getByLabel(label, { exact: true }).first();
      await field.waitFor({ timeout: 30_000 });
      // No second look: what a field shows first has to be so.
      expect([tag, label, await field.inputValue()]).toEqual([tag, label, value]);
    }
    await each.close();
  }
});

interface MotorLike {
  readonly id: string;
  readonly text: { readonly ratings: readonly Readonly<Record<string, string>>[] };
  readonly name: string;
}

test('rounds and motors show in their fields what the server says, whatever comes first', async ({
  page,
}) => {
  test.setTimeout(90_000);
  await signIn(page, 'engineer');
  const asked = async <T>(path: string) => (await (await page.request.get(`/api/${path}`)).json()) as T;
  interface RoundLike {
    readonly name: string;
    readonly at: string;
    readonly days: readonly number[];
    readonly retries: number;
    readonly enabled: boolean;
    readonly quiet: { readonly from: string; readonly to: string } | null;
    readonly scope: Readonly<Record<'areas' | 'models' | 'criticalities', readonly string[]>>;
  }
  const [round] = await asked<readonly RoundLike[]>('rounds');
  const [motor] = await asked<readonly MotorLike[]>('motors');
  if (!round || !motor) throw new Error('the demo has a round and motors');
  const shows = async (wanted: Readonly<Record<string, string>>) => {
    for (const [label, value] of Object.entries(wanted)) {
      const field = page.getByLabel(label, { exact: true }).first();
      await field.waitFor({ timeout: 30_000 });
      expect([label, await field.inputValue()]).toEqual([label, value]);
    }
  };
  await slowly(page);
  await page.goto('/rounds');
  await page.getByRole('button', { name: 'Change' }).first().click({ timeout: 30_000 });
  await shows({
    Name: round.name,
    At: round.at,
    On: round.days.join(','),
    Retries: String(round.retries),
    Switched: round.enabled ? 'yes' : 'no',
    Area: round.scope.areas.join('\n'),
    Model: round.scope.models.join('\n'),
    Criticality: round.scope.criticalities.join('\n'),
    'Quiet from': round.quiet?.from ?? '',
    'Quiet to': round.quiet?.to ?? '',
  });
  await page.goto(`/motors/${motor.id}`);
  const [rating = {}] = motor.text.ratings;
  await shows({ 'Name, one motor each': motor.name, Connection: rating['connection'] ?? '' });
  await shows({ 'Power, kW': rating['power'] ?? '', 'Current, A': rating['current'] ?? '' });
});

test('choices that the address makes stand in their lists before the lists are there', async ({ page }) => {
  await signIn(page, 'technician');
  const each = await page.context().newPage();
  await slowly(each);
  await each.goto('/?area=Kiln+1&criticality=high');
  const area = each.getByLabel('Area', { exact: true });
  await area.waitFor({ timeout: 30_000 });
  expect(await area.inputValue()).toBe('Kiln 1');
  expect(await each.getByLabel('Criticality', { exact: true }).inputValue()).toBe('high');
  await each.goto('/compare/two?a=BP-AG-01&b=GL-BE-03');
  await expect(each.getByText('BP-AG-01').first()).toBeVisible({ timeout: 30_000 });
  await expect(each.getByText(/Choose two drives/)).toHaveCount(0);
});
