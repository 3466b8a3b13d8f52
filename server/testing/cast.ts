/** Made-up records that the server's tests share. */
export const RESERVOIR = {
  siteName: 'My grow room',
  loopName: 'Reservoir 1 pH',
  family: 'ph',
  settings: {},
  place: '',
  workingValue: 5.8,
  workingC: 22,
  tolerance: 0.15,
  intervalDays: 30,
  controls: 'acid dosing',
  pointSet: ['technical-7.00', 'technical-4.01'],
  sensorName: 'Reservoir 1 probe',
  serial: 'X-1',
  fittedOn: '2026-11-01',
  channel: { kind: 'hand' },
};

/** An event as the phone in the sump sends it. */
export const fromPhone = (counter: number, body: object, onSeq: number | null = null) => ({
  device: 'phone-in-the-sump',
  counter,
  at: '2026-11-23T09:00:10Z',
  onSeq,
  body,
});

export const capture = (pointIndex: number, signal: number, stepId: string, purpose = 'as-found') => ({
  type: 'captured',
  stepId,
  traceSeconds: null,
  capture: {
    pointIndex,
    purpose,
    method: 'typed',
    signal,
    signalUncertainty: 0.3,
    temperatureC: 22,
    settledSeconds: null,
    t90: null,
    trace: [],
  },
});

/** What the phone does from the hold to the verdict, in two standards. */
export const UP_TO_VERDICT = [
  { type: 'step-done', stepId: 'hold', traceSeconds: null },
  { type: 'step-done', stepId: 'take-out', traceSeconds: null },
  { type: 'step-done', stepId: 'p1.place.0', traceSeconds: null },
  capture(0, -8.9, 'p1.settle.0'),
  { type: 'step-done', stepId: 'p1.place.1', traceSeconds: null },
  capture(1, 156.3, 'p1.settle.1'),
];
