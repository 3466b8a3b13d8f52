import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import ts from 'typescript-eslint';

/** Who may know whom: the arrows of docs/decisions/01-arrows.md. */
const ARROWS = {
  core: [],
  contract: ['core'],
  formats: ['core'],
  server: ['core', 'contract', 'formats'],
  web: ['core', 'contract', 'formats'],
  sim: ['core', 'formats'],
};
const HOUSE = ['core', 'contract', 'formats', 'server', 'web', 'sim', 'e2e', 'perf'];

/** A workspace sees only what its arrow points to: by package name, and never by a path that climbs out of itself. */
const arrows = Object.entries(ARROWS).map(([from, to]) => ({
  files: [`${from}/**/*.{ts,tsx}`],
  // Tests may look wherever they must: the simulator is the judge of the core.
  ignores: ['**/*.spec.ts', '**/*.spec.tsx', '*/testing/**'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: HOUSE.filter((w) => w !== from && !to.includes(w)).flatMap((w) => [
              `@frustum/${w}`,
              `@frustum/${w}/**`,
            ]),
            message: `${from} must not know this part of the house (docs/decisions/01-arrows.md).`,
          },
          {
            regex: `^(\\.\\./)+(${HOUSE.filter((w) => w !== from).join('|')})/`,
            message: 'Another workspace is reached by its name, through its index.',
          },
        ],
      },
    ],
  },
}));

const CLOCK = 'Time is an argument here: take `now` or `atMs` instead.';

export default ts.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      'test-results/**',
      'playwright-report/**',
      '.frustum/**',
      '.cache/**',
    ],
  },
  js.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    extends: [...ts.configs.recommendedTypeChecked],
    languageOptions: { parserOptions: { project: ['./tsconfig.lint.json'], tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/require-await': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
    },
  },
  ...arrows,
  {
    // Pure computation: no clock, no chance of its own.
    files: ['core/**/*.ts', 'formats/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: CLOCK },
        { object: 'Math', property: 'random', message: 'Chance is an argument here.' },
      ],
      'no-restricted-syntax': [
        'error',
        { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: CLOCK },
      ],
    },
  },
  {
    // Routes parse, call once and reply: the store is for services.
    files: ['server/routes/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ group: ['**/store/**'], message: 'Routes call services; services call the store.' }] },
      ],
    },
  },
  {
    // Features do not import each other: what two share moves to charts, ui, format, app or core.
    files: ['web/features/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { regex: '^\\.\\./(margins|bench|sensor|reckoner|setup)/', message: 'Features do not import each other.' },
            { group: ['@frustum/server', '@frustum/sim'], message: 'The screen knows the contract only.' },
          ],
        },
      ],
    },
  },
  {
    files: ['web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  { files: ['scripts/**/*.mjs', '*.mjs'], languageOptions: { globals: globals.node } },
);
