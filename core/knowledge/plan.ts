import { type BoxPoint, boxStandard } from '../calibration/electrical.ts';
import type { ConditionOfRun, PassedGate, PlannedPoint, RunPlan, SensorState } from '../calibration/events.ts';
import { DRIFT_VERSION } from '../drift/cone.ts';
import { familyOf } from '../families/registry.ts';
import { resolutionOf } from './channel-step.ts';
import type { Fitted } from './fitted.ts';
import { coneOf, limitsOf, reckonsWith } from './history.ts';
import type { Past } from './past.ts';
import { figuresOf } from './surrounded.ts';
import type { LotId } from '../quantities/ids.ts';
import { Refusal } from '../quantities/refusal.ts';
import { dayIn, daysFrom } from '../quantities/site-clock.ts';
import { IDEAL_SENSOR } from '../sensor/coefficients.ts';
import { type Procedure, type ProcedureKind, builtIn } from '../sensor/procedures.ts';
import { isOwn } from '../sensor/scale.ts';
import { modelOf } from '../sensor/sensor.ts';
import { STATISTICAL, type School } from '../settling/settle.ts';
import { grabSample } from '../solutions/sample.ts';
import { ageUncertainty, certified, type Standard, withOwnTable } from '../solutions/standard.ts';
import { ZERO_PLUG } from '../solutions/without-liquid.ts';
import type { TableRow } from '../statistics/shape-preserving-cubic.ts';

/** A bottle, as it stands on the shelf. */
export interface Lot {
  readonly id: LotId;
  readonly label: string;
  /** its own printed table: it always wins */
  readonly table: readonly TableRow[] | null;
  /** its stated ±, k = 2 */
  readonly plusMinus: number | null;
  /** ISO dates; null = not known */
  readonly expiresOn: string | null;
  readonly openedOn: string | null;
  readonly usedUpOn: string | null;
}

/** What a run is asked for. */
export interface RunOrder {
  readonly procedure: ProcedureKind;
  /** a team's own; null = the built-in one */
  readonly procedureId: string | null;
  readonly points: readonly { readonly standardId: string; readonly lotId: LotId | null }[];
  /** for an electrical check: what each box stands for, in the unit of the channel */
  readonly boxes: readonly BoxPoint[];
}

/** Everything that acts on the loop's value: what it controls, and the outputs that hang on its channel. */
const heldOf = (controls: string, outputs: readonly string[]) =>
  [...new Set([controls, ...outputs])].filter(Boolean).join(', ');

/** A team's own procedure as it stands today, or the built-in one. @throws Refusal `procedure-unknown` */
export function procedureOf(order: Pick<RunOrder, 'procedure' | 'procedureId'>, own: readonly Procedure[]): Procedure {
  if (!order.procedureId) return builtIn(order.procedure);
  const found = own.find((p) => p.id === order.procedureId);
  if (!found)
    throw new Refusal('procedure-unknown', 'This procedure is no longer there. Pick another.', {
      procedureId: order.procedureId,
    });
  const { kind, id, version, name, words, extra } = found;
  return { kind, id, version, name, words, extra };
}

/**
 * The standards, boxes or entries that a run goes through.
 *
 * @param nowMs when it begins: bottles age
 * @throws Refusal `unknown-standard`, `no-standards`
 */
export function pointsFor(
  { loop, channel, timeZone }: Fitted,
  order: Pick<RunOrder, 'procedure' | 'points' | 'boxes'>,
  lots: readonly Lot[],
  standards: readonly Standard[],
  nowMs: number,
): PlannedPoint[] {
  const noLot = { id: '', label: '' };
  const today = dayIn(timeZone, nowMs);
  const { openedDays } = familyOf(loop.family).standards;
  const { procedure } = order;
  if (procedure === 'electrical')
    return order.boxes.map((box): PlannedPoint => ({
      standard: boxStandard(box, channel.reads.unit),
      lot: noLot,
      ...(box.use === 'verify' ? { role: 'verify' as const } : {}),
    }));
  if (procedure === 'sample' || procedure === 'thermometers') {
    // Stands in until the value is entered: as wide as the tolerance.
    const { valueUnit } = modelOf(familyOf(loop.family), loop.settings);
    const standard = grabSample(loop.family, loop.workingValue, valueUnit, 2 * loop.tolerance, loop.workingC);
    const name = procedure === 'sample' ? 'the sample' : 'two thermometers';
    return [{ standard: { ...standard, id: procedure, name }, lot: noLot }];
  }
  return order.points.map((p): PlannedPoint => {
    const lot = lots.find((l) => l.id === p.lotId);
    const usual = standards.find((s) => s.id === p.standardId);
    if (!usual)
      throw new Refusal('unknown-standard', `There is no standard “${p.standardId}”. Pick one from the list.`);
    return {
      standard: lot ? asPrinted(usual, lot) : usual,
      lot: { id: lot?.id ?? '', label: lot?.label ?? '', ...agedBy(usual, lot, today, openedDays) },
      ...(usual.id === ZERO_PLUG.id ? { role: 'input' as const } : {}),
    };
  });
}

/** A lot's own printed table always wins, and its own ±. */
function asPrinted(usual: Standard, { table, plusMinus }: Lot): Standard {
  if (table) return withOwnTable(usual, table, { plusMinus: plusMinus ?? 2 * usual.uncertainty, k: 2 });
  return plusMinus ? certified(usual, plusMinus) : usual;
}

function agedBy(usual: Standard, lot: Lot | undefined, today: string, openedDays: number) {
  if (!lot?.openedOn) return {};
  const by = ageUncertainty(asPrinted(usual, lot), daysFrom(lot.openedOn, today), openedDays);
  return by > 0 ? { ageUncertainty: by } : {};
}

/** What a run may be asked for besides its standards. */
export interface RunChoice {
  readonly school: 'statistical' | 'fixed-time' | 'hand-count';
  readonly fixedSeconds: number;
  readonly procedure?: Procedure;
  readonly gates?: readonly PassedGate[];
  readonly sensorState?: SensorState;
  readonly limitPercent?: number;
  readonly conditions?: readonly ConditionOfRun[];
}

/** A sample is one moment: the mean of so many seconds. A box is steady at once. Common practice, no source. */
const SAMPLE_SECONDS = 20;
const BOX_SECONDS = 6;

function schoolOf({ school, fixedSeconds, procedure }: RunChoice): School {
  if (procedure?.kind === 'sample') return { kind: 'fixed-time', seconds: SAMPLE_SECONDS };
  if (procedure?.kind === 'electrical') return { kind: 'fixed-time', seconds: BOX_SECONDS };
  return school === 'statistical' ? STATISTICAL : { kind: school, seconds: fixedSeconds };
}

/**
 * What a run rests on, from the loop, its sensor's history and the operator's choice.
 *
 * @throws Refusal `no-standards` for a run without any that says something of the sensor
 */
export function planOf(
  fitted: Fitted,
  points: readonly PlannedPoint[],
  past: Past,
  nowMs: number,
  choice: RunChoice,
): RunPlan {
  const { loop, sensor, channel } = fitted;
  if (!points.some((p) => p.role !== 'input'))
    throw new Refusal('no-standards', 'Pick a standard: without one there is nothing to compare with.');
  const believed = reckonsWith(past);
  const { each: _each, ...expected } = coneOf(fitted, past, nowMs).expectedAt(nowMs);
  const plan: RunPlan = {
    family: loop.family,
    settings: { ...loop.settings, ...figuresOf(choice.conditions ?? []) },
    loopName: loop.name,
    sensorName: sensor.name,
    points,
    school: schoolOf(choice),
    controls: heldOf(loop.controls, channel.reads.outputs),
    controlAction: loop.controlAction,
    workingValue: loop.workingValue,
    workingC: loop.workingC,
    tolerance: loop.tolerance,
    ...(loop.shownAs && !isOwn(loop.shownAs) ? { shownAs: loop.shownAs } : {}),
    limits: limitsOf(loop),
    inForce: believed.inForce,
    inForceKnown: believed.known,
    expected,
    expectedBy: { version: DRIFT_VERSION, fleet: past.fleet },
    channelKind: channel.reads.kind,
    resolution: resolutionOf(fitted),
    ...(choice.procedure ? { procedure: choice.procedure } : {}),
    ...(choice.conditions?.length ? { conditions: choice.conditions } : {}),
    ...(choice.gates?.length ? { gates: choice.gates } : {}),
    ...(choice.sensorState ? { sensorState: choice.sensorState } : {}),
    ...(loop.surroundings.length ? { surroundings: loop.surroundings } : {}),
  };
  return choice.procedure?.kind === 'electrical' ? electricalPlan(plan, fitted, choice.limitPercent ?? 0.5) : plan;
}

/** The transmitter alone: what is shown against what is applied, in the unit of its channel. */
function electricalPlan(plan: RunPlan, { channel }: Fitted, limitPercent: number): RunPlan {
  const electrical = familyOf('electrical');
  const applied = plan.points.map((p) => p.standard.nominal);
  // What boxes should read comes from no history.
  const { expectedBy: _, conditions: __, shownAs: ___, ...rest } = plan;
  return {
    ...rest,
    family: electrical.id,
    settings: { unit: channel.reads.unit },
    workingValue: (Math.min(...applied) + Math.max(...applied)) / 2,
    workingC: 25,
    tolerance: limitPercent,
    limits: electrical.limits,
    inForce: IDEAL_SENSOR,
    inForceKnown: true,
    expected: { zero: 0, zeroSd: 1, sensitivity: 1, sensitivitySd: 0.01 },
    ...(channel.reads.span ? { span: channel.reads.span } : {}),
  };
}
