import type { AlarmLevel, MessageWay, QuietHours, TravelRules } from '@frustum/core';
import type { AlarmWays, KeptWays } from '@frustum/contract';

/** Where alarms go, as it is typed. */
export interface WaysForm {
  readonly webhook: string;
  readonly mqttHost: string;
  readonly mqttPort: string;
  readonly topic: string;
  readonly mqttLogIn: string;
  readonly relay: string;
  readonly relayPort: string;
  readonly security: 'tls' | 'starttls' | 'none';
  readonly from: string;
  readonly to: string;
  readonly relayLogIn: string;
  readonly rules: TravelRules['ways'];
  readonly quietFrom: string;
  readonly quietTo: string;
  readonly timeZone: string;
  readonly unless: AlarmLevel;
  readonly heartbeatMinutes: string;
}

const text = (value: number | undefined) => (value === undefined ? '' : String(value));

export function formOfWays(asked: KeptWays, rules: TravelRules, timeZone: string): WaysForm {
  const { webhook = '', mqtt, mail, quiet, heartbeatMinutes } = asked;
  return {
    webhook,
    mqttHost: mqtt?.host ?? '',
    mqttPort: text(mqtt?.port),
    topic: mqtt?.topic ?? '',
    mqttLogIn: mqtt?.logIn ?? '',
    relay: mail?.host ?? '',
    relayPort: text(mail?.port),
    security: mail?.security ?? 'starttls',
    from: mail?.from ?? '',
    to: mail?.to.join(', ') ?? '',
    relayLogIn: mail?.logIn ?? '',
    rules: rules.ways,
    quietFrom: quiet?.from ?? '',
    quietTo: quiet?.to ?? '',
    timeZone: quiet?.timeZone ?? timeZone,
    unless: quiet?.unless ?? 'act',
    heartbeatMinutes: text(heartbeatMinutes),
  };
}

/** A port or minutes: other text stays as it is, so that the server can name it. */
const figure = (typed: string): number | undefined =>
  typed.trim() === '' ? undefined : ((Number(typed) || typed) as number);
const some = (typed: string) => typed.trim() || undefined;

/** What the server is asked to keep: only ways that were filled in. */
export function waysOf(form: WaysForm): Partial<AlarmWays> {
  const logIn = (name: string) => (some(name) ? { logIn: name.trim() } : {});
  const port = (typed: string) => (figure(typed) === undefined ? {} : { port: figure(typed) });
  const mqtt = form.mqttHost.trim() || form.topic.trim();
  const mail = form.relay.trim() || form.from.trim() || form.to.trim();
  const quiet: QuietHours | null = form.quietFrom && form.quietTo && form.quietFrom !== form.quietTo ? { from: form.quietFrom, to: form.quietTo, timeZone: form.timeZone, unless: form.unless } : null; // prettier-ignore
  return {
    ...(some(form.webhook) ? { webhook: form.webhook.trim() } : {}),
    ...(mqtt ? { mqtt: { host: form.mqttHost.trim(), topic: form.topic.trim(), ...port(form.mqttPort), ...logIn(form.mqttLogIn) } } : {}), // prettier-ignore
    ...(mail ? { mail: { host: form.relay.trim(), security: form.security, from: form.from.trim(), to: form.to.split(/[,;\s]+/).filter(Boolean), ...port(form.relayPort), ...logIn(form.relayLogIn) } } : {}), // prettier-ignore
    rules: form.rules,
    ...(quiet ? { quiet } : {}),
    ...(figure(form.heartbeatMinutes) === undefined ? {} : { heartbeatMinutes: figure(form.heartbeatMinutes) }),
  };
}

/** A way with another rule. */
export const withRule = (
  form: WaysForm,
  way: MessageWay,
  rule: Partial<TravelRules['ways'][MessageWay]>,
): WaysForm => ({
  ...form,
  rules: { ...form.rules, [way]: { ...form.rules[way], ...rule } },
});
