// Specs in one script that can be run again and again in one process, each time with fresh modules: a test asks thousands of
// times whether it would notice something, and must not start anything for it.
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join, relative } from 'node:path';
import { Script } from 'node:vm';
import {
  ASYMMETRIC_MATCHERS_OBJECT,
  GLOBAL_EXPECT,
  JestAsymmetricMatchers,
  JestChaiExpect,
  JestExtend,
  setState,
} from '@vitest/expect';
import * as chai from 'chai';
import { build } from 'esbuild';
import { root } from './root.mjs';

chai.use(JestExtend);
chai.use(JestChaiExpect);
chai.use(JestAsymmetricMatchers);
const expect = (value, message) => chai.expect(value, message);
Object.assign(expect, chai.expect);

globalThis[GLOBAL_EXPECT] ??= expect;
globalThis[ASYMMETRIC_MATCHERS_OBJECT] ??= {};
setState({ assertionCalls: 0, isExpectingAssertions: false, expectedAssertionsNumber: null }, expect);

/** What specs import of vitest: tests are gathered, not run. */
function gathering(tests) {
  const names = [];
  const printed = (name, row) => `${name} ${JSON.stringify(row) ?? ''}`.slice(0, 200);
  const rows = (list) => (Array.isArray(list) ? list : [...list]);
  const spread = (row) => (Array.isArray(row) ? row : [row]);
  const it = (name, body) => tests.push({ name: [...names, name].join(' › '), body });
  it.each = (list) => (name, body) => rows(list).forEach((row) => it(printed(name, row), () => body(...spread(row))));
  const describe = (name, body) => {
    names.push(name);
    body();
    names.pop();
  };
  describe.each = (list) => (name, body) =>
    rows(list).forEach((row) => describe(printed(name, row), () => body(...spread(row))));
  describe.skipIf = (skip) => (skip ? () => {} : describe);
  it.skipIf = (skip) => (skip ? () => {} : it);
  return { describe, it, test: it, expect, beforeAll: (body) => body(), afterAll: () => {} };
}

/**
 * Specs as one script.
 *
 * @param specs paths from the root
 * @param changed source of a file of the core, by its path from the root, as it is to be run
 * @returns a function that gathers their tests anew, with `globalThis.__moved` as it is then
 */
export async function inOne(specs, changed) {
  const entry = `${specs.map((s) => `import ${JSON.stringify(`./${s}`)};`).join('\n')}`;
  const made = await build({
    stdin: { contents: entry, resolveDir: root, loader: 'ts' },
    bundle: true,
    write: false,
    format: 'cjs',
    platform: 'node',
    target: 'node20',
    ignoreAnnotations: true,
    logLevel: 'error',
    external: ['vitest', 'fast-check', 'ml-matrix'],
    plugins: [
      {
        name: 'core',
        setup(b) {
          b.onLoad({ filter: /\/core\/.*\.ts$/ }, ({ path }) => {
            const source = readFileSync(path, 'utf8');
            const contents = (changed(relative(root, path), source) ?? source)
              .replaceAll('import.meta.dirname', JSON.stringify(dirname(path)))
              // The examples of a file are run with what it exports: everything of the core will do.
              .replaceAll('await import(file)', '{}');
            return { contents, loader: 'ts' };
          });
        },
      },
    ],
  });
  const script = new Script(`(function (require, module, exports) {${made.outputFiles[0].text}\n})`, {
    filename: 'specs.cjs',
  });
  const require = createRequire(join(root, 'package.json'));
  return () => {
    const tests = [];
    const vitest = gathering(tests);
    const module = { exports: {} };
    script.runInThisContext()((id) => (id === 'vitest' ? vitest : require(id)), module, module.exports);
    return tests;
  };
}
