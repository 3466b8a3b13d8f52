import { ESLint, Linter } from 'eslint';
import { describe, expect, it } from 'vitest';
import { ARROWS, arrowBlocks, familyIdSelectors, FEATURES } from './arrows.mjs';

/** The arrows alone: the other rules need types, and have nothing to say here. */
const linter = new ESLint({
  overrideConfigFile: true,
  overrideConfig: [{ files: ['**/*.{ts,tsx}'] }, ...(arrowBlocks as Linter.Config[])],
});

async function refusals(filePath: string, imported: string): Promise<string[]> {
  const [result] = await linter.lintText(`import ${JSON.stringify(imported)};`, { filePath });
  return result!.messages.map(({ ruleId }) => ruleId ?? 'not parsed');
}
const REFUSED = ['no-restricted-imports'];

/** A file of each room. */
const ROOMS: Record<string, string[]> = {
  core: ['core/drift/cone.ts'],
  contract: ['contract/runs.ts'],
  formats: ['formats/trace/csv.ts'],
  server: ['server/app.ts', 'server/services/runs.ts', 'server/routes/api.ts'],
  web: ['web/app/store.ts', 'web/charts/tick.ts', ...FEATURES.map((f) => `web/features/${f}/part.tsx`)],
  sim: ['sim/physics/body.ts'],
};
const HOUSE = [...Object.keys(ARROWS), 'e2e', 'perf'];

describe('arrows between the parts', () => {
  for (const [from, to] of Object.entries(ARROWS) as [string, string[]][])
    it(`${from} knows ${to.join(', ') || 'no other part'}, from each of its rooms`, async () => {
      for (const file of ROOMS[from]!)
        for (const other of HOUSE.filter((name) => name !== from)) {
          const path = `${'../'.repeat(file.split('/').length - 1)}${other}/index.ts`;
          expect(await refusals(file, `@frustum/${other}`), `${file} → ${other}`).toEqual(
            to.includes(other) ? [] : REFUSED,
          );
          expect(await refusals(file, path), `${file} → ${path}`).toEqual(REFUSED);
        }
    });

  it('routes call services, not the store; services call both', async () => {
    expect(await refusals('server/routes/api.ts', '../store/open.ts')).toEqual(REFUSED);
    expect(await refusals('server/routes/api.ts', '../services/runs.ts')).toEqual([]);
    expect(await refusals('server/services/runs.ts', '../store/open.ts')).toEqual([]);
  });

  it('no feature of the screen imports a second feature, by the list of their folders', async () => {
    expect(FEATURES).toContain('alarms');
    for (const feature of FEATURES)
      for (const other of FEATURES) {
        const expected = other === feature ? [] : REFUSED;
        if (other !== feature)
          expect(await refusals(`web/features/${feature}/part.tsx`, `../${other}/part.tsx`)).toEqual(expected);
        expect(await refusals(`web/features/${feature}/part.tsx`, `./${other}.tsx`)).toEqual([]);
      }
    expect(await refusals('web/features/bench/part.tsx', '../../ui/notice.tsx')).toEqual([]);
    expect(await refusals('web/features/bench/start/part.tsx', '../../margins/row.tsx')).toEqual(REFUSED);
    expect(await refusals('web/features/bench/start/part.tsx', '../enter/part.tsx')).toEqual([]);
  });

  it('tests look wherever they must', async () => {
    expect(await refusals('core/drift/cone.spec.ts', '@frustum/sim')).toEqual([]);
    expect(await refusals('server/testing/cast.ts', '../../sim/index.ts')).toEqual([]);
  });
});

describe('comparing a family’s id outside of its folder', () => {
  const found = (code: string) =>
    new Linter()
      .verify(code, [{ rules: { 'no-restricted-syntax': ['error', ...familyIdSelectors(['ph', 'ion', 'orp'])] } }])
      .map(({ ruleId }) => ruleId);

  it.each([
    "if (plan.family === 'ph') go();",
    "if ('ion' !== family.id) go();",
    "switch (plan.family) { case 'orp': go(); }",
    "if (family.startsWith('ph')) go();",
    "if (plan.family.startsWith('ph')) go();",
    "if (plan.family.includes('ion')) go();",
    "if (family.id.startsWith('ph')) go();",
    "if (loop.family.id.startsWith('ph')) go();",
    'if (CELLS.includes(plan.family)) go();',
    'const words = WORDS[plan.family];',
    'const words = WORDS[family];',
  ])('is found in %s', (code) => expect(found(code)).toEqual(['no-restricted-syntax']));

  it.each(["const family = 'ph';", "if (state === 'ready') go();", "if (name.startsWith('ph')) go();"])(
    'is not found in %s',
    (code) => expect(found(code)).toEqual([]),
  );
});
