import {
  DRIFT_VERSION,
  boxStandard,
  builtIn,
  familyOf,
  grabSample,
  IDEAL_SENSOR,
  modelOf,
  Refusal,
  STATISTICAL,
  withOwnTable,
  ZERO_PLUG,
  type PassedGate,
  type PlannedPoint,
  type Procedure,
  type RunPlan,
  type School,
  type SensorState,
  type Standard,
} from '@frustum/core';
import { unitOf, type ChannelConfig, type StartRun } from '@frustum/contract';
import type { FittedLoop } from '../store/commands/places.ts';
import type { ProcedureRecord } from '../store/commands/procedures.ts';
import type { LotRecord } from '../store/commands/shelf.ts';
import { coneOf, limitsOf, observationsOf, ofSensor, type Past } from './history.ts';

const kindOfRun = ({ kind }: ChannelConfig): RunPlan['channelKind'] =>
  kind === 'modbus' || kind === 'hand' ? kind : 'wired';

/** Everything that acts on the loop's value: what it controls, and the outputs that hang on its channel. */
const heldOf = (controls: string, outputs: readonly string[]) =>
  [...new Set([controls, ...outputs])].filter(Boolean).join(', ');

/** A team's own procedure as it stands today, or the built-in one. @throws Refusal `procedure-unknown` */
export function procedureOf(order: StartRun, own: readonly ProcedureRecord[]): Procedure {
  if (!order.procedureId) return builtIn(order.procedure);
  const found = own.find((p) => p.id === order.procedureId);
  if (!found)
    throw new Refusal('procedure-unknown', 'This procedure is no longer there. Pick another one.', {
      procedureId: order.procedureId,
    });
  const { kind, id, version, name, words, extra } = found;
  return { kind, id, version, name, words, extra };
}

/** The standards, boxes or entries that a run goes through. @throws Refusal `unknown-standard`, `no-standards` */
export function pointsFor(
  { loop, channel }: FittedLoop,
  order: Pick<StartRun, 'procedure' | 'points' | 'boxes'>,
  lots: readonly LotRecord[],
  standards: readonly Standard[],
): PlannedPoint[] {
  const noLot = { id: '', label: '' };
  const { procedure } = order;
  if (procedure === 'electrical')
    return order.boxes.map((box): PlannedPoint => ({
      standard: boxStandard(box, unitOf(channel.config)),
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
      // A lot's own printed table always wins.
      standard: lot?.table ? withOwnTable(usual, lot.table, { plusMinus: lot.plusMinus ?? 0, k: 2 }) : usual,
      lot: { id: lot?.id ?? '', label: lot?.label ?? '' },
      ...(usual.id === ZERO_PLUG.id ? { role: 'input' as const } : {}),
    };
  });
}

/** What a run may be asked for besides its standards. */
export interface RunChoice {
  readonly school: 'statistical' | 'fixed-time' | 'hand-count';
  readonly fixedSeconds: number;
  readonly procedure?: Procedure;
  readonly gates?: readonly PassedGate[];
  readonly sensorState?: SensorState;
  readonly limitPercent?: number;
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
  fitted: FittedLoop,
  points: readonly PlannedPoint[],
  past: Past,
  nowMs: number,
  choice: RunChoice,
): RunPlan {
  const { loop, sensor, channel } = fitted;
  if (!points.some((p) => p.role !== 'input'))
    throw new Refusal('no-standards', 'Pick a standard: without one there is nothing to compare with.');
  const history = observationsOf(ofSensor(past.finished));
  const { expectedAt } = coneOf(fitted, past, nowMs);
  const plan: RunPlan = {
    family: loop.family,
    settings: loop.settings,
    loopName: loop.name,
    sensorName: sensor.name,
    points,
    school: schoolOf(choice),
    controls: heldOf(loop.controls, channel.config.outputs),
    controlAction: loop.controlAction,
    workingValue: loop.workingValue,
    workingC: loop.workingC,
    tolerance: loop.tolerance,
    limits: limitsOf(loop),
    inForce: history.at(-1)?.inForceAfter ?? IDEAL_SENSOR,
    inForceKnown: history.length > 0,
    expected: expectedAt(nowMs),
    expectedBy: { version: DRIFT_VERSION, fleet: past.fleet },
    channelKind: kindOfRun(channel.config),
    resolution: channel.resolution,
    ...(choice.procedure ? { procedure: choice.procedure } : {}),
    ...(choice.gates?.length ? { gates: choice.gates } : {}),
    ...(choice.sensorState ? { sensorState: choice.sensorState } : {}),
    ...(loop.surroundings.length ? { surroundings: loop.surroundings } : {}),
  };
  return choice.procedure?.kind === 'electrical' ? electricalPlan(plan, fitted, choice.limitPercent ?? 0.5) : plan;
}

/** The transmitter alone: what is shown against what is applied, in the unit of its channel. */
function electricalPlan(plan: RunPlan, { channel }: FittedLoop, limitPercent: number): RunPlan {
  const electrical = familyOf('electrical');
  const applied = plan.points.map((p) => p.standard.nominal);
  // What boxes should read comes from no history.
  const { expectedBy: _, ...rest } = plan;
  return {
    ...rest,
    family: electrical.id,
    settings: { unit: unitOf(channel.config) },
    workingValue: (Math.min(...applied) + Math.max(...applied)) / 2,
    workingC: 25,
    tolerance: limitPercent,
    limits: electrical.limits,
    inForce: IDEAL_SENSOR,
    inForceKnown: true,
    expected: { zero: 0, zeroSd: 1, sensitivity: 1, sensitivitySd: 0.01 },
  };
}
