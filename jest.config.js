// One project per package; sources are read directly, nothing has to be built first.

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

const unit = [
  project('core', 'packages/core'),
  project('api', 'packages/api'),
  project('plant-sim', 'packages/plant-sim'),
  project('server', 'apps/server', { testPathIgnorePatterns: ['/dist/', '\\.database\\.spec\\.ts$'] }),
  project('web', 'apps/web', {
    testEnvironment: 'jsdom',
    testEnvironmentOptions: { customExportConditions: ['source', 'browser'] },
    setupFiles: ['<rootDir>/src/testing/browser-gaps.ts'],
    moduleNameMapper: { '\\.css$': '<rootDir>/src/testing/no-style.ts' },
  }),
];

const database = [
  project('server with database', 'apps/server', {
    testMatch: ['<rootDir>/src/**/*.database.spec.ts'],
  }),
];

export default {
  projects:
    process.env.JEST_PART === 'unit'
      ? unit
      : process.env.JEST_PART === 'database'
        ? database
        : [...unit, ...database],
  // Making a whole plant with two years of history takes half a minute on a busy machine; a server that was given up in
  // the middle of it would go on into the suites after it.
  testTimeout: 120_000,
};
