import { renderToStaticMarkup } from 'react-dom/server';
import { Provider } from 'react-redux';
import { MemoryRouter } from 'react-router';
import fc from 'fast-check';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import {
  apply,
  boxStandard,
  builtIn,
  CATALOGUE,
  expectedIn,
  familyOf,
  grabSample,
  modelOf,
  planOnPaper,
  replay,
  signalOf,
  usualBoxes,
  usualSets,
  type DecisionAction,
  type Entry,
  type ProcedureKind,
  type RunEvent,
  type RunEventBody,
  type RunPlan,
  type RunState,
  type Settings,
} from '@frustum/core';
import { unlessRefused } from '../../format/in-family.ts';
import type { LiveTrace } from './use-live-trace.ts';
import type { BenchRun } from './use-run.ts';

const SEED = 20261129;
const FAMILIES = ['ph', 'ph-shown', 'ph-counts', 'conductivity', 'salinity', 'resistivity', 'orp', 'ion', 'nitrate'];
const KINDS = ['calibrate', 'verify', 'check-first', 'clean-and-test'] as const;
const ACTIONS: readonly DecisionAction[] = ['leave', 'adjust', 'clean-and-retest', 'investigate', 'replace', 'go-on'];

const settingsOf = (family: string): Settings => (family === 'ion' ? { ion: 'chloride' } : {});

const NOTHING_HEARD: LiveTrace = { samples: [], epoch: '', state: 'off', message: '' };

type Panels = (run: BenchRun) => string;
let panels: Panels;

/** The panels of a bench as a browser would first draw them; what asks the server has no answer yet. */
beforeAll(async () => {
  const kept = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
  });
  vi.stubGlobal('window', { addEventListener: () => undefined, removeEventListener: () => undefined });
  vi.stubGlobal('setInterval', () => 0);
  const { store } = await import('../../app/store.ts');
  const { FoundSoFar } = await import('./found-so-far.tsx');
  const { VerdictPanel } = await import('./verdict/verdict-panel.tsx');
  const { EnterPanel } = await import('./enter/enter-panel.tsx');
  const { ConfirmPanel } = await import('./confirm-panel.tsx');
  const { AdjustPanel } = await import('./verdict/adjust-panel.tsx');
  const { EndedPanel } = await import('./verdict/ended-panel.tsx');
  const { StepSheet } = await import('./step-sheet.tsx');
  vi.unstubAllGlobals();
  panels = (run) => {
    const { state } = run;
    return renderToStaticMarkup(
      <Provider store={store}>
        <MemoryRouter>
          <StepSheet state={state} onBack={() => undefined}>
            {null}
          </StepSheet>
          <FoundSoFar state={state} />
          {state.current?.kind === 'enter' && <EnterPanel run={run} step={state.current} trace={NOTHING_HEARD} />}
          {(state.current?.kind === 'confirm' || state.current?.kind === 'place') && (
            <ConfirmPanel run={run} step={state.current} trace={NOTHING_HEARD} />
          )}
          {state.current?.kind === 'decide' && <VerdictPanel run={run} />}
          {state.current?.kind === 'adjust' && <AdjustPanel run={run} />}
          {state.status !== 'open' && <EndedPanel run={run} />}
        </MemoryRouter>
      </Provider>,
    );
  };
});

const loopOf = (family: string, workingValue: number) => ({
  family,
  settings: settingsOf(family),
  loopName: 'A loop',
  controls: 'dosing',
  workingValue,
  workingC: 22,
  tolerance: 0.2,
  channelKind: 'hand' as const,
});

function planOf(family: string, kind: (typeof KINDS)[number], set: readonly string[]): RunPlan {
  const of = familyOf(family);
  const standards = set.map((id) => CATALOGUE.find((s) => s.id === id)!);
  const last = standards.at(-1)!;
  const { zero, sensitivity } = of.prior(0.59);
  const model = modelOf(of, settingsOf(family));
  const workingValue = expectedIn(model, { standard: last, temperatureC: last.nominalAtC });
  return {
    ...planOnPaper(loopOf(family, workingValue), standards),
    expected: { zero: 0, zeroSd: zero.sd, sensitivity: 1, sensitivitySd: sensitivity.sd },
    procedure: builtIn(kind),
  };
}

/** Runs without cups: a sample or two thermometers give the standard, or boxes stand for it. */
const WITHOUT_CUPS: readonly (readonly [ProcedureKind, string, number])[] = [
  ['sample', 'ph', 8.1],
  ['sample', 'conductivity', 1400],
  ['sample', 'salinity', 34],
  ['sample', 'chlorine', 0.8],
  ['sample', 'nitrate', 12],
  ['sample', 'ion', 60],
  ['thermometers', 'temperature', 22],
  ['electrical', 'electrical', 0],
];
function planWithoutCups(kind: ProcedureKind, family: string, value: number): RunPlan {
  const { valueUnit } = modelOf(familyOf(family), settingsOf(family));
  const standards =
    kind === 'electrical'
      ? usualBoxes('mV', {}).map((b) => boxStandard(b, 'mV'))
      : [{ ...grabSample(family, value, valueUnit, 0.4, 22), id: kind, name: 'what is entered' }];
  return { ...planOnPaper(loopOf(family, value), standards), procedure: builtIn(kind) };
}

/** What is typed from the lab's sheet, or from two thermometers. */
function entryFor({ plan }: RunState, off: boolean): Entry {
  const temperatureC = plan.workingC;
  if (plan.procedure?.kind === 'thermometers')
    return {
      kind: 'thermometers',
      a: { temperatureC, plusMinusC: 0.2 },
      b: { temperatureC: off ? temperatureC + 0.1 : temperatureC, plusMinusC: 0.2 },
    };
  const { valueUnit } = modelOf(familyOf(plan.family), plan.settings ?? {});
  const value = (off ? 1.02 : 1) * plan.workingValue;
  return { kind: 'sample', value, unit: valueUnit, plusMinus: 0.4, temperatureC };
}

/** What a cup gives: right, off, the same as every other cup, the other way round, or next to nothing. */
const readings = fc.constantFrom('right', 'off', 'alike', 'mirrored', 'nothing', 'wild');
type Reading = 'right' | 'off' | 'alike' | 'mirrored' | 'nothing' | 'wild';

function signalFor(plan: RunPlan, pointIndex: number, reading: Reading): number {
  const model = modelOf(familyOf(plan.family), plan.settings);
  const { standard } = plan.points[pointIndex]!;
  // Air lies below some scales: nothing is what a cell gives there.
  const right =
    unlessRefused(() =>
      signalOf(
        model,
        expectedIn(model, { standard, temperatureC: 25 }),
        { temperatureC: 25 },
        { zero: 0, sensitivity: 1 },
      ),
    ) ?? 0;
  return { right, off: 1.02 * right + 3, alike: -1.2, mirrored: -right, nothing: 0, wild: 40 * right + 900 }[reading];
}

/** What the instrument makes of an adjustment. */
type Refusing = 'takes it' | 'says no' | 'shows its own';
const refusals = fc.constantFrom<Refusing>('takes it', 'says no', 'shows its own');
const TYPED = { zero: 1, sensitivity: 0.97 };

/** Does what each step asks for until the run is over, and gives every state on the way. */
function* states(
  plan: RunPlan,
  drawn: readonly Reading[],
  action: DecisionAction,
  refusing: Refusing = 'takes it',
): Generator<RunState> {
  const events: RunEvent[] = [];
  const add = (body: RunEventBody) => {
    const seq = events.length + 1;
    const at = new Date(Date.UTC(2026, 10, 29, 9, 0, seq)).toISOString();
    const event = { seq, device: 'a-device', counter: seq, at, by: 'Operator A', body };
    if (seq > 1) apply(replay(events), event);
    events.push(event);
  };
  add({ type: 'started', plan });
  let captured = 0;
  for (let i = 0; i < 60; i++) {
    const state = replay(events);
    yield state;
    const step = state.current;
    if (!step) break;
    const stepId = step.id;
    if (step.kind === 'settle') {
      const reading = drawn[captured++ % drawn.length]!;
      const signal = signalFor(plan, step.pointIndex!, reading);
      const capture = {
        pointIndex: step.pointIndex!,
        purpose: step.purpose!,
        method: 'typed' as const,
        signal,
        signalUncertainty: 0.1,
        temperatureC: 25,
        settledSeconds: 0,
        t90: null,
        trace: [],
      };
      add({ type: 'captured', stepId, traceSeconds: null, capture });
    } else if (step.kind === 'enter')
      add({ type: 'entered', stepId, traceSeconds: null, entry: entryFor(state, drawn[0] === 'off') });
    else if (step.kind === 'decide') add({ type: 'decided', action, because: 'drawn' });
    else if (step.kind === 'adjust' && refusing === 'takes it')
      add({ type: 'adjusted', coefficients: TYPED, how: 'entered-by-hand' });
    else if (step.kind === 'adjust')
      add({ type: 'adjustment-refused', message: 'Err 7', shows: refusing === 'shows its own' ? TYPED : null });
    else add({ type: 'step-done', stepId, traceSeconds: null });
    if (state.decisions.length > 3) break;
  }
  add(replay(events).current ? { type: 'abandoned', because: 'enough' } : { type: 'closed' });
  yield replay(events);
}

const asRun = (state: RunState): BenchRun => ({
  view: { runId: 'r', sensorId: 's', loopId: 'l', channelId: 'c', events: [], hands: false, staleSeconds: 15 },
  state,
  send: () => undefined,
  prepare: (body) => ({ device: 'd', counter: 1, at: state.startedAt, onSeq: state.seq, body }),
});

describe(`nothing that a run may contain throws when it is shown (seed ${SEED})`, () => {
  for (const family of FAMILIES)
    for (const kind of KINDS)
      it(`${family}, ${kind}`, () => {
        const sets = usualSets(family, settingsOf(family)).filter((set) =>
          set.every((id) => CATALOGUE.some((s) => s.id === id)),
        );
        expect(sets.length).toBeGreaterThan(0);
        fc.assert(
          fc.property(
            fc.constantFrom(...sets),
            fc.array(readings, { minLength: 1, maxLength: 4 }),
            fc.constantFrom(...ACTIONS),
            refusals,
            (set, drawn, action, refusing) => {
              for (const state of states(planOf(family, kind, set), drawn, action, refusing)) panels(asRun(state));
            },
          ),
          {
            seed: SEED,
            numRuns: 3,
            endOnFailure: true,
            examples: [
              [sets[0]!, ['alike'], 'leave', 'takes it'],
              [sets[0]!, ['right'], 'adjust', 'says no'],
            ],
          },
        );
      });

  for (const [kind, family, value] of WITHOUT_CUPS)
    it(`${kind}, ${family}`, () => {
      fc.assert(
        fc.property(
          fc.array(readings, { minLength: 1, maxLength: 4 }),
          fc.constantFrom(...ACTIONS),
          refusals,
          (drawn, action, refusing) => {
            for (const state of states(planWithoutCups(kind, family, value), drawn, action, refusing))
              panels(asRun(state));
          },
        ),
        { seed: SEED, numRuns: 3, endOnFailure: true, examples: [[['right'], 'adjust', 'takes it']] },
      );
    });

  it('the same number in two cups is a verdict with its evidence and its next test, and is never adjusted by', () => {
    const plan = planOf('ph', 'calibrate', ['technical-7.00', 'technical-4.01']);
    const shown = [...states(plan, ['alike'], 'investigate')]
      .filter((s) => s.current?.kind === 'decide')
      .map((s) => panels(asRun(s)));
    expect(shown[0]).toContain('both cups read alike: cracked glass, cap on, or cable.');
    expect(shown[0]).toContain('7.00 gave −1.2 mV, 4.01 gave −1.2 mV: 0.0 %');
    expect(shown[0]).toContain('What would tell: take the cap off');
    expect(shown[0]).not.toContain('Adjust it');
  });
});
