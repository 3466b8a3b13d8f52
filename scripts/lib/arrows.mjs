// Who may import whom (docs/decisions/01-arrows.md), as one ESLint block for each room of the house.
import { readdirSync } from 'node:fs';
import { join } from 'node:path';

const root = join(import.meta.dirname, '../..');

/** Which workspaces a workspace may know. */
export const ARROWS = {
  core: [],
  contract: ['core'],
  formats: ['core'],
  server: ['core', 'contract', 'formats'],
  web: ['core', 'contract', 'formats'],
  sim: ['core', 'formats'],
};
const HOUSE = [...Object.keys(ARROWS), 'e2e', 'perf'];

/** Features of the screen, from their folders: a new one is in the list by itself. */
export const FEATURES = readdirSync(join(root, 'web/features'), { withFileTypes: true })
  .filter((entry) => entry.isDirectory())
  .map(({ name }) => name);

/** Tests may look wherever they must: the simulator is the judge of the core. */
const TESTS = ['**/*.spec.ts', '**/*.spec.tsx', '*/testing/**'];

/** Patterns that keep a workspace from knowing the others: by package name, and by a path that climbs out of itself. */
function strangersOf(from) {
  const strangers = HOUSE.filter((other) => other !== from && !ARROWS[from].includes(other));
  return [
    {
      group: strangers.flatMap((name) => [`@frustum/${name}`, `@frustum/${name}/**`]),
      message: `${from} must not know this part of the house (docs/decisions/01-arrows.md).`,
    },
    {
      regex: `^(\\.\\./)+(${HOUSE.filter((other) => other !== from).join('|')})/`,
      message: 'Another workspace is reached by its name, through its index.',
    },
  ];
}

const block = (files, patterns, ignores = TESTS) => ({
  files,
  ignores,
  rules: { 'no-restricted-imports': ['error', { patterns }] },
});

/** Routes parse, call once and reply: the store is for services. */
const ROUTES = { group: ['**/store/**'], message: 'Routes call services; services call the store.' };

/** What two features share moves to charts, ui, format, app or core. */
const otherFeatures = (feature) => ({
  regex: `^(\\.\\./)+(features/)?(${FEATURES.filter((other) => other !== feature).join('|')})/`,
  message: 'Features do not import each other.',
});

/**
 * One block a room, and each file in one block only: in a flat configuration a later block replaces the rule of an
 * earlier one, so what holds for a workspace is repeated for the rooms inside it.
 */
export const arrowBlocks = [
  ...Object.keys(ARROWS)
    .filter((name) => name !== 'server' && name !== 'web')
    .map((name) => block([`${name}/**/*.{ts,tsx}`], strangersOf(name))),
  block(['server/**/*.{ts,tsx}'], strangersOf('server'), [...TESTS, 'server/routes/**']),
  block(['server/routes/**/*.ts'], [...strangersOf('server'), ROUTES]),
  block(['web/**/*.{ts,tsx}'], strangersOf('web'), [...TESTS, 'web/features/**']),
  ...FEATURES.map((feature) =>
    block([`web/features/${feature}/**/*.{ts,tsx}`], [...strangersOf('web'), otherFeatures(feature)]),
  ),
];

/** Ids of families, from their folders. */
export const FAMILY_IDS = readdirSync(join(root, 'core/families'), { withFileTypes: true })
  .filter((entry) => entry.isDirectory())
  .map(({ name }) => name);

/** A family's id in a condition: what differs by family belongs into its folder. */
export const familyIdSelectors = (ids) => {
  const id = `/^(${ids.join('|')})$/`;
  const family = '[property.name=/^(family|familyId)$/]';
  const message = 'What differs by family belongs into its folder: add it to Family instead of comparing its id.';
  return [
    `BinaryExpression[operator=/^[!=]==?$/] > Literal[value=${id}]`,
    `SwitchStatement > SwitchCase > Literal[value=${id}]`,
    `CallExpression[callee.property.name=/^(startsWith|endsWith|includes)$/][callee.object.name=/^(family|familyId)$/]`,
    `CallExpression[callee.property.name=/^(startsWith|endsWith|includes)$/] > MemberExpression > MemberExpression${family}`,
    `CallExpression[callee.property.name=/^(startsWith|endsWith)$/] > MemberExpression > MemberExpression[property.name='id'][object.name='family']`,
    `CallExpression[callee.property.name=/^(startsWith|endsWith)$/] > MemberExpression > MemberExpression[property.name='id'] > MemberExpression${family}`,
    `CallExpression[callee.property.name='includes'] > MemberExpression.arguments${family}`,
    `MemberExpression[computed=true] > MemberExpression.property${family}`,
    'MemberExpression[computed=true] > Identifier.property[name=/^(family|familyId)$/]',
  ].map((selector) => ({ selector, message }));
};
