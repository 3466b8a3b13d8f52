import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { MESSAGE_WAYS, USUAL_RULES, type TravelRules } from '@frustum/core';
import { alarmWaysSchema, type AlarmWays } from '@frustum/contract';

/** Where a broker listens if nothing is said. */
export const MQTT_PORT = 1883;

/** Where alarms are told beside the screen, and when. */
export type Telling = AlarmWays;
export type MailRelay = NonNullable<Telling['mail']>;

/** Where a relay listens if nothing is said: RFC 8314 for tls, RFC 6409 for submission, RFC 5321 for a relay of one's own. */
export const portOf = ({ port, security = 'none' }: MailRelay): number =>
  port ?? { tls: 465, starttls: 587, none: 25 }[security];

const fileIn = (folder: string) => join(folder, 'alarms.json');

/**
 * The operator's own `alarms.json` in the data folder: `{ "webhook": "http://…", "mqtt": { "host": …, "topic": … }, "mail": … }`. Read
 * anew each time: no restart after a change. No file = alarms are told on the screen alone.
 *
 * @throws Error that says what is wrong in the file
 */
export function tellingIn(folder: string): Telling {
  let text: string;
  try {
    text = readFileSync(fileIn(folder), 'utf8');
  } catch {
    return {} as Telling;
  }
  return alarmWaysSchema.validateSync(JSON.parse(text), { strict: true });
}

/** Keeps where alarms go: written whole or not at all, and for nobody else to read. */
export function keepTelling(folder: string, telling: Telling): Telling {
  const file = fileIn(folder);
  writeFileSync(`${file}.new`, `${JSON.stringify(telling, null, 2)}\n`, { mode: 0o600, flush: true });
  renameSync(`${file}.new`, file);
  return tellingIn(folder);
}

/** When each way is taken: as the file says, else as usual. */
export const rulesIn = ({ rules, quiet }: Telling): TravelRules => ({
  ways: { ...USUAL_RULES.ways, ...Object.fromEntries(MESSAGE_WAYS.flatMap((way) => (rules?.[way] ? [[way, rules[way]]] : []))) }, // prettier-ignore
  quiet: quiet ?? null,
});
