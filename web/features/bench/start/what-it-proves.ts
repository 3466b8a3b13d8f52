import { familyOf, modelOf, provable, significantStep, type Proves, type Standard } from '@frustum/core';
import type { SensorView } from '@frustum/contract';
import { inFamily } from '../../../format/in-family.ts';

const WORDS: Readonly<Record<Proves, string>> = {
  enough: 'enough to tell.',
  'only the middle': 'enough for an error in the middle of the tolerance only.',
  nothing: 'nothing can be proven with that. Take standards or a thermometer of a smaller ±.',
};

/** A sensor of which no run has told anything: as uncertain as that. */
const UNKNOWN = { zeroSd: 10, sensitivitySd: 0.05 };

/**
 * What a run in these standards can prove of the loop's tolerance, before it begins: "Will know the error to ±0.03 pH against
 * ±0.15: enough to tell."
 *
 * @returns null where the standards determine nothing yet
 */
export function provesWords({ row, past }: SensorView, standards: readonly Standard[]): string | null {
  const family = familyOf(row.family);
  const figures = inFamily(row);
  const known = past.at(-1)?.known ?? { ...row.inForce, ...UNKNOWN };
  const { workingValue, workingC, tolerance, inForce, settings } = row;
  const step = row.shownAs.step === null ? null : figures.written.ownSize(row.shownAs.step);
  const made = provable({
    family: row.family,
    settings,
    inForce,
    expected: known,
    points: standards.map((standard) => ({ standard, lot: { id: '', label: '' } })),
    workingC,
    workingValue,
    tolerance,
    limits: row.limits,
    resolution: step ?? 0.2 * significantStep(family, modelOf(family, settings), { value: workingValue, temperatureC: workingC }), // prettier-ignore
  });
  if (!made) return null;
  const { unit } = figures;
  return `Will know the error to ±${figures.size(made.expanded)} ${unit} against ±${figures.size(tolerance)}: ${WORDS[made.proves]}`;
}
