import { expect, test, type Page } from '@playwright/test';
import { changeUnit, joinedAt, signIn } from './plant.ts';

const TAG = 'KL1-RD-05';
const SECTION = 6_401_100 + 5 * 37;

const step = (page: Page, id: string) => page.locator(`[data-step="${id}"]`);
const proofsOf = async (page: Page) =>
  (await (await page.request.get(`/api/positions/${TAG}/proofs`)).json()) as {
    runs: { id: string; state: string; passed: number }[];
  };

test('a proof run finds the wire that sits at the terminal of another, and goes on when the line is lost', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await changeUnit(SECTION, { runContact: false });
  await signIn(page, 'technician');
  await page.goto(`/positions/${TAG}`);
  await page.getByRole('link', { name: 'Proofs', exact: true }).click();
  await expect(page.getByText('No proof run yet.')).toBeVisible();
  await page.getByLabel('Why').fill('After the section was wired anew');
  await page.getByRole('button', { name: 'Begin a proof run' }).click();
  await expect(page.getByText(/Every outcome that its contacts and keys can reach/)).toBeVisible();

  // Two wires of the selector have changed their places.
  const [one, two] = [await joinedAt(SECTION, '25'), await joinedAt(SECTION, '26')];
  await changeUnit(SECTION, { cross: [one, two] });
  const speed = step(page, 'S2=1');
  await speed.getByRole('button', { name: /S2 \(speed\) at 1/ }).click();
  await speed.getByRole('button', { name: 'Watch while I do it' }).click();
  await expect(speed.getByText('Now: S2 (speed) at 1')).toBeVisible({ timeout: 15_000 });
  await changeUnit(SECTION, { devices: { S2: 1 } });
  await expect(speed.getByText('Not as it should be.')).toBeVisible({ timeout: 15_000 });
  await expect(speed.getByText(/terminal 26 instead of terminal 25/)).toBeVisible();
  await expect(speed.getByText(/wire \S+ from S2:\d+ sits at terminal 26, and belongs to 25/)).toBeVisible();
  // What was read says otherwise: nobody passes it with a touch.
  await speed.getByRole('button', { name: '✓ Passed' }).click();
  await expect(speed.getByText('What was read says otherwise: say what was seen.')).toBeVisible();
  await speed.getByRole('button', { name: '✕ Failed' }).click();
  await expect(speed.getByText('✕ failed', { exact: true })).toBeVisible();
  await expect(page.getByText('All words are on the server.')).toBeVisible();

  // Put right, and shown.
  await changeUnit(SECTION, { devices: { S2: 0 } });
  await changeUnit(SECTION, { cross: [one, two] });
  await speed.getByRole('button', { name: 'Watch it again' }).click();
  await expect(speed.getByText('Now: S2 (speed) at 1')).toBeVisible({ timeout: 15_000 });
  await changeUnit(SECTION, { devices: { S2: 1 } });
  await expect(speed.getByText('Seen by the line.')).toBeVisible({ timeout: 15_000 });
  await expect(speed.getByText('the last of 2 attempts, all are kept')).toBeVisible();
  await speed.getByRole('button', { name: '✓ Passed' }).click();
  await expect(speed.getByText('✓ passed', { exact: true })).toBeVisible();
  await changeUnit(SECTION, { devices: { S2: 0 } });

  // The line is lost in the middle of the next.
  const run = step(page, 'S1=1 S2=3');
  await run.getByRole('button', { name: /^S1 \(run\) worked, S2/ }).click();
  await run.getByRole('button', { name: 'Watch while I do it' }).click();
  await expect(run.getByText('Now: S1 (run) worked')).toBeVisible({ timeout: 15_000 });
  await changeUnit(SECTION, { devices: { S1: 1 } });
  await expect(run.getByText('Now: S2 (speed) at 3')).toBeVisible({ timeout: 15_000 });
  await changeUnit(SECTION, { mischief: { silent: true } });
  await expect(run.getByText(/did not answer within/)).toBeVisible({ timeout: 15_000 });
  await expect(run.getByText('Now: Everything at rest')).toBeVisible();
  await changeUnit(SECTION, { mischief: { silent: false }, runContact: false });
  await expect(run.getByText('Now: S1 (run) worked')).toBeVisible({ timeout: 30_000 });
  await changeUnit(SECTION, { devices: { S1: 1 } });
  await expect(run.getByText('Now: S2 (speed) at 3')).toBeVisible({ timeout: 15_000 });
  await changeUnit(SECTION, { devices: { S2: 3 } });
  await expect(run.getByText('Seen by the line.')).toBeVisible({ timeout: 30_000 });
  await run.getByRole('button', { name: '✓ Passed' }).click();
  await changeUnit(SECTION, { runContact: false });
});

test('a proof run is gone on with on a phone without a network, and closed at the desk', async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await phone.newPage();
  await signIn(page, 'engineer');
  const [open] = (await proofsOf(page)).runs;
  await page.goto(`/positions/${TAG}`);
  await page.getByRole('link', { name: /^Proof run of T. Pellow, 2 of \d+ steps said/ }).click();
  await expect(step(page, 'S2=1').getByText('✓ passed', { exact: true })).toBeVisible();
  await phone.setOffline(true);
  const path = step(page, 'S2=2');
  await path.getByRole('button', { name: /S2 \(speed\) at 2/ }).click();
  await path.getByRole('button', { name: '✓ Passed' }).click();
  await expect(path.getByText('As described.')).toBeVisible();
  await expect(page.getByText('No network: 1 words on this device only.')).toBeVisible({ timeout: 20_000 });
  await expect(path.getByRole('button', { name: /^Watch/ })).toBeDisabled();
  const other = step(page, 'S2=3');
  await other.getByRole('button', { name: /S2 \(speed\) at 3/ }).click();
  await other.getByRole('button', { name: '– Not done' }).click();
  await expect(other.getByText('Say why it was not done.')).toBeVisible();
  await other.getByLabel('What was seen, or why it was not done').fill('The selector has no third place now');
  await other.getByRole('button', { name: '– Not done' }).click();
  // Every target can be hit with a glove.
  for (const name of ['✓ Passed', '✕ Failed', '– Not done']) {
    const box = await other.getByRole('button', { name, exact: true }).boundingBox();
    expect(box?.height).toBeGreaterThanOrEqual(48);
  }
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
  expect(wide).toBeLessThanOrEqual(0);
  await phone.setOffline(false);
  await expect(page.getByText('All words are on the server.')).toBeVisible({ timeout: 20_000 });
  await expect(other.getByText(/R. Ashgrove/)).toBeVisible();

  // The rest is said by the same person at the desk, and the run is closed.
  const answer = await page.request.get(`/api/proofs/${open?.id ?? ''}`);
  const run = (await answer.json()) as { planned: { id: string }[]; sayings: { step: string }[] };
  const left = run.planned.filter(({ id }) => !run.sayings.some((each) => each.step === id));
  const toldAt = new Date().toISOString();
  await page.request.put(`/api/proofs/${open?.id ?? ''}/sayings`, {
    data: {
      sayings: left.map(({ id }) => ({
        step: id,
        verdict: 'passed',
        seen: 'As described.',
        evidence: null,
        toldAt,
      })),
    },
    headers: { origin: new URL(page.url()).origin },
  });
  await page.reload();
  await page.getByRole('button', { name: 'Close the proof run' }).click();
  await expect(
    page.getByText(/^Closed by R. Ashgrove, .* steps passed, 0 failed, 1 not done\.$/),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: '✓ Passed', exact: true })).toHaveCount(0);
  await page.goto(`/positions/${TAG}/proofs`);
  await expect(page.getByText(/closed: \d+ of \d+ passed, 1 not done/)).toBeVisible();
  await page.goto(`/positions/${TAG}`);
  await expect(page.getByRole('link', { name: /^Proof run of .* passed$/ })).toHaveCount(1);
  await phone.close();
});

test('a proof run that failed at one contact is read as it was closed, and leaves as a paper', async ({
  page,
}) => {
  await signIn(page, 'viewer');
  await page.goto('/positions/KL1-RD-03');
  await page.getByRole('link', { name: /^Proof run of .*: 18 of 20 passed, 1 failed/ }).click();
  await expect(page.getByText(/18 of 20 steps passed, 1 failed, 1 not done/)).toBeVisible();
  const path = step(page, 'S2=2');
  await path.getByRole('button', { name: /S2 \(speed\) at 2/ }).click();
  await expect(path.getByText(/Terminal 26 did not move: wire \S+ from S2:\d+ is likely open/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Close the proof run' })).toHaveCount(0);
  const id = new URL(page.url()).pathname.split('/').at(-1) ?? '';
  const paper = await page.request.get(`/api/proofs/${id}/proof-record?format=csv`);
  expect(await paper.text()).toContain('FAILED');
  const printed = await page.request.get(`/api/proofs/${id}/proof-record?format=pdf`);
  expect((await printed.body()).subarray(0, 5).toString()).toBe('%PDF-');
});
