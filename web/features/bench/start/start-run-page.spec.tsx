// @vitest-environment happy-dom
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { CATALOGUE, IDEAL_SENSOR, type ConditionOfRun } from '@frustum/core';
import { aBrowser, draws, sentOut } from '../../../testing/on-the-bench.tsx';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const NOW = Date.UTC(2026, 10, 25);
const row = (sensorId: string, loopName: string, family: string, more: object = {}) => ({
  sensorId,
  loopId: `loop-${sensorId}`,
  loopName,
  family,
  place: '',
  siteName: 'House',
  sensorName: 'Probe',
  serial: 'X',
  settings: {},
  takes: {},
  workingValue: 5.8,
  workingC: 22,
  tolerance: 0.1,
  controls: '',
  limits: {},
  pointSet: [],
  channel: { kind: 'hand' },
  inForce: IDEAL_SENSOR,
  shownAs: { scale: '', step: null },
  due: { atMs: NOW + 1, reason: '' },
  openRunId: null,
  ...more, // prettier-ignore
});
const OXYGEN = row('s1', 'Tank oxygen', 'oxygen-optical', { workingValue: 7, pointSet: ['moist-air'] });
const CONDITIONS: ConditionOfRun[] = [
  { name: 'pressureKPa', value: 101.325, from: 'set-up', loopName: '', because: '' },
  { name: 'salinity', value: 34.62, from: 'loop', loopName: 'Tank salinity', because: '' },
];
const LEANS = [{ loopName: 'Tank salinity', family: 'salinity', gives: ['salinity'], dueMs: NOW - 9 * 86_400_000, outside: false }]; // prettier-ignore
const view = (of: object, more: object = {}) => ({
  nowMs: NOW,
  row: of,
  runs: [],
  past: [],
  leansOn: [],
  conditions: [],
  ...more,
});
const LOTS = [{ lotId: 'b1', standardId: 'technical-7.00', label: 'K-1', expiresOn: '2027-01-01', openedOn: '2026-11-20', usedUpOn: null, table: null }]; // prettier-ignore
const answers = {
  '/api/shelf': { standards: CATALOGUE, lots: LOTS },
  '/api/procedures': [],
  '/api/sensors/s1': view(OXYGEN, { conditions: CONDITIONS, leansOn: LEANS }),
  '/api/sensors/s2': view(row('s2', 'Tank pH', 'ph', { pointSet: ['technical-7.00', 'technical-4.01'] })),
  '/api/sensors/s3': view(row('s3', 'Sump pH', 'ph', { pointSet: ['technical-7.00', 'technical-4.01'] })),
  '/api/margins': { nowMs: NOW, rows: ['2', '3'].map((n) => row(`s${n}`, n === '2' ? 'Tank pH' : 'Sump pH', 'ph', { pointSet: ['technical-7.00', 'technical-4.01'] })) }, // prettier-ignore
  '/api/runs': { runId: 'r9' },
};

describe('the start of a run', () => {
  async function opens(sensorId: string) {
    aBrowser(answers);
    const { Page } = await import('./start-run-page.tsx');
    const at = `/bench/start/${sensorId}`;
    const user = await draws(
      <Routes>
        <Route path="/bench/start/:sensorId" element={<Page />} />
        <Route path="/bench/:runId" element={<p>It runs</p>} />
      </Routes>,
      at,
    );
    return { user, start: await screen.findByRole('button', { name: /^(Start|First)/ }) };
  }

  it('waits for a reason at a gate, unless the condition is typed that the other loop would have given', async () => {
    const { user, start } = await opens('s1');
    expect(start.textContent).toContain('First say why');
    expect(screen.getByText(/This run takes the salinity from it/)).toBeTruthy();
    expect(screen.getByText('Shown by Tank salinity.')).toBeTruthy();
    const salinity = screen.getByRole('textbox', { name: 'Salinity, PSS-78' });
    expect(salinity.getAttribute('placeholder')).toBe('34.62');
    await user.type(salinity, '35.1');
    expect(screen.queryByText(/This run takes the salinity from it/)).toBeNull();
    await user.type(screen.getByRole('textbox', { name: 'Pressure of the air, kPa' }), '990 hPa');
    await user.keyboard('{Tab}');
    await user.click(screen.getByRole('button', { name: /Start the run/ }));
    expect(await screen.findByText('It runs')).toBeTruthy();
    expect(sentOut()).toEqual([
      { path: '/api/runs', body: expect.objectContaining({ sensorId: 's1', conditions: { pressureKPa: 99, salinity: 35.1 }, points: [{ standardId: 'moist-air', lotId: null }], overrides: [] }) as unknown }, // prettier-ignore
    ]);
  });

  it.each([
    ['990', /is outside 50 to 112 kPa/],
    ['high', /no figure in front/],
    ['21 °C', /this takes dbar, kPa/],
  ])('a pressure of “%s” is refused in its place, and the run cannot begin', async (text, words) => {
    const { user, start } = await opens('s1');
    await user.type(screen.getByRole('textbox', { name: 'Pressure of the air, kPa' }), text);
    expect(screen.getByText(words)).toBeTruthy();
    expect((start as HTMLButtonElement).disabled).toBe(true);
    await user.keyboard('n');
    expect(sentOut()).toEqual([]);
  });

  it('pours from the bottle that is open, and asks for no conditions where none matter', async () => {
    const { user } = await opens('s2');
    expect(screen.queryByText('Conditions')).toBeNull();
    // Bottles of ±0.02 and a junction of ±0.02, at 5.8 between them: by hand 2 · √(0.01²/2 + 0.01² + 0.006²).
    expect(screen.getByText(/^Will know the error to ±0\.03\d? pH against ±0\.10\d?: enough to tell\.$/)).toBeTruthy();
    expect(screen.getByText(/7\.00 \(K-1\), then 4\.01/)).toBeTruthy();
    await user.keyboard('n');
    await waitFor(() => expect(sentOut()[0]!.body).toMatchObject({ points: [{ standardId: 'technical-7.00', lotId: 'b1' }, { standardId: 'technical-4.01', lotId: null }] })); // prettier-ignore
  });
});

describe('several probes at once', () => {
  it('begins one run for each that is picked; one that cannot begin stays picked, with what the server said', async () => {
    aBrowser(answers);
    const { ManyStart } = await import('../many/many-start.tsx');
    const started = vi.fn();
    const user = await draws(<ManyStart running={0} onStarted={started} />);
    const probes = await screen.findByRole('group', { name: 'Probes' });
    const go = () => screen.getByRole('button', { name: /^(Start|First)/ });
    expect((go() as HTMLButtonElement).disabled).toBe(true);
    await user.click(within(probes).getByRole('checkbox', { name: /Tank pH/ }));
    await waitFor(() => expect(go().textContent).toBe('Start one run'));
    await user.click(within(probes).getByRole('checkbox', { name: /Sump pH/ }));
    await waitFor(() => expect(go().textContent).toBe('Start 2 runs'));
    await user.click(go());
    await waitFor(() => expect(started).toHaveBeenCalledOnce());
    expect(sentOut().map((s) => (s.body as { sensorId: string }).sensorId)).toEqual(['s2', 's3']);
  });
});
