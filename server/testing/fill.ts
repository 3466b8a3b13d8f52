import { randomUUID } from 'node:crypto';
import { PGlite } from '@electric-sql/pglite';
import { CATALOGUE, NO_FLEET, type RunEvent } from '@frustum/core';
import type { Store } from '../store/commands/index.ts';
import type { AlarmRecord } from '../store/commands/alarms.ts';
import type { SensorToAdd } from '../store/commands/places.ts';
import { tablesOf } from '../store/tables.ts';

const AT = '2026-11-23T09:00:00.000Z';
const minuteAt = (n: number) => new Date(Date.parse(AT) + 60_000 * n).toISOString();

interface Place {
  readonly loopId: string;
  readonly sensorId: string;
  readonly channelId: string;
}

/** A loop that is typed by hand. */
function placeToAdd(n: number | string): SensorToAdd {
  return {
    ids: { site: randomUUID(), loop: randomUUID(), sensor: randomUUID(), channel: randomUUID(), event: randomUUID() },
    by: 'Operator A',
    at: '2026-01-01T00:00:00Z',
    siteName: 'House',
    timeZone: 'UTC',
    loop: { name: `Loop ${n}`, family: 'ph', workingValue: 5.8, workingC: 22, tolerance: 0.15, intervalDays: 30, pointSet: ['technical-7.00', 'technical-4.01'] }, // prettier-ignore
    sensor: { name: `Probe ${n}`, serial: `“${n}”\t\\N`, fittedOn: '2026-01-01' },
    channel: { kind: 'hand', quantity: 'mV' } as SensorToAdd['channel'],
    resolution: 0.1,
  };
}

const noted = (seq: number, text: string): RunEvent => ({
  seq,
  device: 'phone',
  counter: seq,
  at: minuteAt(seq),
  by: 'Operator A',
  body: { type: 'noted', text },
});

type Kept = <T>(name: string, written: Promise<T>) => Promise<T>;

/** A spare that comes onto the shelf and is moved there. */
async function writeSpare(store: Store, n: number | string, kept: Kept): Promise<void> {
  const change = { id: randomUUID(), at: AT, by: 'Operator A', why: '' };
  const spareId = randomUUID();
  const spare = { id: spareId, name: `Spare ${n}`, serial: '', family: 'ph', model: '', boughtOn: null, storage: 'wet' as const, soakingSince: null }; // prettier-ignore
  await kept('addSpare', store.addSpare(spare, { eventId: randomUUID(), by: 'Operator A', at: AT }));
  const move = { sensorId: spareId, version: 1, at: AT, destination: { to: 'dry' as const }, displaced: null, instead: null, soaked: false, change, ids: Array.from({ length: 10 }, () => randomUUID()) }; // prettier-ignore
  await kept('moveSensor', store.moveSensor(move));
}

/** Its site goes by another clock. */
async function writeSite(store: Store, n: number | string, kept: Kept): Promise<void> {
  const change = { id: randomUUID(), at: AT, by: 'Operator A', why: '' };
  const site = (await store.readSetUp()).sites.find((s) => s.name === 'House')!;
  await kept('changeSite', store.changeSite(site.id, { version: site.version, to: { timeZone: `Etc/GMT+${String(n).length}` }, change })); // prettier-ignore
}

/** A name, and that its bearer has left. */
async function writePerson(store: Store, n: number | string, kept: Kept): Promise<void> {
  const person = await kept('addPerson', store.addPerson({ id: randomUUID(), name: `Operator of ${n}` }));
  await kept('changePerson', store.changePerson(person.id, { leftAt: AT }));
}

/** Minutes of its channel; one of them comes twice. */
async function writeReadings(store: Store, channelId: Place['channelId'], kept: Kept): Promise<void> {
  const minute = (m: number) => ({ channelId: channelId, minute: minuteAt(m), count: 60, mean: 0.1 + m / 7, low: -1e-300, high: 1e300, temperatureC: 22.1, onBench: false }); // prettier-ignore
  await kept('keepMinutes', store.keepMinutes([minute(0), minute(1)]));
  await kept('keepMinutes', store.keepMinutes([minute(1), minute(2)]));
}

/** An alarm that is raised, worse, snoozed and seen, and a message of it. */
async function writeAlarms(store: Store, n: number | string, sensorId: Place['sensorId'], kept: Kept): Promise<void> {
  const alarm: AlarmRecord = { id: randomUUID(), key: `k${n}`, kind: 'silent', sensorId, text: 't', raisedAt: AT, acknowledgedAt: null, acknowledgedBy: null, clearedAt: null, level: 'warn', told: ['mqtt'], snoozedUntil: null, tellingSince: null }; // prettier-ignore
  const message = { id: randomUUID(), way: 'mqtt' as const, at: AT, body: { event: 'raised' as const, at: AT, id: alarm.id, kind: 'silent', text: 't', by: '' } }; // prettier-ignore
  await kept('changeAlarms', store.changeAlarms({ raised: [alarm], changed: [{ ...alarm, level: 'act', anew: true }], over: [], at: AT, messages: [message] })); // prettier-ignore
  await kept('snoozeAlarm', store.snoozeAlarm(alarm.id, AT, []));
  await kept('acknowledgeAlarm', store.acknowledgeAlarm(alarm.id, 'Operator A', AT));
  await kept('noteUntold', store.noteUntold(message.id, 'nobody answers', null));
}

/** A walk with one reading, and what was noticed on the way. */
async function writeWalk(store: Store, { channelId, loopId, sensorId }: Place, kept: Kept): Promise<void> {
  const walk = await kept('beginWalk', store.beginWalk({ id: randomUUID(), begunAt: AT, by: 'Operator A', endedAt: null })); // prettier-ignore
  const minute = { channelId, minute: minuteAt(9), count: 1, mean: 5.8, low: 5.7, high: 5.9, temperatureC: 22, onBench: false }; // prettier-ignore
  const reading = { id: randomUUID(), walkId: walk.id, loopId, channelId, at: AT, by: 'Operator A', typed: '5,8', unit: 'pH', value: 5.8, plusMinus: 0.1, doubt: '' }; // prettier-ignore
  await kept('keepWalkReading', store.keepWalkReading(reading, minute, null));
  await kept('endWalk', store.endWalk(walk.id, AT));
  const notice = (m: number) => ({ id: randomUUID(), loopId, sensorId, at: minuteAt(m), kind: 'fell' as const, note: '', by: 'Operator A', notedAt: minuteAt(m) }); // prettier-ignore
  await kept('keepNotices', store.keepNotices([notice(1), notice(2)]));
  await kept('dropNotice', store.dropNotice(loopId, { at: minuteAt(2), kind: 'fell' }, AT));
}

/**
 * One write of every kind that there is, at a loop of its own; what is written is made anew with each number.
 *
 * @param done told after each write that was acknowledged, with its name
 */
export async function writeAll(
  store: Store,
  n: number | string,
  done: (name: string) => void = () => {},
): Promise<Place> {
  const kept = async <T>(name: string, written: Promise<T>): Promise<T> => {
    const value = await written;
    done(name);
    return value;
  };
  await kept('keepStandards', store.keepStandards(CATALOGUE));
  await kept('keepUsers', store.keepUsers([{ id: randomUUID(), name: `Operator ${n}`, role: 'operator' }]));
  const add = placeToAdd(n);
  const { loopId, sensorId } = await kept('addSensor', store.addSensor(add));
  const place = { loopId, sensorId, channelId: add.ids.channel };
  const lot = { id: randomUUID(), standardId: 'technical-7.00', label: `K-${n}`, expiresOn: '2027-05-31', openedOn: null, usedUpOn: null, table: null, plusMinus: null }; // prettier-ignore
  await kept('addLot', store.addLot(lot));
  await kept('endLot', store.endLot(lot.id, '2026-11-23'));
  const runId = randomUUID();
  await kept('openRun', store.openRun({ id: runId, sensorId, loopId }, noted(1, `begun ${n} 🌊`)));
  const derived = { status: 'abandoned' as const, holding: false, endedAt: AT, outcome: null };
  const events = [noted(2, 'a\tb\\N\n“c”'), noted(3, String(n))];
  await kept('appendEvents', store.appendEvents({ runId, afterSeq: 1, events, derived }));
  await kept('keepPhoto', store.keepPhoto({ id: randomUUID(), runId, type: 'image/png', bytes: 7, at: AT }));
  const procedure = { id: randomUUID(), version: 1, family: 'ph', kind: 'calibrate' as const, name: `Ours ${n}`, points: [], school: '' as const, seconds: null, words: {}, extra: [], retired: false }; // prettier-ignore
  await kept('keepProcedure', store.keepProcedure(procedure));
  await kept('keepServices', store.keepServices([{ id: randomUUID(), sensorId, at: AT, kind: 'cleaned', note: '', by: 'Operator A', notedAt: AT }])); // prettier-ignore
  const dose = (m: number) => ({ id: randomUUID(), loopId, at: minuteAt(m), what: 'acid', amount: 1 / 3, unit: 'mL' as const, notedAt: minuteAt(m) }); // prettier-ignore
  await kept('keepDoses', store.keepDoses([dose(1), dose(2)]));
  await kept('dropDoses', store.dropDoses(loopId, minuteAt(2), AT));
  const change = () => ({ id: randomUUID(), at: AT, by: 'Operator A', why: `because “${n}”` });
  await kept('changeChannel', store.changeChannel({ id: place.channelId, config: add.channel, resolution: 0.2, version: 1, change: change() })); // prettier-ignore
  const was = { intervalDays: 30, dueBy: 'calendar' as const };
  await kept('changeSchedule', store.changeSchedule({ loopId, intervalDays: 45, dueBy: 'calendar', was, change: change() })); // prettier-ignore
  await kept(
    'changeLoop',
    store.changeLoop(loopId, { version: 2, to: { tolerance: 0.08, backupOf: loopId }, change: change() }),
  );
  await kept(
    'changeSensor',
    store.changeSensor(sensorId, { version: 1, to: { serial: `S-${n}` }, change: change(), eventId: randomUUID() }),
  );
  await writeSite(store, n, kept);
  await writeSpare(store, n, kept);
  await kept('changeAtOnce', store.changeAtOnce({ add: [placeToAdd(`${n} of a file`)], changeLoops: [], changeSensors: [], spares: [], backups: [] })); // prettier-ignore
  await kept('orderLoops', store.orderLoops([loopId]));
  await writePerson(store, n, kept);
  await writeReadings(store, place.channelId, kept);
  await writeWalk(store, place, kept);
  await writeAlarms(store, n, sensorId, kept);
  const fleet = { ...NO_FLEET, sensors: 2, runs: typeof n === 'number' ? n : 9 };
  await kept(
    'keepFleets',
    store.keepFleets([{ family: 'ph', model: 'gel', version: 1, fleet, houseRuns: 9, learnedAt: AT }]),
  );
  return place;
}

/** Every row of a database that nobody has open, as text, table by table. */
export async function rowsIn(folder: string): Promise<Record<string, string[]>> {
  const client = await PGlite.create(folder);
  try {
    const rows: Record<string, string[]> = {};
    for (const { name } of await tablesOf(client)) {
      if (name === 'house') continue;
      const read = await client.query<{ row: string }>(`select to_jsonb(t)::text as row from "${name}" t order by 1`);
      rows[name] = read.rows.map((r) => r.row);
    }
    return rows;
  } finally {
    await client.close();
  }
}
