import { gamma } from './liquids.ts';
import { thermalMv } from './thermal.ts';

/** Molality of fresh electrolyte, mol/kg KCl. */
export const FRESH_KCL = 3;

/** A silver chloride reference, which several sensors of one body may share. */
export interface ReferenceTruth {
  /** KCl left, mol/kg */
  readonly kcl: number;
  /** what foreign salts inside add, mV */
  readonly contaminationMv: number;
  /** potential that a blocked junction adds in samples and not in buffers, mV */
  readonly blockedMv: number;
  /** resistance of the junction, kΩ */
  readonly junctionKohm: number;
}

export const FRESH_REFERENCE: ReferenceTruth = { kcl: FRESH_KCL, contaminationMv: 0, blockedMv: 0, junctionKohm: 6 };

/** Standard potential of silver chloride at 25 °C, mV, and how it falls with warmth (from memory of handbook tables). */
const E0_MV = 222.33;
const E0_MV_PER_C = -0.65;

/**
 * Against standard hydrogen, mV, by the activity of chloride. The core has tables of whole cells with their junction; for
 * 3 mol/kg at 25 °C both give 208.6 to 210 mV.
 */
export function referenceMv({ kcl, contaminationMv }: ReferenceTruth, temperatureC: number): number {
  const activity = kcl * gamma(kcl);
  return E0_MV + E0_MV_PER_C * (temperatureC - 25) - thermalMv(temperatureC) * Math.log(activity) + contaminationMv;
}

/** By how much this reference stands above a fresh one, mV: every sensor on it reads lower by that. */
export const shiftOf = (reference: ReferenceTruth, temperatureC: number) =>
  referenceMv(reference, temperatureC) - referenceMv(FRESH_REFERENCE, temperatureC);
