import { seededChance } from '../../core/statistics/chance.ts';
import { fromPhone, RESERVOIR, UP_TO_VERDICT } from './cast.ts';

/** One request as it goes over the wire. */
export interface FuzzRequest {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  /** the body's bytes as text; null for none */
  readonly body: string | null;
}

/** Values that have broken servers: each can stand wherever a value can. */
const HOSTILE: readonly unknown[] = [
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\ud800',
  '\udfff\ud800',
  '\u202egpj.exe',
  '__proto__',
  'constructor',
  'toString',
  'hasOwnProperty',
  'null',
  'NaN',
  'Infinity',
  '=1+1',
  "'; drop table runs; --",
  '../../../etc/passwd',
  '<script>alert(1)</script>',
  '2026-02-31',
  '2026-13-01',
  '0000-00-00',
  '9999-12-31',
  '99999-01-01',
  '-000001-01-01',
  '2026-11-23T25:61:61Z',
  '+275760-09-13T00:00:00.001Z',
  '1970-01-01T00:00:00Z',
  '294277-01-01T00:00:00Z',
  'x'.repeat(5000),
  '🌊'.repeat(200),
  0,
  -0,
  -1,
  0.5,
  1e-320,
  1e308,
  -1e308,
  2 ** 31,
  -(2 ** 31) - 1,
  2 ** 53,
  2 ** 63,
  1e21,
  true,
  false,
  null,
  [],
  {},
  [[]],
  [null],
  { toString: 1 },
  { then: 'x' },
  { length: 1e9 },
];

const PLAIN = HOSTILE.filter((value) => typeof value !== 'object');

/** As JSON text: keys that an object literal cannot have, depth that a parser cannot take, figures that JSON does not know. */
const HOSTILE_TEXTS: readonly string[] = [
  '{"__proto__":{"polluted":true}}',
  '{"constructor":{"prototype":{"polluted":true}}}',
  '['.repeat(5000) + ']'.repeat(5000),
  '{"a":'.repeat(5000) + '1' + '}'.repeat(5000),
  '[' + '1,'.repeat(5000) + '1]',
  '{"a":1e999}',
  '{"a":-1e999}',
  '{"a":"\\u0000\\ud800"}',
  'null',
  '"text"',
  '7',
  '',
  '{',
  '\u0000',
  '{"events":[]}',
  '{"events":{"length":200}}',
];

const HEADERS: readonly Readonly<Record<string, string>>[] = [
  { 'content-type': 'application/json' },
  { 'content-type': 'application/json; charset=utf-7' },
  { 'content-type': 'application/json; charset=nonsense' },
  { 'content-type': 'application/json; charset="' },
  { 'content-type': 'application/json', 'content-encoding': 'gzip' },
  { 'content-type': 'application/json', 'content-encoding': 'nonsense' },
  { 'content-type': 'text/plain' },
  { 'content-type': 'application/x-www-form-urlencoded' },
  { 'content-type': 'multipart/form-data; boundary=x' },
  { 'content-type': 'image/jpeg' },
  { 'content-type': '' },
  { 'content-type': 'application/json', expect: 'nonsense' },
  { 'content-type': 'application/json', range: 'bytes=9-1' },
  { 'content-type': 'application/json', 'if-none-match': '"' },
];

/** Parts of an address that are no id. */
const HOSTILE_PARTS = [
  '%',
  '%zz',
  '%00',
  '%ed%a0%80',
  '%2e%2e%2f',
  'x',
  'constructor',
  '__proto__',
  '00000000-0000-0000-0000-000000000000',
  '%F0%9F%8C%8A',
  'a'.repeat(3000),
];

/** A document of the API, as far as its routes are read off it. */
interface Document {
  readonly paths: Readonly<Record<string, Readonly<Record<string, unknown>>>>;
}

/** Every route of the API's own document, as method and path; the live stream, which never ends, is left out. */
export const routesOf = ({ paths }: Document): readonly { method: FuzzRequest['method']; path: string }[] =>
  Object.entries(paths).flatMap(([path, operations]) =>
    path === '/api/live'
      ? []
      : Object.keys(operations).map((method) => ({
          method: method as FuzzRequest['method'],
          path: path.replace(/^\/api/, '').replaceAll(/\{(\w+)\}/g, ':$1'),
        })),
  );

/** Bodies that are good, to be spoiled: what is refused at once tries nothing behind the first check. */
const GOOD: Readonly<Record<string, unknown>> = {
  '/sensors': RESERVOIR,
  '/runs': {
    sensorId: ':sensorId',
    points: [{ standardId: 'technical-7.00' }, { standardId: 'technical-4.01' }],
    school: 'statistical',
  },
  '/runs/:runId/events': { events: UP_TO_VERDICT.map((body, i) => fromPhone(i + 1, body)) },
  '/runs/:runId/adjustment': {
    events: [fromPhone(90, { type: 'adjusted', coefficients: { zero: -8, sensitivity: 0.93 }, how: 'written' }, 1)],
  },
  '/channels/test': {
    channel: { kind: 'modbus-map', host: '127.0.0.1', port: 1, unitId: 1, table: 'input', register: 1, type: 'int16' },
  },
  '/channels/survey': {
    channel: {
      kind: 'modbus-map',
      host: '127.0.0.1',
      port: 1,
      unitId: 1,
      table: 'input',
      register: 1,
      type: 'int16',
      fixedC: 25,
    },
    shows: 7.02,
  },
  '/channels/:channelId': { channel: { kind: 'hand' }, version: 1 },
  '/loops/:loopId': { version: 1, to: { name: 'Reservoir 2', tolerance: 0.08, limits: { zero: 20 } }, why: 'tighter' },
  '/set-up/alike': { loops: [{ loopId: ':loopId', version: 1 }], to: { tolerance: 0.09 }, why: 'all' },
  '/alarms/:alarmId/snooze': { minutes: 30 },
  '/alarm-ways': { webhook: 'http://127.0.0.1:9/', mail: { host: 'relay.local', port: 25, security: 'none', from: 'bench@tank.example', to: ['a@tank.example'] }, rules: { mail: { from: 'act', afterMinutes: 15 } }, quiet: { from: '22:00', to: '07:00', timeZone: 'UTC', unless: 'act' }, heartbeatMinutes: 60 }, // prettier-ignore
  '/alarm-limits': { loops: [{ loopId: ':loopId', version: 1, alarmLimits: { warnLow: 5.5, warnHigh: 6.2, forMinutes: 10, daily: false } }], why: 'for the night' }, // prettier-ignore
  '/walks/:walkId/readings': { id: '00000000-0000-4000-8000-0000000000ab', loopId: ':loopId', typed: '5,8', unit: 'pH' }, // prettier-ignore
  '/loops/:loopId/notices': { kind: 'fell', note: 'off the rim', at: '2026-11-23T08:00:00Z' },
  '/loops/:loopId/would-be': { to: { tolerance: 0.08, workingValue: 6 } },
  '/sites/:siteId': { version: 1, to: { name: 'Hall', timeZone: 'Europe/Paris' }, why: '' },
  '/sensors/:sensorId': { version: 1, to: { name: 'Probe', serial: '1', fittedOn: '2026-01-02' }, why: '' },
  '/sensors/:sensorId/place': { version: 1, to: 'wet', at: '2026-11-23T08:00:00Z', why: 'to be cleaned' },
  '/logbook': { csv: 'when,sensor,standard,as found\n2024-03-01,Reservoir 1 pH,7.00,7.06' },
  '/logbook/rehearsal': { csv: 'when,sensor,standard,as found,as left\n2024-03-01,Reservoir 1 pH,7.00,7.06,7.00' },
  '/spares': {
    name: 'Spare',
    serial: 'S-9',
    family: 'ph',
    model: 'gel',
    boughtOn: '2026-10-01',
    storage: 'wet',
    soaking: true,
  },
  '/set-up/order': { loops: [':loopId'] },
  '/inventory': { text: 'site,loop,measures,works at\nHall,Tank 9 pH,pH,8.1' },
  '/inventory/rehearsal': { text: '[{"loop": "Tank 9 pH", "measures": "pH"}]' },
  '/log-ins': { name: 'hall', to: '192.168.1.21:1883', username: 'reader', password: 'not a real one' },
  '/log-ins/dropped': { name: 'hall' },
  '/people': { name: 'Operator C' },
  '/people/:personId': { left: true },
  '/lots': { standardId: 'technical-7.00', label: 'M-1', expiresOn: '2027-05-31', openedOn: null, table: null },
  '/sensors/:sensorId/services': { kind: 'cleaned', note: '', at: '2026-11-23T08:00:00Z' },
  '/sensors/:sensorId/schedule': {
    intervalDays: 20,
    dueBy: 'calendar',
    was: { intervalDays: 30, dueBy: 'calendar' },
  },
  '/loops/:loopId/doses': { doses: [{ at: '2026-11-23T08:00:00Z', what: 'acid', amount: 5, unit: 'mL' }] },
  '/procedures': {
    version: 0,
    family: 'ph',
    kind: 'calibrate',
    name: 'Ours',
    points: ['technical-7.00', 'technical-4.01'],
    school: '',
    seconds: null,
    words: { hold: { title: 'Hold it', text: 'now' } },
    extra: [{ after: 'hold', title: 'Look', text: '' }],
  },
  '/stand-in/:channelId': { action: 'move', to: 'process' },
};

/**
 * Requests that mean harm or are slips, drawn over a route table: the same seed gives the same requests.
 *
 * @param ids real ids by parameter, so that a request reaches what lies behind the check of its address
 */
export function* fuzz(
  routes: ReturnType<typeof routesOf>,
  ids: Readonly<Record<string, string>>,
  seed: number,
): Generator<FuzzRequest> {
  const dice = seededChance(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(dice.uniform() * list.length)]!;
  const chance = (share: number) => dice.uniform() < share;
  /** Puts something hostile at one place of a value, somewhere inside. */
  const spoiled = (value: unknown): unknown => {
    if (Array.isArray(value) && value.length && chance(0.9)) {
      const at = Math.floor(dice.uniform() * value.length);
      // Twice the same, in one list.
      if (chance(0.1)) return [...(value as unknown[]), value[at]];
      return value.map((v: unknown, i) => (i === at ? spoiled(v) : v));
    }
    if (typeof value === 'object' && value !== null && !Array.isArray(value) && chance(0.9)) {
      const entries = Object.entries(value);
      if (!entries.length || chance(0.1)) return { ...value, [String(pick(PLAIN)).slice(0, 40)]: pick(HOSTILE) };
      const [key] = pick(entries);
      if (chance(0.1)) return Object.fromEntries(entries.filter(([k]) => k !== key));
      return Object.fromEntries(entries.map(([k, v]) => [k, k === key ? spoiled(v) : v]));
    }
    return pick(HOSTILE);
  };
  const address = (path: string) =>
    path.replace(/:(\w+)/g, (_, name: string) =>
      chance(0.8) ? (ids[name] ?? pick(HOSTILE_PARTS)) : pick(HOSTILE_PARTS),
    );
  const query = () => {
    if (chance(0.7)) return '';
    // As bytes: a lone surrogate has no address of its own.
    const value = () =>
      [...Buffer.from(String(pick(PLAIN)))].map((byte) => `%${byte.toString(16).padStart(2, '0')}`).join('');
    return `?${pick(['days', 'at', 'watch', 'x', 'days[]', 'at[a]', '__proto__'])}=${chance(0.2) ? pick(HOSTILE_PARTS).slice(0, 9) : value()}`;
  };
  let count = 0;
  for (;;) {
    // Each route once before any comes again.
    const { method, path } = routes[count++ % routes.length]!;
    const good = Object.hasOwn(GOOD, path)
      ? (JSON.parse(
          JSON.stringify(GOOD[path])
            .replaceAll('":sensorId"', JSON.stringify(ids['sensorId'] ?? ''))
            .replaceAll('":loopId"', JSON.stringify(ids['loopId'] ?? '')),
        ) as unknown)
      : { text: 'a' };
    const takesBody = method !== 'get';
    const body = !takesBody
      ? null
      : chance(0.15)
        ? pick(HOSTILE_TEXTS)
        : JSON.stringify(chance(0.5) ? spoiled(good) : spoiled(spoiled(good)));
    yield {
      method,
      path: `/api${address(path)}${query()}`,
      headers: takesBody ? (chance(0.85) ? HEADERS[0]! : pick(HEADERS)) : {},
      body: body ?? null,
    };
  }
}
