// @vitest-environment happy-dom
import { cleanup, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { builtIn, CATALOGUE, grabSample, planOnPaper, type RunPlan } from '@frustum/core';
import { OnTheBench, type Body } from '../../testing/on-the-bench.tsx';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const standard = (id: string) => CATALOGUE.find((s) => s.id === id)!;
const planOf = (more: Partial<RunPlan> = {}): RunPlan => ({
  ...planOnPaper(
    { family: 'ph', loopName: 'Tank pH', workingValue: 8.1, workingC: 25, tolerance: 0.1, channelKind: 'hand' },
    [standard('technical-7.00'), standard('technical-10.01')],
  ),
  ...more,
});
const done = (stepId: string) => ({ type: 'step-done' as const, stepId, traceSeconds: null });
const captured = (pointIndex: number, signal: number) => ({
  type: 'captured' as const,
  stepId: `p1.settle.${pointIndex}`,
  traceSeconds: null,
  capture: { pointIndex, purpose: 'as-found' as const, method: 'typed' as const, signal, signalUncertainty: 0.1, temperatureC: 25, settledSeconds: null, t90: null, trace: [] }, // prettier-ignore
});
const IN_SEVEN = [done('take-out'), done('p1.place.0')];
const UP_TO_VERDICT = [...IN_SEVEN, captured(0, -3.1), done('p1.place.1'), captured(1, -171.4)];

const SHELF = { '/api/shelf': { standards: CATALOGUE, lots: [] } };

describe('a typed reading', () => {
  const at = (text: string, unit: string) => ({ pointIndex: 0, method: 'typed', signal: expect.closeTo(Number(text), 1) as number, temperatureC: Number(unit) }); // prettier-ignore

  it('is taken in the unit and the degrees it is typed in; the next cup begins with its temperature', async () => {
    const bench = await new OnTheBench(planOf(), IN_SEVEN).opens();
    await bench.user.selectOptions(bench.now.getByLabelText('Reading, unit'), 'mV');
    await bench.types('Reading', '-3.1');
    await bench.user.selectOptions(bench.now.getByLabelText('Temperature, unit'), '°F');
    await bench.types('Temperature', '77');
    await bench.presses('Capture typed value');
    expect(bench.last).toMatchObject({ type: 'captured', capture: at('-3.1', '25') });
    await bench.presses(/It is in the cup/);
    expect(bench.now.getByLabelText('Temperature')).toHaveProperty('value', '25.0');
  });

  it('that looks like a slip is asked about: it stays in its field, and stands with a record when it is meant', async () => {
    const bench = await new OnTheBench(planOf(), IN_SEVEN).opens();
    await bench.types('Reading', '70.4');
    await bench.types('Temperature', '25');
    await bench.presses('Capture typed value');
    expect(bench.now.getByRole('alert').textContent).toMatch(/Is the comma where it belongs\?.*7\.04 would fit/s);
    expect(bench.now.queryByRole('button', { name: 'Capture typed value' })).toBeNull();
    await bench.types('Reading', '9.6');
    expect(bench.now.queryByRole('alert')).toBeNull();
    await bench.presses('Capture typed value');
    expect(bench.now.getByRole('alert').textContent).toMatch(/About 7\.00 ± 0\.\d+ pH was to be expected/);
    await bench.presses('It is 9.6');
    expect(bench.sent.map((b) => b.type)).toEqual(['warned', 'captured']);
  });

  it.each([
    ['', '25', /The reading is missing/],
    ['seven', '25', /“seven” is not a figure/],
    ['7.02', '', /The temperature is missing\. Type it like 24\.5/],
    ['7.02', '61', /61 °C is outside the table of 7\.00 \(0 to 50 °C\)/],
  ])('“%s” at “%s” is refused, and nothing is lost', async (reading, temperature, words) => {
    const bench = await new OnTheBench(planOf(), IN_SEVEN).opens();
    await bench.types('Reading', reading);
    await bench.types('Temperature', temperature);
    await bench.presses('Capture typed value');
    const asked = bench.now.queryByRole('button', { name: /^It is 61/ });
    if (asked) await bench.user.click(asked);
    expect(bench.now.getByRole('alert').textContent).toMatch(words);
    expect(bench.now.getByLabelText('Reading')).toHaveProperty('value', reading);
    expect(bench.sent.filter((b) => b.type === 'captured')).toEqual([]);
  });
});

describe('a live reading', () => {
  const wired = { channelKind: 'wired' as const };
  const inSeven = IN_SEVEN.map((d) => ({ ...d, traceSeconds: 0, traceEpoch: 'e' }));
  const since = Date.UTC(2026, 10, 30, 9, 1);
  /** 12 s of time constant towards −3.1 mV from the water, at four samples a second, with a step of 0.1 mV. */
  const samples = (from: number, to: number) =>
    Array.from({ length: 4 * (to - from) }, (_, i) => {
      const t = from + i / 4;
      const signal = Math.round(10 * (-3.1 - 60 * Math.exp(-t / 12) + 0.05 * Math.sin(7 * t))) / 10;
      return { t, atMs: since + 1000 * t, signal, temperatureC: 25 };
    });

  it('cannot be captured before it is steady, but may be waited for; then it is captured by itself, with its trace', async () => {
    const bench = await new OnTheBench(planOf(wired), inSeven).opens(SHELF);
    bench.hears(samples(0, 20));
    await bench.user.keyboard(' ');
    expect(await screen.findByRole('button', { name: /Captures by itself when ready/ })).toBeTruthy();
    expect(bench.sent).toEqual([]);
    for (let t = 20; t < 240 && !bench.sent.length; t += 10) {
      bench.hears(samples(t, t + 10));
      await new Promise((go) => setTimeout(go, 0));
    }
    await vi.waitFor(() => expect(bench.sent.map((b) => b.type)).toEqual(['captured']));
    const { capture } = bench.last as Extract<typeof bench.last, { type: 'captured' }>;
    expect(Math.abs(capture.signal + 3.1)).toBeLessThan(0.2);
    expect(capture.trace.length).toBeGreaterThan(20);
  });

  it('that reads like another bottle stops the capture; “it is 7.00” lets it through with a record', async () => {
    const bench = await new OnTheBench(planOf(wired), inSeven).opens(SHELF);
    bench.hears(samples(0, 60).map((s) => ({ ...s, signal: s.signal - 176 })));
    const alert = await screen.findByRole('alert');
    expect(alert.textContent).toContain('This reads like 10.01, not 7.00');
    expect(bench.now.queryByRole('button', { name: /^Capture/ })).toBeNull();
    await bench.presses(/It is 7\.00/);
    expect(bench.last).toMatchObject({ type: 'warned', kept: true });
  });
});

describe('a value that comes from elsewhere', () => {
  const plan = planOf({
    procedure: builtIn('sample'),
    points: [
      {
        standard: { ...grabSample('ph', 8.1, 'pH', 0.2, 25), id: 'sample', name: 'the sample' },
        lot: { id: '', label: '' },
      },
    ],
  });
  const drawn = { ...captured(0, -62), stepId: '' };

  it('is entered with its ±, and refused without, or from another water; nothing typed is lost', async () => {
    const bench = new OnTheBench(plan);
    const kept = { ...drawn, stepId: bench.state.current!.id };
    const open = await new OnTheBench(plan, [kept]).opens();
    await open.types('Found', '8.02');
    await open.types('Measured at', '25');
    await open.presses(/Hold it against/);
    expect(open.now.getByRole('alert').textContent).toMatch(/The ± is missing/);
    await open.types('Its ±, k = 2', '0.04');
    await open.types('Measured at', '66');
    await open.presses(/Hold it against/);
    expect(open.now.getByRole('alert').textContent).toMatch(/measured at 66 °C, the water has 25 °C/);
    expect(open.now.getByLabelText('Found')).toHaveProperty('value', '8.02');
    await open.types('Measured at', '24');
    await open.presses(/Hold it against/);
    expect(open.last).toMatchObject({ type: 'entered', entry: { kind: 'sample', value: 8.02, unit: 'pH', plusMinus: 0.04, temperatureC: 24 } }); // prettier-ignore
  });
});

describe('the verdict', () => {
  it('is decided by its key as it proposes; otherwise only with a reason', async () => {
    const bench = await new OnTheBench(planOf(), UP_TO_VERDICT).opens();
    const proposed = bench.now.getByTestId('verdict').textContent;
    const others = bench.now.getAllByRole('button', {
      name: /^(Adjust it|Leave it|Clean|Investigate|Replace)/,
      hidden: true,
    });
    expect(others.filter((b) => (b as HTMLButtonElement).disabled)).toHaveLength(others.length - 1);
    await bench.user.type(bench.now.getByLabelText('Why, in a few words'), 'n');
    // A letter in a field is a letter.
    expect(bench.sent).toEqual([]);
    await bench.user.type(bench.now.getByLabelText('Why, in a few words'), 'ew glass ordered');
    await bench.user.click(bench.now.getByRole('button', { name: 'Replace it', hidden: true }));
    expect(bench.last).toEqual({ type: 'decided', action: 'replace', because: 'new glass ordered' });
    cleanup();
    const again = await new OnTheBench(planOf(), UP_TO_VERDICT).opens();
    await again.user.keyboard('n');
    const action = (again.sent[0] as { action: string }).action;
    expect(proposed.toLowerCase()).toContain({ adjust: 'adjust it', leave: 'leave it' }[action]);
  });
});

describe('an adjustment', () => {
  const decided = [...UP_TO_VERDICT, { type: 'decided' as const, action: 'adjust' as const, because: '' }];

  it('shows old and new figures, and is entered by hand', async () => {
    const bench = await new OnTheBench(planOf(), decided).opens();
    // Worked by hand: (−171.4 + 3.1) mV over 3.01 pH at 59.16 mV a pH are 94.5 %.
    expect(bench.now.getByRole('row', { name: /^Slope/ }).textContent).toMatch(/100\.0 %94\.5 %/);
    expect(bench.now.getByRole('row', { name: /^Zero/ }).textContent).toMatch(/−3\.1/);
    await bench.presses(/I entered them/);
    expect(bench.last).toMatchObject({ type: 'adjusted', how: 'entered-by-hand', coefficients: { zero: expect.closeTo(-3.1, 1) as number, sensitivity: expect.closeTo(0.945, 3) as number } }); // prettier-ignore
  });

  it('that the instrument refuses is kept with what it says: one figure alone is none', async () => {
    const bench = await new OnTheBench(planOf(), decided).opens();
    await bench.presses(/The instrument refused it/);
    const keep = () => bench.now.getByRole('button', { name: /Nothing was changed|Keep/ });
    await bench.user.type(bench.now.getByLabelText(/It says|What it says/), 'Err 7');
    const [zero] = bench.now.getAllByRole('textbox').slice(1);
    await bench.user.type(zero!, '12');
    expect(bench.now.getByText(/One figure alone says little/)).toBeTruthy();
    await bench.user.clear(zero!);
    await bench.user.click(keep());
    expect(bench.last).toEqual({ type: 'adjustment-refused', message: 'Err 7', shows: null });
  });
});

describe('two thermometers', () => {
  const thermometers = grabSample('temperature', 25, '°C', 1, 25);
  const tank: RunPlan = {
    ...planOnPaper({ family: 'temperature', loopName: 'Tank', workingValue: 25, workingC: 25, tolerance: 0.5, channelKind: 'hand' }, []), // prettier-ignore
    procedure: builtIn('thermometers'),
    points: [{ standard: { ...thermometers, id: 'thermometers', name: 'two thermometers' }, lot: { id: '', label: '' } }], // prettier-ignore
  };
  const read = (temperatureC: number) => ({ temperatureC, plusMinusC: 0.2 });

  /** What is done until a step of this kind is on: they agree at 25.2 °C, and the display shows 26.4. */
  function upTo(kind: string): Body[] {
    const run = new OnTheBench(tank);
    const before: Body[] = [];
    for (let step = run.state.current!; step.kind !== kind; step = run.state.current!) {
      const onTrace = { stepId: step.id, traceSeconds: null };
      const body: Body =
        step.kind === 'enter'
          ? { type: 'entered', ...onTrace, entry: { kind: 'thermometers', a: read(25.2), b: read(25.2) } }
          : step.kind === 'settle'
            ? { ...captured(0, 26.4), stepId: step.id }
            : step.kind === 'decide'
              ? { type: 'decided', action: 'adjust', because: '' }
              : { type: 'step-done', ...onTrace };
      run.goesOn(body);
      before.push(body);
    }
    return before;
  }

  it('that disagree decide nothing; two that agree become the standard, in °F as well', async () => {
    const bench = await new OnTheBench(tank, upTo('enter')).opens();
    await bench.user.selectOptions(bench.now.getByLabelText('First thermometer, unit'), '°F');
    await bench.types('First thermometer', '77');
    await bench.types('Second thermometer', '80');
    for (const field of bench.now.getAllByLabelText('Its accuracy, ±')) await bench.user.type(field, '0.36');
    await bench.presses('Both are read');
    expect(bench.now.getByRole('alert').textContent).toMatch(/Find out which is wrong before anything is adjusted/);
    await bench.types('Second thermometer', '77.2');
    await bench.presses('Both are read');
    const near = (value: number) => expect.closeTo(value, 9) as number;
    expect(bench.last).toMatchObject({ type: 'entered', entry: { a: { temperatureC: near(25), plusMinusC: near(0.2) } } }); // prettier-ignore
  });

  it('hold a display in whole steps to what is nearest, and say what remains', async () => {
    const bench = await new OnTheBench(tank, upTo('adjust')).opens();
    // It shows 26.4 where there are 25.2: −1.2 °C, of which a display in whole degrees takes 1.
    await bench.types('The display takes steps of', '1');
    expect(bench.now.getByTestId('offset').textContent).toBe('−1.00 °C');
    expect(bench.now.getByText(/Wanted −1\.20 °C; −0\.20 °C remains/)).toBeTruthy();
    await bench.types('The display takes steps of', 'none');
    expect(bench.now.getByRole('alert').textContent).toMatch(/“none” is no step of a display/);
    expect(bench.now.getByRole('button', { name: 'I entered it' })).toHaveProperty('disabled', true);
    await bench.types('The display takes steps of', '0.5');
    await bench.presses('I entered it');
    expect(bench.last).toMatchObject({ type: 'adjusted', coefficients: { zero: expect.closeTo(1, 9) as number } });
  });
});
