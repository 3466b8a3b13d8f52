import request from 'supertest';
import {
  expandedOf,
  familyOf,
  judge,
  modelOf,
  replay,
  settleIn,
  signalOfReading,
  standardAt,
  responseIn,
  type DecisionAction,
  type Entry,
  type RunEventBody,
  type RunState,
  type Sample,
  type Step,
} from '@frustum/core';
import type { Problem, RunView, SensorView } from '@frustum/contract';
import type { Reading } from '../../sim/devices/ports.ts';
import { StandIn } from '../../sim/devices/stand-in.ts';
import { houseBodies } from '../../sim/fleets/bodies.ts';
import type { BodyTruth } from '../../sim/physics/truth.ts';
import type { TestApplication } from './application.ts';

/** A loop of the tests on one of the house's bodies: what an operator would type at set-up. */
export interface BenchLoop {
  readonly name: string;
  readonly family: string;
  readonly settings?: Readonly<Record<string, number | string>>;
  readonly workingValue: number;
  readonly workingC: number;
  readonly tolerance: number;
  readonly pointSet?: readonly string[];
  readonly body: string;
  /** unit of the channel */
  readonly quantity: string;
  /** what the channel gives, from what the body shows on its wire */
  readonly read: (reading: Reading) => number;
  readonly more?: object;
}

const SEED = 4870;
const START = Date.parse('2026-11-25T09:00:00Z');
/** s after which a reading that never stands still is given up */
/** Figures are looked at, and not whether others should have been poured: a gate of its own in core/calibration/points.spec. */
const ALL_THE_SAME = [{ id: 'working-outside', because: 'figures of these two are looked at' }];
const MAX_SECONDS = 3600;

/** Hands, eyes and a phone at a stand-in's bench, driven through the API as the screens do. */
export class AtTheBench {
  readonly stand: StandIn;
  readonly truth: BodyTruth;
  readonly loop: BenchLoop;
  sensorId = '';
  private readonly subject: TestApplication;
  private runId = '';
  private nowMs = START;
  private counter = 0;
  private view: RunView | null = null;

  constructor(subject: TestApplication, loop: BenchLoop, faults: readonly (readonly [string, number])[] = []) {
    this.subject = subject;
    this.loop = loop;
    const made = houseBodies(SEED).find((b) => b.key === loop.body)!;
    this.truth = made.truth;
    this.stand = new StandIn(made, { nowMs: () => this.nowMs });
    for (const [fault, severity] of faults) this.stand.hands({ action: 'fault', fault, severity });
  }

  private get api() {
    return request(this.subject.app);
  }

  /** Sets the loop up and puts its probe on the bench. */
  async setsUp(): Promise<this> {
    const { name, family, settings = {}, workingValue, workingC, tolerance, pointSet = [], quantity, more } = this.loop;
    const answer = await this.api.post('/api/sensors').send({
      siteName: 'Tidewater House',
      loopName: name,
      family,
      settings,
      workingValue,
      workingC,
      tolerance,
      pointSet,
      intervalDays: 30,
      sensorName: `${name} sensor`,
      fittedOn: '2026-11-01',
      // Nobody listens there: the driver looks at the stand-in itself, as a wire would.
      channel: { kind: 'http-json', url: 'http://127.0.0.1:1/now', quantity, fixedC: 25, pollSeconds: 60 },
      ...more,
    });
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    this.sensorId = (answer.body as { sensorId: string }).sensorId;
    return this;
  }

  /** Starts a run; a refusal comes back as the server said it. */
  async starts(order: object): Promise<Problem | null> {
    this.subject.setNow(new Date(this.nowMs).toISOString());
    const usual = { sensorId: this.sensorId, school: 'statistical', overrides: ALL_THE_SAME };
    const answer = await this.api.post('/api/runs').send({ ...usual, ...order });
    if (answer.status !== 201) return answer.body as Problem;
    this.view = answer.body as RunView;
    this.runId = this.view.runId;
    this.counter = 0;
    return null;
  }

  get state(): RunState {
    return replay(this.view!.events);
  }

  get step(): Step {
    return this.state.current!;
  }

  /** Sends one event, as the phone does. */
  async sends(body: Exclude<RunEventBody, { type: 'started' }>, onSeq: number | null = null): Promise<Problem | null> {
    this.counter++;
    const event = {
      device: 'phone-at-the-bench',
      counter: this.counter,
      at: new Date(this.nowMs).toISOString(),
      onSeq,
      body,
    };
    const answer = await this.api.post(`/api/runs/${this.runId}/events`).send({ events: [event] });
    if (answer.status >= 300) return answer.body as Problem;
    this.view = answer.body as RunView;
    return null;
  }

  /** Leaves it in its water for so many days without a visit. */
  rests(days: number): void {
    this.nowMs += days * 86_400_000;
  }

  waits(seconds: number): void {
    for (let i = 0; i < seconds; i++) {
      this.nowMs += 1000;
      this.stand.read();
    }
  }

  /** Rinse, blot, into a fresh cup; air wants a dry cell, a plug or a box the input. */
  places(step: Step, box?: number): void {
    const planned = this.state.plan.points[step.pointIndex!]!;
    if (this.state.plan.procedure?.kind === 'electrical' || planned.role === 'input') {
      this.stand.hands({ action: 'plug', value: box ?? 0 });
      return this.waits(2);
    }
    this.stand.hands({ action: 'unplug' });
    this.stand.hands({ action: 'move', place: 'rinse' });
    this.waits(8);
    this.stand.hands({ action: 'blot' });
    const air = planned.standard.id === 'air';
    this.stand.hands({ action: 'move', place: air ? 'air' : `cup-${planned.standard.name}` });
    if (air) this.stand.hands({ action: 'blot' });
    this.waits(4);
    this.stand.hands({ action: 'tap' });
  }

  /** Watches until it is steady by the run's own school, and captures. */
  async captures(): Promise<Problem | null> {
    const { state, step } = this;
    const { plan } = state;
    if (step.purpose === 'repeat') {
      this.stand.hands({ action: 'tap' });
      this.stand.hands({ action: 'wiggle' });
    }
    const model = modelOf(familyOf(plan.family), plan.settings);
    const standard = standardAt(state, step.pass, step.pointIndex!)!;
    const samples: Sample[] = [];
    let before: Parameters<typeof settleIn>[5];
    for (let t = 0; t < MAX_SECONDS; t += 5) {
      for (let i = 0; i < 5; i++) {
        this.waits(1);
        const reading = this.stand.read();
        const { temperatureC } = reading;
        const signal = signalOfReading(
          model,
          this.loop.read(reading),
          this.loop.quantity,
          { temperatureC },
          plan.inForce,
        );
        samples.push({ t: this.nowMs / 1000, signal, temperatureC });
      }
      const last = samples.at(-1)!;
      const settling = settleIn(responseIn(plan, standard), samples, plan.school, plan.resolution, undefined, before);
      before = settling.checked;
      if (settling.state !== 'ready') continue;
      return this.sends({
        type: 'captured',
        stepId: step.id,
        traceSeconds: last.t,
        capture: {
          pointIndex: step.pointIndex!,
          purpose: step.purpose!,
          method: 'live',
          signal: settling.level,
          signalUncertainty: settling.levelUncertainty,
          temperatureC: Number(settling.temperatureC.toFixed(2)),
          settledSeconds: settling.seconds,
          t90: settling.t90,
          sampledAt: new Date(this.nowMs).toISOString(),
          trace: [],
        },
      });
    }
    throw new Error(`never steady at ${step.title}`);
  }

  /** Does the sheet up to the next decision, or the end; refusals are errors here. */
  async toDecision(options: { entry?: () => Entry; boxes?: readonly number[] } = {}): Promise<this> {
    while (this.state.status === 'open') {
      const { step } = this;
      if (!step) {
        this.never(await this.sends({ type: 'closed' }));
        break;
      }
      if (step.kind === 'decide') break;
      if (step.kind === 'settle') this.never(await this.captures());
      else if (step.kind === 'enter')
        this.never(await this.sends({ type: 'entered', stepId: step.id, entry: options.entry!(), traceSeconds: null }));
      else if (step.kind === 'adjust')
        this.never(
          await this.sends({
            type: 'adjusted',
            coefficients: this.verdict.calibration.coefficients,
            how: 'entered-by-hand',
          }),
        );
      else {
        if (step.kind === 'place') this.places(step, options.boxes?.[step.pointIndex!]);
        if (step.key === 'clean') this.stand.hands({ action: 'clean' });
        if (step.key === 'return') {
          this.stand.hands({ action: 'unplug' });
          this.stand.hands({ action: 'move', place: 'process' });
        }
        this.never(await this.sends({ type: 'step-done', stepId: step.id, traceSeconds: null }));
      }
    }
    return this;
  }

  private never(problem: Problem | null): void {
    if (problem) throw new Error(`${problem.code}: ${problem.detail}`);
  }

  get verdict() {
    return judge(this.state)!;
  }

  async decides(action: DecisionAction, because = ''): Promise<this> {
    this.never(await this.sends({ type: 'decided', action, because }, this.state.seq));
    return this;
  }

  /** The sensor's page: outcome, cone and next due date. */
  async page(): Promise<SensorView> {
    this.subject.setNow(new Date(this.nowMs + 60_000).toISOString());
    return (await this.api.get(`/api/sensors/${this.sensorId}`)).body as SensorView;
  }

  /** How many days until the next run is due, by the sensor's page. */
  async daysToDue(): Promise<number> {
    const { row } = await this.page();
    return Math.round((row.due.atMs! - this.nowMs) / 86_400_000);
  }

  /** Expanded uncertainty of what was found of the working value, in the family's unit. */
  get expanded(): number {
    return expandedOf(this.verdict.working);
  }
}
