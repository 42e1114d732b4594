// npm test: formatting, lint, import rules, types, unit tests, server tests against a real PostgreSQL and the simulated
// plant, tests of the real interface in Chromium. Ends with `N passed, N failed` over all of them, and exits by it.
// npm run check (--quick) does the part that needs neither database nor browser.

import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuilt } from './setup/build.mjs';
import { ensureChromium } from './setup/chromium.mjs';
import { run, succeeds } from './setup/command.mjs';
import { root } from './setup/folders.mjs';
import { ensurePackages, requireNode } from './setup/packages.mjs';
import { Cluster, postgresBin } from './setup/postgres.mjs';
import { runMain, say } from './setup/say.mjs';

const quick = process.argv.includes('--quick');
const folder = join(root, '.test');

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
async function suite(name, file, command, env, counts) {
  rmSync(file, { force: true });
  const [program, ...args] = command;
  const { code } = await run(program, args, { cwd: root, show: true, env: { ...process.env, ...env } });
  const { passed, failed } = existsSync(file)
    ? counts(JSON.parse(readFileSync(file, 'utf8')))
    : { passed: 0, failed: 1 };
  count(name, passed, failed === 0 && code !== 0 ? 1 : failed);
}

function jest(name, part, { env = {}, before = [], more = [] }) {
  const file = join(folder, `jest-${part}.json`);
  const command = [...before, 'npx', 'jest', '--json', `--outputFile=${file}`, '--silent', ...more];
  return suite(name, file, command, { ...env, JEST_PART: part }, (result) => ({
    passed: result.numPassedTests,
    failed: result.numFailedTests + result.numRuntimeErrorTestSuites,
  }));
}

async function serverTests() {
  const cluster = new Cluster(folder, await postgresBin(), { fast: true });
  try {
    const url = await cluster.start();
    // Suites of one run share what takes long to make.
    const env = { TEST_DATABASE_URL: url, TEST_RUN: randomBytes(6).toString('hex'), SERVER_BUILT: '1' };
    // Three at a time: they wait for units and for processes as long as they compute.
    await jest('server and units', 'server', { env, more: ['--maxWorkers=3'] });
  } finally {
    cluster.stop();
  }
}

async function interfaceTests() {
  const chromium = await ensureChromium();
  await ensureBuilt();
  const file = join(folder, 'playwright.json');
  const env = { CHROMIUM: chromium, PLAYWRIGHT_JSON_OUTPUT_NAME: file };
  const command = ['npx', 'playwright', 'test', '--config', 'e2e/playwright.config.ts'];
  // What passes only at a second try has failed.
  await suite('interface in Chromium', file, command, env, ({ stats }) => ({
    passed: stats.expected,
    failed: stats.unexpected + stats.flaky,
  }));
}

/** What is right or wrong without running anything of it. */
async function sources() {
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
}

const types = () => check('types', 'tsc', '-b');

/** They have neither units nor people who wait: whatever else runs goes first, where the system knows how. */
function plainTests() {
  const before = succeeds('nice', ['true']) ? ['nice', '-n', '15'] : [];
  return jest('core and screens', 'plain', { before, more: ['--maxWorkers=2'] });
}

/** All but the database and the browser, and ten thousand damaged files, which take a minute of their own. */
const quickTests = () =>
  jest('unit tests', 'unit', {
    more: ['--maxWorkers=2', '--testPathIgnorePatterns', 'robustness', '/dist/', 'database'],
  });

await runMain(async () => {
  requireNode();
  await ensurePackages();
  mkdirSync(folder, { recursive: true });
  if (quick) {
    await sources();
    await types();
    await quickTests();
  } else {
    // Servers of tests are the compiled ones.
    await Promise.all([sources(), types().then(serverTests)]);
    await Promise.all([plainTests(), interfaceTests()]);
  }
  say(`${total.passed} passed, ${total.failed} failed`);
  process.exitCode = total.failed === 0 ? 0 : 1;
});
