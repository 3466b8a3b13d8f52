import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import ts from 'typescript-eslint';
import { arrowBlocks, FAMILY_IDS, familyIdSelectors } from './scripts/lib/arrows.mjs';

const EDGE = 'The core only computes: text is read, and waited, at its edges.';
const CLOCK = 'Time is an argument here: take `now` or `atMs` instead.';

const noFamilyIds = familyIdSelectors(FAMILY_IDS);

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
    // Rules that need types are another program's work (.oxlintrc.json): it asks a compiler that is many times faster.
    extends: [...ts.configs.recommended],
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
    },
  },
  {
    // A function that says one thing is read at once; a story or a group of tests is as long as what it tells.
    files: ['{core,contract,formats,server,sim,web,scripts,perf}/**/*.{ts,tsx,mjs}'],
    ignores: ['**/*.spec.{ts,tsx}'],
    rules: { 'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }] },
  },
  ...arrowBlocks,
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
        ...noFamilyIds,
      ],
    },
  },
  {
    // The simulator has kinds of its own, which the core does not know, and populations draw cases of every family.
    files: ['{server,web,contract}/**/*.{ts,tsx}'],
    ignores: ['**/*.spec.{ts,tsx}', '**/testing/**'],
    rules: { 'no-restricted-syntax': ['error', ...noFamilyIds] },
  },
  {
    // The families themselves.
    files: ['core/families/*/*.ts', 'core/kin/*.ts', 'core/solutions/*.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: CLOCK },
      ],
    },
  },
  {
    // What would need those rules is not the core's work.
    files: ['core/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        ...['JSON', 'Promise', 'fetch', 'setTimeout'].map((name) => ({ name, message: EDGE })),
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
