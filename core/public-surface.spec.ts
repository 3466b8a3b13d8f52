import { describe, expect, it } from 'vitest';
import * as core from './index.ts';

/** Calls of each test run; `FRUSTUM_SURFACE=200000 npx vitest run core/public-surface` asks as many in all. */
const CALLS = Number(process.env['FRUSTUM_SURFACE'] ?? 3000);
const SEED = Number(process.env['FRUSTUM_SURFACE_SEED'] ?? 20_291);

/** Figures as people type them: mostly ordinary; also bounds, slips by powers of ten, NaN and Infinity. */
function figuresOf(chance: core.Chance) {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(chance.uniform() * list.length)]!;
  const odd = [0, -0, 1, -1, 7, 25, 100, 1e-12, -1e-12, 1e9, -1e9, 1e300, Number.MIN_VALUE, NaN, Infinity, -Infinity];
  const figure = (low: number, high: number): number => {
    const u = chance.uniform();
    if (u < 0.1) return pick(odd);
    if (u < 0.2) return (low + (high - low) * chance.uniform()) * 10 ** Math.floor(12 * chance.uniform() - 6);
    return low + (high - low) * chance.uniform();
  };
  return { pick, figure };
}

/** Where a value that is no figure lies in what was answered; null = nowhere. */
function noFigureIn(value: unknown, path = ''): string | null {
  if (typeof value === 'number') return Number.isFinite(value) ? null : `${path} is ${value}`;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, inner] of Object.entries(value)) {
    if (typeof inner === 'function' || OPEN.has(key)) continue;
    const bad = noFigureIn(inner, `${path}.${key}`);
    if (bad) return bad;
  }
  return null;
}
/** Documented to be without end where nothing limits them. */
const OPEN = new Set(['degreesOfFreedom', 'effectiveFreedom']);

type Asked = readonly [name: string, ask: () => unknown];

describe('the public surface answers every figure with a figure or a refusal', () => {
  const chance = core.seededChance(SEED);
  const { pick, figure } = figuresOf(chance);
  const t = () => figure(-20, 120);
  const standards = [...core.CATALOGUE, ...core.REDOX_STANDARDS, ...core.CONDUCTIVITY_STANDARDS];
  const coefficients = () => ({ zero: figure(-60, 60), sensitivity: figure(0, 1.2) });
  const settingsOf = (family: core.Family) =>
    Object.fromEntries(
      Object.entries(family.settings).flatMap(([key, field]) =>
        chance.uniform() < 0.6
          ? []
          : [[key, field.kind === 'choice' ? pick(field.choices).id : figure(field.low, field.high)]],
      ),
    );

  const plain = (): Asked =>
    pick<Asked>([
      ['valueAt', () => core.valueAt(pick(standards), t())],
      ['temperatureSlope', () => core.temperatureSlope(pick(standards), t())],
      ['ageUncertainty', () => core.ageUncertainty(pick(standards), figure(-10, 400), figure(0, 400))],
      ['certified', () => core.certified(pick(standards), figure(0, 1))],
      ['withOwnTable', () => core.withOwnTable(pick(standards), [[t(), figure(0, 14)], [t(), figure(0, 14)]], { plusMinus: figure(0, 1), k: figure(1, 3) })], // prettier-ignore
      ['conductivityBottle', () => core.conductivityBottle({ label: figure(1, 60_000), labelC: t(), salt: pick(['KCl', 'NaCl', 'seawater', 'not stated']), plusMinusPercent: figure(0.1, 5) })], // prettier-ignore
      ['ionStandard', () => core.ionStandard({ salt: 'KCl', ion: 'chloride', molPerL: figure(0, 0.6) })],
      ['preparedIon', () => core.preparedIon({ salt: 'KCl', ion: 'potassium', molPerL: figure(0, 0.6), temperatureC: t(), backgroundMolPerL: figure(0, 0.6) })], // prettier-ignore
      ['grabSample', () => core.grabSample('ph', figure(0, 14), 'pH', figure(0, 1), t())],
      ['ferrocyanide', () => core.ferrocyanidePotential(t())],
      ['quinhydrone', () => core.quinhydronePotential(figure(0, 9), t())],
      ['davies', () => core.daviesCoefficient(figure(-3, 3), figure(0, 0.6), t())],
      ['daviesUncertainty', () => core.daviesUncertainty(figure(0, 0.6))],
      ['extended', () => core.extendedCoefficient(pick([-2, -1, 1, 2]), figure(0, 12), figure(0, 0.2))],
      ['debyeHuckelA', () => core.debyeHuckelA(t())],
      ['ionicStrength', () => core.ionicStrength([{ concentration: figure(0, 1), charge: figure(-3, 3) }])],
      ['permittivity', () => core.permittivity(t())],
      ['ammoniaShare', () => core.ammoniaShare(figure(0, 14), t())],
      ['hypochlorousShare', () => core.hypochlorousShare(figure(0, 14), t())],
      ['nernstSlope', () => core.nernstSlope(t())],
      ['dilute', () => core.dilute(figure(0, 10), figure(0, 10), figure(0, 10))],
      ['courseFactor', () => core.courseFactor(t(), pick<core.Compensation>([figure(0, 10), 'natural water', 'NaCl']))],
      ['pureTo25', () => core.pureTo25(figure(0, 3), t(), pick<core.Compensation>([figure(0, 10), 'NaCl']))],
      ['pureFrom25', () => core.pureFrom25(figure(0, 3), t(), pick<core.Compensation>([figure(0, 10), 'NaCl']))],
      ['pureUncertainty', () => core.pureCompensationUncertainty(figure(0, 3), t(), figure(0, 10))],
      ['to25', () => core.to25(figure(0, 3000), t(), figure(0, 10))],
      ['againstReference', () => core.againstReference(figure(-2000, 2000), pick(core.REFERENCES).id, pick(core.REFERENCES).id, t())], // prettier-ignore
      ['silverChloride', () => core.silverChlorideByActivity(figure(0, 4), figure(0, 1), t())],
      ['density', () => core.density(figure(0, 42), t())],
      ['gravity', () => core.specificGravity(figure(0, 42), pick([20, 25]))],
      ['salinityOfGravity', () => core.salinityOfGravity(figure(1, 1.04), pick([20, 25]))],
      ['salinity', () => core.salinity({ conductivityUsPerCm: figure(0, 70_000), temperatureC: t(), pressureDbar: figure(0, 1000) })], // prettier-ignore
      ['ofSeawater', () => core.conductivityOfSeawater(figure(0, 42), t(), figure(0, 1000))],
      ['tris', () => core.trisPh(figure(20, 40), t())],
      ['oxygen', () => core.oxygenSaturation({ temperatureC: t(), salinity: figure(0, 40), pressureKPa: figure(50, 112) })], // prettier-ignore
      ['oxygenPressure', () => core.oxygenPressure({ temperatureC: t(), pressureKPa: figure(50, 112) })],
      ['currentFor', () => core.currentFor(figure(0, 14), { at4: figure(0, 14), at20: figure(0, 14) })],
      ['valueOfCurrent', () => core.valueOfCurrent(figure(0, 24), { at4: figure(0, 14), at20: figure(0, 14) })],
      ['rtdResistance', () => core.rtdResistance(t(), pick([100, 1000]))],
      ['rtdTemperature', () => core.rtdTemperature(figure(10, 4000), pick([100, 1000]))],
      ['rtdSlope', () => core.rtdSlope(t(), pick([100, 1000]))],
      ['thermistor', () => core.thermistorTemperature(core.steinhartHart([[figure(-10, 5), figure(20_000, 40_000)], [figure(20, 30), figure(5000, 15_000)], [figure(45, 60), figure(1000, 5000)]]), figure(100, 40_000))], // prettier-ignore
      ['thermistorR', () => core.thermistorResistance(core.steinhartHart([[0, figure(20_000, 40_000)], [25, figure(5000, 15_000)], [50, figure(1000, 5000)]]), t())], // prettier-ignore
      ['selfHeating', () => core.selfHeating(figure(0, 10), figure(0, 2000), figure(0, 100))],
      ['boxes', () => [core.boxForConductivity(figure(0, 5000), figure(0, 10)), core.boxForResistivity(figure(0, 18), figure(0, 1))]], // prettier-ignore
      ['ofBoxes', () => [core.conductivityOfBox(figure(0, 1e6), figure(0, 10)), core.resistivityOfBox(figure(0, 1e6), figure(0, 1))]], // prettier-ignore
      ['cellConstant', () => core.cellConstantFrom(figure(0, 5000), figure(0, 5000))],
      ['spanTable', () => core.spanTable([{ label: 'a', use: 'adjust', applied: figure(0, 14), asFound: figure(0, 14), asLeft: null }], figure(0, 20), figure(0, 2))], // prettier-ignore
      ['coverageFactor', () => core.coverageFactor(figure(0, 200))],
      ['ewma', () => core.ewma([figure(-3, 3), 1], figure(-1, 1), figure(0, 2), figure(0, 1), figure(0, 4))],
      ['cusum', () => core.cusum([figure(-3, 3), 1], figure(-1, 1), figure(0, 1), figure(0, 5))],
      ['runRules', () => core.runRules([figure(-3, 3), figure(-3, 3)])],
      ['interference', () => core.interference({ charge: pick([-2, -1, 1, 2]), molarMass: figure(1, 200) }, [{ activity: figure(0, 1e5), charge: pick([-2, -1, 1, 2]), molarMass: figure(1, 200), selectivity: figure(0, 1) }])], // prettier-ignore
      ['idealGap', () => core.idealGap(figure(0, 100), figure(0, 1000), pick([-2, -1, 0, 1, 2]), t())],
      ['offsetInSteps', () => core.offsetInSteps(figure(-5, 5), figure(0, 1))],
      ['readQuantity', () => core.readQuantity(`${figure(-100, 5000)} ${pick(core.UNITS)}`, [], null)],
      ['convertTo', () => core.convertTo(figure(-1e3, 1e3), pick(core.UNITS), pick(core.UNITS))],
    ]);

  const ofFamily = (): Asked => {
    const family = pick(core.FAMILIES);
    const value = () => figure(0, 100);
    return [
      `family ${family.id}`,
      () => {
        const model = core.modelOf(family, settingsOf(family));
        const at = { temperatureC: t() };
        const mine = standards.filter((s) => family.standards.serves(s, {}));
        const point = (): core.StandardPoint => ({
          standard: mine.length ? pick(mine) : core.grabSample(family.id, figure(1, 10), model.valueUnit, 0.1, 25),
          lotId: pick(['a', 'b', '']),
          temperatureC: t(),
          signal: figure(-200, 200),
          signalUncertainty: figure(0, 2),
          resolution: figure(0, 1),
          ...(chance.uniform() < 0.3 ? { repeatability: { uncertainty: figure(0, 1), degreesOfFreedom: 1 } } : {}),
          byLoopThermometer: chance.uniform() < 0.5,
        });
        const doing = chance.uniform();
        if (doing < 0.3) return core.signalOf(model, value(), at, coefficients());
        if (doing < 0.6) return core.shownValue(model, figure(-500, 5000), at, coefficients());
        const fit = core.fitSensor(family, model, [point(), point()], { held: coefficients() });
        if (!fit.ok) return fit.reason;
        const work = { value: value(), temperatureC: t(), calibrationC: t() };
        const inForce = coefficients();
        return [
          fit.coefficients,
          core.budgetOf(model, fit, work),
          core.workingErrorOf(model, fit, inForce, work),
          core.standingRowsOf(model, fit.coefficients, inForce, work),
        ];
      },
    ];
  };

  const ofReckoner = (): Asked => {
    const sum = pick(core.SUMS);
    const way = pick(sum.ways);
    const chosen = Object.fromEntries(sum.choices.map((c) => [c.id, pick(c.options).id]));
    const given = Object.fromEntries(
      sum.fields.map((f) => [f.id, chance.uniform() < 0.5 ? f.usual : figure(0.2 * f.usual, 3 * f.usual)]),
    );
    return [`sum ${sum.id}, ${way.finds[0]}`, () => way.work(given, chosen)];
  };

  it(`${CALLS} calls (seed ${SEED}; FRUSTUM_SURFACE, FRUSTUM_SURFACE_SEED)`, () => {
    const troubles = new Map<string, string>();
    let [answered, refused] = [0, 0];
    for (let n = 0; n < CALLS; n++) {
      const [name, ask] = n % 3 === 0 ? ofFamily() : n % 3 === 1 ? ofReckoner() : plain();
      try {
        const bad = noFigureIn(ask());
        if (bad) troubles.set(name, bad);
        else answered++;
      } catch (error) {
        if (error instanceof core.Refusal) refused++;
        else troubles.set(name, `${String(error)}`);
      }
    }
    expect([...troubles].map(([name, what]) => `${name}: ${what}`)).toEqual([]);
    // Most calls are ordinary ones, and are answered.
    expect(answered).toBeGreaterThan(0.35 * CALLS);
    expect(refused).toBeGreaterThan(0.05 * CALLS);
  });
});
