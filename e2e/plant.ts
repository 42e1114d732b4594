// People and the simulated plant, for tests of the interface.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';

const PASSWORDS = { engineer: 'glaze-and-fire', technician: 'roller-table', viewer: 'look-only-1' } as const;

export async function signIn(page: Page, name: keyof typeof PASSWORDS): Promise<void> {
  await page.goto('/');
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(PASSWORDS[name]);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Register' })).toBeVisible();
}

/** Changes a simulated unit through its control port: contacts, plugs, values. */
export async function changeUnit(serial: number, change: object): Promise<void> {
  const record = JSON.parse(readFileSync(join(process.env['E2E_DATA'] ?? '', 'running.json'), 'utf8')) as {
    control: number;
  };
  const url = `http://127.0.0.1:${record.control}/units/${serial}`;
  const response = await fetch(url, { method: 'PATCH', body: JSON.stringify(change) });
  if (!response.ok) throw new Error(`unit ${serial}: ${await response.text()}`);
  // A machine whose command has gone comes to rest by its ramp, and is waited for as by everybody.
  if (!('runContact' in change) || change.runContact !== false) return;
  await expect(async () => {
    const units = (await (await fetch(`http://127.0.0.1:${record.control}/units`)).json()) as {
      serial: number;
      running: boolean;
    }[];
    expect(units.find((each) => each.serial === serial)?.running).toBe(false);
  }).toPass({ timeout: 90_000 });
}

/** Name of the conductor that ends at a terminal of a unit. */
export async function joinedAt(serial: number, terminal: string): Promise<string> {
  const record = JSON.parse(readFileSync(join(process.env['E2E_DATA'] ?? '', 'running.json'), 'utf8')) as {
    control: number;
  };
  const units = (await (await fetch(`http://127.0.0.1:${record.control}/units`)).json()) as {
    serial: number;
    joined: Readonly<Record<string, readonly string[]>>;
  }[];
  const joined = units.find((each) => each.serial === serial)?.joined ?? {};
  const found = Object.entries(joined).find(
    ([name, ends]) => name.startsWith('wire') && ends.includes(terminal),
  );
  if (!found) throw new Error(`no wire at ${terminal}`);
  return found[0];
}

/** Another drive in the place of one, as it comes out of its box. */
export async function swapUnit(serial: number, spare: object): Promise<void> {
  const record = JSON.parse(readFileSync(join(process.env['E2E_DATA'] ?? '', 'running.json'), 'utf8')) as {
    control: number;
  };
  const url = `http://127.0.0.1:${record.control}/units/${serial}/swap`;
  const response = await fetch(url, { method: 'POST', body: JSON.stringify(spare) });
  if (!response.ok) throw new Error(`unit ${serial}: ${await response.text()}`);
}

/** The newest replacement of a position, on the sheet that is asked for. */
export async function openReplacement(page: Page, tag: string, sheet = ''): Promise<void> {
  const answer = await page.request.get(`/api/replacements?tag=${tag}`);
  const [newest] = (await answer.json()) as { id: string }[];
  await page.goto(`/replacements/${newest?.id ?? ''}${sheet}`);
}

export const SECTION_SEVEN = 6_401_100 + 7 * 37;

/** The tile of a position on the register. */
export const tile = (page: Page, tag: string) => page.locator('[data-position]').filter({ hasText: tag });

/** Every kind of screen of the demo plant that can be opened by its address. */
export const SCREENS = [
  '/',
  '/positions/KL1-RD-09?a=default',
  '/positions/KL1-CA-01/checks',
  '/positions/KL1-RD-03/now',
  '/positions/KL1-FD-01/traces',
  '/positions/KL1-RD-03/proofs',
  '/positions/KL1-RD-03/identify',
  '/models/toreka-f3@1?part=faults',
  '/calculate/motor?position=KL1-RD-03',
  '/calculate/signal?position=GL-PU-01',
  '/jobs',
  '/rounds',
  '/compare',
  '/logbook',
  '/models',
  '/models/halvern-hn64@1?find=ramp',
  '/models/toreka-c7@1?part=terminals',
  '/models/toreka-c7@1?part=ways',
  '/models/halvern-hn64@2/changes?since=halvern-hn64@1',
  '/models/halvern-hn64@1/dry-run',
  '/models/new',
  '/look-up?find=ramp',
  '/positions/KL1-RD-01/import',
  '/?as=table',
  '/register/plant-list',
  '/register/find-units',
  '/register/places',
  '/positions/KL1-RD-07?three=yes',
  '/positions/KL1-RD-07/record',
  '/positions/BP-AG-01/wiring',
  '/positions/BP-AG-01/dry-run?do=on.at~S1~1.at~S1~0',
  '/positions/BP-AG-02/successor?model=halvern-hn64@1',
  '/replace',
  '/cross-references/halvern-hn20/halvern-hn64',
  '/setting-tables',
  '/drafts',
  '/starting-points/belt-presets',
  '/positions/GL-BE-03?a=baseline:1',
  '/compare/behaviour?a=BP-AG-01&b=GL-BE-03',
  '/positions/KL1-RD-07/parameters/01R?peers=yes',
  '/positions/GL-BE-02/read-off',
  '/compare/two?a=BP-AG-01&b=GL-BE-03',
  '/motors',
  '/motors/new',
  '/positions/KL1-RD-07/reset',
  '/positions/KL1-RD-07/set',
  '/positions/SP-ST-01/axes',
  '/lines',
  '/site',
  '/plant',
  '/people',
  '/account',
  '/register/labels',
];
