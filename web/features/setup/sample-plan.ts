import {
  familyOf,
  IDEAL_SENSOR,
  modelOf,
  STATISTICAL,
  usualSets,
  ZERO_PLUG,
  type PlannedPoint,
  type Procedure,
  type RunPlan,
  type Standard,
} from '@frustum/core';
import type { ProcedureInput } from '@frustum/contract';

/** A run as it would be planned by a procedure that is still being made: enough for its step sheet. */
export function samplePlan(made: ProcedureInput, standards: readonly Standard[]): RunPlan {
  const family = familyOf(made.family);
  const { valueUnit } = modelOf(family);
  const procedure: Procedure = {
    kind: made.kind,
    id: 'sample',
    version: made.version,
    name: made.name,
    words: made.words,
    extra: made.extra,
  };
  const ids = made.points.length ? made.points : (usualSets(made.family)[0] ?? []);
  const lot = { id: '', label: '' };
  const points = ids.flatMap((id): PlannedPoint[] => {
    const standard = standards.find((s) => s.id === id);
    if (!standard) return [];
    return [{ standard, lot, ...(id === ZERO_PLUG.id ? { role: 'input' as const } : {}) }];
  });
  const stand: PlannedPoint = { standard: { ...ZERO_PLUG, name: `a standard, ${valueUnit}` }, lot };
  return {
    family: made.family,
    loopName: '',
    sensorName: '',
    points: points.length ? points : [stand],
    procedure,
    school: made.school === 'fixed-time' ? { kind: 'fixed-time', seconds: made.seconds ?? 120 } : STATISTICAL,
    controls: 'the controlled output',
    workingValue: 0,
    workingC: 25,
    tolerance: 1,
    limits: family.limits,
    inForce: IDEAL_SENSOR,
    inForceKnown: true,
    expected: { zero: 0, zeroSd: 1, sensitivity: 1, sensitivitySd: 1 },
    channelKind: 'wired',
    resolution: 0.1,
  };
}
