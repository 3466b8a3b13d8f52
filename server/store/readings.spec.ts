import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { testApplication, type TestApplication } from '../testing/application.ts';

const MINUTE_MS = 60_000;
const FROM = Date.parse('2026-11-20T08:00:00Z');

describe('minutes of a channel', () => {
  let subject: TestApplication;
  let channelId: string;
  const minute = (i: number) => new Date(FROM + i * MINUTE_MS).toISOString();
  const kept = (i: number, more: object = {}) => ({
    channelId,
    minute: minute(i),
    count: 1,
    mean: i,
    low: i - 1,
    high: i + 1,
    temperatureC: 20,
    onBench: false,
    ...more,
  });
  const read = (from: number, to: number) => subject.context.store.readMinutes(channelId, minute(from), minute(to));

  beforeAll(async () => {
    subject = await testApplication();
    const id = (n: number) => `00000000-0000-4000-8000-00000000000${n}`;
    channelId = id(4);
    await subject.context.store.addSensor({
      ids: { site: id(1), loop: id(2), sensor: id(3), channel: channelId, event: id(5) },
      by: '',
      at: '2026-01-01T00:00:00Z',
      siteName: 'House',
      timeZone: 'UTC',
      loop: {
        name: 'Loop',
        place: '',
        family: 'ph',
        settings: {},
        workingValue: 6,
        workingC: 20,
        tolerance: 0.1,
        intervalDays: 30,
        controls: '',
        pointSet: [],
        referenceGroup: '',
      },
      sensor: { name: 'Sensor', serial: 'S-1', fittedOn: '2026-01-01' },
      channel: { kind: 'hand' } as never,
      resolution: 0.1,
    });
  });
  afterAll(() => subject.close());

  it('many at once come back as they were, in order, the end not included', async () => {
    await subject.context.store.keepMinutes(Array.from({ length: 6000 }, (_, i) => kept(5999 - i)));
    const back = await read(0, 6000);
    expect(back).toHaveLength(6000);
    expect(back[4711]).toEqual(kept(4711));
    expect(await read(10, 12)).toEqual([kept(10), kept(11)]);
  });

  it('those at the time of day at which a stretch ends, of every day and over midnight', async () => {
    // 6000 minutes from 8:00 on are four days and four hours: they end at 12:00.
    const alike = await subject.context.store.readMinutesAlike(channelId, minute(0), minute(6000), 3);
    const hours = alike.map((m) => new Date(m.minute).getUTCHours());
    // The first day from 9:00 on, three whole ones, and the last to its end; 15:00 itself is three hours off.
    expect(hours).toHaveLength(4 * 361 + 180);
    expect([...new Set(hours)]).toEqual([9, 10, 11, 12, 13, 14, 15]);
    const night = await subject.context.store.readMinutesAlike(channelId, minute(0), minute(17 * 60), 1);
    expect(night.map((m) => m.mean)).toEqual(Array.from({ length: 60 }, (_, i) => 16 * 60 + i));
  });

  it('one that is there already is joined to: means by how many went into each, extremes, and whether a run was on', async () => {
    await subject.context.store.keepMinutes([
      kept(7, { count: 3, mean: 11, low: 2, high: 30, temperatureC: 24, onBench: true }),
    ]);
    expect(await read(7, 8)).toEqual([
      kept(7, { count: 4, mean: 10, low: 2, high: 30, temperatureC: 23, onBench: true }),
    ]);
    await subject.context.store.keepMinutes([]);
    expect(await read(6, 7)).toEqual([kept(6)]);
  });

  it('a minute of a channel that is not there is refused, and none of its fellows is kept', async () => {
    const stray = kept(7000, { channelId: '00000000-0000-4000-8000-000000000009' });
    await expect(subject.context.store.keepMinutes([kept(7001), stray])).rejects.toThrow();
    expect(await read(7000, 7002)).toEqual([]);
  });
});
