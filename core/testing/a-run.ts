import { CATALOGUE } from '../families/catalogue.ts';
import { familyOf } from '../families/registry.ts';
import { STATISTICAL } from '../settling/settle.ts';
import type { Capture, PlannedPoint, RunEvent, RunEventBody, RunPlan } from '../calibration/events.ts';
import { apply, replay } from '../calibration/replay.ts';
import { builtIn, type ProcedureKind } from '../sensor/procedures.ts';

/** A standard of the catalogue. */
export const standard = (id: string) => CATALOGUE.find((s) => s.id === id)!;
/** A standard as it is planned, from a bottle of its own name. */
export const point = (id: string, role?: PlannedPoint['role']): PlannedPoint => ({
  standard: standard(id),
  lot: { id, label: '' },
  ...(role ? { role } : {}),
});

/** A plan of a family, as far as nothing else is said. */
export function planFor(
  family: string,
  kind: ProcedureKind,
  points: readonly PlannedPoint[],
  more: Partial<RunPlan> = {},
): RunPlan {
  return {
    family,
    settings: {},
    loopName: 'Loop',
    sensorName: 'Sensor',
    points,
    school: STATISTICAL,
    controls: '',
    workingValue: 7.5,
    workingC: 22,
    tolerance: 0.2,
    limits: familyOf(family).limits,
    inForce: { zero: 0, sensitivity: 1 },
    inForceKnown: true,
    expected: { zero: 0, zeroSd: 5, sensitivity: 1, sensitivitySd: 0.03 },
    channelKind: 'wired',
    resolution: 0.1,
    procedure: builtIn(kind),
    ...more,
  };
}

/** A run on paper: events one after the other, numbered as the server would. */
export class Paper {
  readonly events: RunEvent[] = [];

  constructor(plan: RunPlan) {
    this.add({ type: 'started', plan });
  }

  get state() {
    return replay(this.events);
  }

  add(body: RunEventBody) {
    const seq = this.events.length + 1;
    const at = new Date(Date.UTC(2026, 10, 25, 9, 0, seq)).toISOString();
    const event = { seq, device: 'paper-device', counter: seq, at, by: 'Operator A', body };
    if (seq > 1) apply(this.state, event);
    this.events.push(event);
    return this;
  }

  /** Does what the current step asks for; a settling captures this signal. */
  does(signal = 0, more: Partial<Capture> = {}) {
    const step = this.state.current!;
    if (step.kind !== 'settle') return this.add({ type: 'step-done', stepId: step.id, traceSeconds: null });
    const capture: Capture = {
      pointIndex: step.pointIndex!,
      purpose: step.purpose!,
      method: 'live',
      signal,
      signalUncertainty: 0.1,
      temperatureC: 22,
      settledSeconds: 40,
      t90: 12,
      trace: [],
      ...more,
    };
    return this.add({ type: 'captured', stepId: step.id, traceSeconds: null, capture });
  }

  decides(action: 'leave' | 'adjust' | 'go-on' | 'clean-and-retest') {
    return this.add({ type: 'decided', action, because: '' });
  }
}
