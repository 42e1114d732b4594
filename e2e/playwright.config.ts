// The real interface in headless Chromium, on a demo plant of its own that `npm start` makes.

import { join } from 'node:path';
import { defineConfig } from '@playwright/test';

const root = join(import.meta.dirname, '..');
const data = join(root, '.test/e2e');
const port = 8497;

process.env['E2E_DATA'] = data;

const LOOKS_ONLY = ['access', 'slow'];
const PROJECTS = [
  'register',
  'position',
  'decisions',
  'keeping',
  'models',
  'record',
  'writing',
  'replacing',
  'checks',
  'live',
  'proving',
  'drafting',
  'site',
  'own',
  ...LOOKS_ONLY,
];

export default defineConfig({
  testDir: '.',
  outputDir: join(root, '.test/results'),
  workers: 2,
  // One plant for all: the tests follow each other in this order. The register shows the plant as it was made, the later
  // ones change it; those of the last only look, and do so side by side.
  projects: PROJECTS.map((name, at) => ({
    name,
    testMatch: `${name}.spec.ts`,
    dependencies: PROJECTS.slice(Math.max(0, at - 1), at),
    fullyParallel: LOOKS_ONLY.includes(name),
  })),
  timeout: 60_000,
  expect: { timeout: 15_000 },
  reporter: [['list'], ['json']],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
    screenshot: 'only-on-failure',
  },
  webServer: {
    command: `node ${join(root, 'scripts/start.mjs')} --fresh --port ${port} --data ${data}`,
    url: `http://127.0.0.1:${port}/api/health`,
    env: { DRIVE_KEEP_TEST: '1' },
    timeout: 240_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 20_000 },
  },
});
