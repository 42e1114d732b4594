// One project per package; sources are read directly, nothing has to be built first.

import { join } from 'node:path';

const swc = {
  '^.+\\.(t|j)sx?$': [
    '@swc/jest',
    {
      jsc: {
        target: 'es2022',
        parser: { syntax: 'typescript', tsx: true, decorators: true },
        transform: { legacyDecorator: true, decoratorMetadata: true, react: { runtime: 'automatic' } },
        keepClassNames: true,
      },
      module: { type: 'es6' },
    },
  ],
};

const project = (displayName, folder, more = {}) => ({
  displayName,
  rootDir: folder,
  testMatch: ['<rootDir>/src/**/*.spec.{ts,tsx}'],
  testPathIgnorePatterns: ['/dist/'],
  transform: swc,
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  testEnvironment: 'node',
  testEnvironmentOptions: { customExportConditions: ['source', 'node', 'node-addons'] },
  ...more,
});

const core = project('core', 'packages/core');
const api = project('api', 'packages/api');
const plantSim = project('plant-sim', 'packages/plant-sim');
const server = project('server', 'apps/server', {
  testPathIgnorePatterns: ['/dist/', '\\.database\\.spec\\.ts$'],
});
const database = project('server with database', 'apps/server', {
  testMatch: ['<rootDir>/src/**/*.database.spec.ts'],
});
const web = project('web', 'apps/web', {
  testEnvironment: 'jsdom',
  testEnvironmentOptions: { customExportConditions: ['source', 'browser'] },
  setupFiles: ['<rootDir>/src/testing/browser-gaps.ts'],
  setupFilesAfterEnv: ['<rootDir>/src/testing/patience.ts'],
  moduleNameMapper: { '\\.css$': '<rootDir>/src/testing/no-style.ts' },
});

const PARTS = {
  /** What needs no database. */
  unit: [core, api, plantSim, server, web],
  database: [database],
  /** What speaks to units within their time. */
  server: [database, server, plantSim],
  /** What only computes and draws. */
  plain: [core, api, web],
};

export default {
  projects: PARTS[process.env.JEST_PART] ?? [...PARTS.unit, database],
  testSequencer: join(import.meta.dirname, 'scripts/setup/long-first.mjs'),
  // Making a whole plant with two years of history takes half a minute on a busy machine; a server that was given up in
  // the middle of it would go on into the suites after it.
  testTimeout: 120_000,
};
