// npm test: formatting, lint, import rules, types, unit tests, server tests against a real PostgreSQL and the simulated
// plant, tests of the real interface in Chromium. Ends with `N passed, N failed` over all of them, and exits by it.
// npm run check (--quick) does the part that needs neither database nor browser.

import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuilt } from './setup/build.mjs';
import { ensureChromium } from './setup/chromium.mjs';
import { run } from './setup/command.mjs';
import { root } from './setup/folders.mjs';
import { ensurePackages, requireNode } from './setup/packages.mjs';
import { Cluster, postgresBin } from './setup/postgres.mjs';
import { runMain, say } from './setup/say.mjs';

const quick = process.argv.includes('--quick');
const folder = join(root, '.test');
const JEST_OPTIONS = '--experimental-vm-modules --disable-warning=ExperimentalWarning';

const total = { passed: 0, failed: 0 };

function count(name, passed, failed) {
  total.passed += passed;
  total.failed += failed;
  say(`${failed === 0 ? '✓' : '✗'} ${name}: ${passed} passed, ${failed} failed`);
}

/** A tool that is right or wrong as a whole. */
async function check(name, ...args) {
  const { code, output } = await run('npx', args, { cwd: root });
  if (code !== 0) say(output);
  count(name, code === 0 ? 1 : 0, code === 0 ? 0 : 1);
}

/** A suite that writes its counts to a file; one that ends without doing so counts as a failure. */
async function suite(name, file, args, env, counts) {
  rmSync(file, { force: true });
  const { code } = await run('npx', args, { cwd: root, show: true, env: { ...process.env, ...env } });
  const { passed, failed } = existsSync(file)
    ? counts(JSON.parse(readFileSync(file, 'utf8')))
    : { passed: 0, failed: 1 };
  count(name, passed, failed === 0 && code !== 0 ? 1 : failed);
}

function jest(name, part, env = {}, more = []) {
  const file = join(folder, `jest-${part}.json`);
  const args = ['jest', '--json', `--outputFile=${file}`, '--silent', ...more];
  return suite(name, file, args, { ...env, JEST_PART: part, NODE_OPTIONS: JEST_OPTIONS }, (result) => ({
    passed: result.numPassedTests,
    failed: result.numFailedTests + result.numRuntimeErrorTestSuites,
  }));
}

async function serverTests() {
  const cluster = new Cluster(folder, await postgresBin(), { fast: true });
  try {
    const url = await cluster.start();
    // Suites of one run share what takes long to make.
    const run = { TEST_DATABASE_URL: url, TEST_RUN: randomBytes(6).toString('hex') };
    // Two at a time: they wait for units and for processes longer than they compute.
    await jest('server with database', 'database', run, ['--maxWorkers=2']);
  } finally {
    cluster.stop();
  }
}

async function interfaceTests() {
  const chromium = await ensureChromium();
  await ensureBuilt();
  const file = join(folder, 'playwright.json');
  const env = { CHROMIUM: chromium, PLAYWRIGHT_JSON_OUTPUT_NAME: file };
  const args = ['playwright', 'test', '--config', 'e2e/playwright.config.ts'];
  await suite('interface in Chromium', file, args, env, ({ stats }) => ({
    passed: stats.expected + stats.flaky,
    failed: stats.unexpected,
  }));
}

/** What needs neither database nor browser. */
async function ownTests() {
  await check('formatting', 'prettier', '--check', '--log-level', 'warn', '.');
  await check('lint', 'eslint', '.', '--cache', '--cache-location', '.cache/eslint', '--max-warnings', '0');
  await check(
    'import rules',
    'depcruise',
    'packages/core/src',
    'packages/api/src',
    'packages/plant-sim/src',
    'apps/server/src',
    'apps/web/src',
  );
  await check('types', 'tsc', '-b');
  // Ten thousand damaged files take a minute of their own.
  const less = quick ? ['--testPathIgnorePatterns', 'robustness', '/dist/', 'database'] : [];
  await jest('unit tests', 'unit', {}, ['--maxWorkers=2', ...less]);
}

await runMain(async () => {
  requireNode();
  await ensurePackages();
  mkdirSync(folder, { recursive: true });
  // Each of these keeps one processor busy; the interface needs several for itself.
  await Promise.all([ownTests(), ...(quick ? [] : [serverTests()])]);
  if (!quick) await interfaceTests();
  say(`${total.passed} passed, ${total.failed} failed`);
  process.exitCode = total.failed === 0 ? 0 : 1;
});
