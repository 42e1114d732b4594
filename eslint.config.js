import a11y from 'eslint-plugin-jsx-a11y';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  {
    ignores: [
      '**/dist/**',
      '**/dist-types/**',
      '**/.types/**',
      'apps/web/vite.config.ts',
      '.data/**',
      '.test/**',
      '.cache/**',
    ],
  },
  {
    files: ['**/*.ts', '**/*.tsx'],
    extends: [tseslint.configs.recommendedTypeChecked],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      eqeqeq: 'error',
      'max-lines-per-function': ['error', { max: 80, skipBlankLines: true, skipComments: true }],
      '@typescript-eslint/consistent-type-imports': [
        'error',
        { fixStyle: 'inline-type-imports', disallowTypeAnnotations: false },
      ],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true },
      ],
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
    },
  },
  {
    files: ['apps/web/src/**/*.tsx', 'apps/web/src/**/*.ts'],
    extends: [hooks.configs.flat.recommended, a11y.flatConfigs.recommended],
    rules: {
      // Nothing is compiled.
      'react-hooks/incompatible-library': 'off',
      // A field that somebody has just opened is the one to type in.
      'jsx-a11y/no-autofocus': 'off',
      // What scrolls is scrolled by keys, too.
      'jsx-a11y/no-noninteractive-tabindex': ['error', { roles: ['region', 'table'] }],
    },
  },
  {
    // A decorated signature needs the class itself, not only its type.
    files: ['apps/server/**/*.ts'],
    rules: { '@typescript-eslint/consistent-type-imports': 'off' },
  },
  {
    // The core knows no machine, no clock and no chance: they are arguments.
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.spec.ts', 'packages/core/src/testing/**'],
    rules: {
      'no-restricted-globals': [
        'error',
        'process',
        'Buffer',
        'window',
        'document',
        'fetch',
        'setTimeout',
        'Date',
        'crypto',
      ],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }],
    },
  },
  {
    files: ['**/*.spec.ts', '**/*.spec.tsx', 'e2e/**/*.ts'],
    rules: { 'max-lines-per-function': 'off' },
  },
);
