import { Refusal } from '../quantities/refusal.ts';
import { ELECTRICAL } from '../electrical/as-family.ts';
import { CHLORINE } from './chlorine/family.ts';
import { CONDUCTIVITY } from './conductivity/family.ts';
import type { Family } from '../sensor/family.ts';
import { ION } from './ion/family.ts';
import { NITRATE } from './nitrate/family.ts';
import { ORP } from './orp/family.ts';
import { OXYGEN_MEMBRANE } from './oxygen-membrane/family.ts';
import { OXYGEN_OPTICAL } from './oxygen-optical/family.ts';
import { PH } from './ph/family.ts';
import { PH_COUNTS } from './ph-counts/family.ts';
import { PH_SHOWN } from './ph-shown/family.ts';
import { RESISTIVITY } from './resistivity/family.ts';
import { SALINITY } from './salinity/family.ts';
import { TEMPERATURE } from './temperature/family.ts';

/** Every family, in the order in which a round takes them: what others lean on comes first. */
export const FAMILIES: readonly Family[] = [
  TEMPERATURE,
  CONDUCTIVITY,
  SALINITY,
  RESISTIVITY,
  PH,
  PH_SHOWN,
  PH_COUNTS,
  ORP,
  ION,
  CHLORINE,
  NITRATE,
  OXYGEN_OPTICAL,
  OXYGEN_MEMBRANE,
];

/**
 * A family by its id.
 *
 * @throws Refusal `family-unknown`
 * @example familyOf('orp').zero.unit // 'mV'
 */
export function familyOf(id: string): Family {
  const found = id === ELECTRICAL.id ? ELECTRICAL : FAMILIES.find((f) => f.id === id);
  if (found) return found;
  throw new Refusal(
    'family-unknown',
    `There is no family “${id}”. Pick one of ${FAMILIES.map((f) => f.id).join(', ')}.`,
    {
      id,
    },
  );
}
