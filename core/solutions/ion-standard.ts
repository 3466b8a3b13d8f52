import { Refusal, requireWithin } from '../quantities/refusal.ts';
import { daviesCoefficient, daviesUncertainty, ionicStrength } from './activity.ts';
import { ionOf, saltOf } from './salts.ts';
import type { Standard } from './standard.ts';

/** What the electrode sees of a prepared solution. */
export interface PreparedIon {
  /** of the ion, mg/L */
  readonly concentrationMgPerL: number;
  /** mol/L, everything dissolved */
  readonly ionicStrength: number;
  readonly activityCoefficient: number;
  /** mg/L activity */
  readonly activityMgPerL: number;
}

/**
 * From the prepared concentration of a salt to the activity of one of its ions.
 *
 * @param salt id of a salt
 * @param ion id of an ion in it
 * @param molPerL of the salt, up to an ionic strength of 0.5 mol/L
 * @param backgroundMolPerL ionic strength of what else is dissolved (an adjuster, a matrix)
 * @throws Refusal `ion-not-in-salt`, `out-of-range`
 * @see Davies (1962), by way of `daviesCoefficient`
 * @example preparedIon({ salt: 'KCl', ion: 'chloride', molPerL: 0.01 }).activityMgPerL // 319.6
 */
export function preparedIon({
  salt,
  ion,
  molPerL,
  temperatureC = 25,
  backgroundMolPerL = 0,
}: {
  readonly salt: string;
  readonly ion: string;
  readonly molPerL: number;
  readonly temperatureC?: number;
  readonly backgroundMolPerL?: number;
}): PreparedIon {
  requireWithin(molPerL, 0, 10, 'concentration', 'mol/L', 'Check figure and unit.');
  requireWithin(backgroundMolPerL, 0, 0.5, 'ionic strength of the background', 'mol/L', 'Davies holds to 0.5.');
  const parts = saltOf(salt).ions;
  const part = parts.find((p) => p.ion === ion);
  if (!part) {
    throw new Refusal(
      'ion-not-in-salt',
      `${salt} has no ${ionOf(ion).word}. Pick one of ${parts.map((p) => ionOf(p.ion).word).join(', ')}.`,
      { salt, ion },
    );
  }
  const strength =
    backgroundMolPerL +
    ionicStrength(parts.map((p) => ({ concentration: molPerL * p.count, charge: ionOf(p.ion).charge })));
  const { charge, molarMass } = ionOf(ion);
  const gamma = daviesCoefficient(charge, strength, temperatureC);
  const concentrationMgPerL = molPerL * part.count * molarMass * 1000;
  return {
    concentrationMgPerL,
    ionicStrength: strength,
    activityCoefficient: gamma,
    activityMgPerL: gamma * concentrationMgPerL,
  };
}

/**
 * An ion standard made from a salt: its activity over 5 to 45 °C.
 *
 * @throws Refusal as `preparedIon`
 * @example ionStandard({ salt: 'KCl', ion: 'chloride', molPerL: 0.01 }).nominal // 319.6
 */
export function ionStandard(of: {
  readonly salt: string;
  readonly ion: string;
  readonly molPerL: number;
  readonly backgroundMolPerL?: number;
}): Standard {
  const at = (temperatureC: number) => preparedIon({ ...of, temperatureC }).activityMgPerL;
  const { activityMgPerL: nominal, ionicStrength: strength } = preparedIon({ ...of, temperatureC: 25 });
  return {
    id: `${of.salt}-${of.ion}-${of.molPerL}`,
    name: `${ionOf(of.ion).word} ${nominal.toPrecision(3)} mg/L activity, from ${of.molPerL} mol/L ${of.salt}`,
    family: 'ion',
    unit: 'mg/L activity',
    nominal,
    nominalAtC: 25,
    table: Array.from({ length: 9 }, (_, i) => 5 + 5 * i).map((t) => [t, at(t)]),
    uncertainty: nominal * daviesUncertainty(strength),
    tableStep: 0,
    source: 'prepared concentration, and Davies (1962) for its activity',
  };
}
