import type { ReactNode } from 'react';
import { ALARM_LEVELS, type AlarmLevel, type MessageWay } from '@frustum/core';
import { useTryAlarmWayMutation } from '../../app/api.ts';
import { problemOf } from '../../format/problem.ts';
import { LabelledInput, LabelledSelect } from '../../ui/labelled.tsx';
import { Notice } from '../../ui/notice.tsx';
import { withRule, type WaysForm } from './ways-form.ts';

interface Part {
  readonly form: WaysForm;
  readonly set: (part: Partial<WaysForm>) => void;
  /** what is on screen is not kept yet */
  readonly changed: boolean;
  /** the server knows where to */
  readonly named: boolean;
}

const LEVELS: Readonly<Record<AlarmLevel, string>> = {
  note: 'everything',
  warn: 'warnings and worse',
  act: 'act, and urgent',
  urgent: 'urgent only',
};
const levelsFrom = (levels: readonly AlarmLevel[]) => levels.map((level) => [level, LEVELS[level]] as const);
const AFTER = [0, 10, 30, 60];
const afterWords = (minutes: number) => (minutes === 0 ? 'at once' : `when nobody has seen it for ${minutes} min`);

export const WebhookFields = ({ form, set, ...part }: Part) => (
  <Way name="A webhook" way="webhook" form={form} set={set} {...part}>
    <LabelledInput
      className="sm:col-span-2"
      label="Address"
      hint="http://…"
      value={form.webhook}
      onChange={(webhook) => set({ webhook })}
    />
  </Way>
);

export const MqttFields = ({ form, set, ...part }: Part) => (
  <Way name="An MQTT topic" way="mqtt" form={form} set={set} {...part}>
    <LabelledInput label="Broker" value={form.mqttHost} onChange={(mqttHost) => set({ mqttHost })} />
    <LabelledInput
      label="Port of the broker"
      hint="1883"
      keyboard="numeric"
      value={form.mqttPort}
      onChange={(mqttPort) => set({ mqttPort })}
    />
    <LabelledInput label="Topic" value={form.topic} onChange={(topic) => set({ topic })} />
    <LabelledInput
      label="Log-in of the broker"
      hint="its name, from Set-up"
      value={form.mqttLogIn}
      onChange={(mqttLogIn) => set({ mqttLogIn })}
    />
  </Way>
);

const SECURED = [
  ['starttls', 'by STARTTLS'],
  ['tls', 'by TLS from the start'],
  ['none', 'not at all'],
] as const;

export const MailFields = ({ form, set, ...part }: Part) => (
  <Way name="Mail, by a relay of your own" way="mail" form={form} set={set} {...part}>
    <LabelledInput label="Relay" hint="relay.local" value={form.relay} onChange={(relay) => set({ relay })} />
    <LabelledInput
      label="Port of the relay"
      hint="as usual"
      keyboard="numeric"
      value={form.relayPort}
      onChange={(relayPort) => set({ relayPort })}
    />
    <LabelledSelect
      label="Secured"
      value={form.security}
      options={SECURED}
      onChange={(security) => set({ security: security as WaysForm['security'] })}
    />
    <LabelledInput
      label="Log-in of the relay"
      hint="its name, from Set-up"
      value={form.relayLogIn}
      onChange={(relayLogIn) => set({ relayLogIn })}
    />
    <LabelledInput label="From" hint="bench@tank.example" value={form.from} onChange={(from) => set({ from })} />
    <LabelledInput label="To" hint="one or several addresses" value={form.to} onChange={(to) => set({ to })} />
  </Way>
);

export const QuietFields = ({ form, set }: Pick<Part, 'form' | 'set'>) => (
  <section aria-label="Quiet hours" className="border-t border-base-300 mt-5 pt-3">
    <h2>Quiet hours</h2>
    <p className="sub max-w-prose">
      What is less urgent waits until they are over, and is not told at all if it is over or seen by then. A hold that
      is too long and a probe forgotten in a cup are urgent.
    </p>
    <div className="grid sm:grid-cols-2 lg:grid-cols-4 gap-x-4 gap-y-2 mt-1">
      <LabelledInput
        label="Quiet from"
        type="time"
        value={form.quietFrom}
        onChange={(quietFrom) => set({ quietFrom })}
      />
      <LabelledInput label="Quiet until" type="time" value={form.quietTo} onChange={(quietTo) => set({ quietTo })} />
      <LabelledInput label="By the clock of" value={form.timeZone} onChange={(timeZone) => set({ timeZone })} />
      <LabelledSelect
        label="All the same goes"
        value={form.unless}
        options={levelsFrom(ALARM_LEVELS.filter((level) => level !== 'note'))}
        onChange={(unless) => set({ unless: unless as AlarmLevel })}
      />
    </div>
  </section>
);

function Way({
  name,
  way,
  form,
  set,
  changed,
  named,
  children,
}: Part & { readonly name: string; readonly way: MessageWay; readonly children: ReactNode }) {
  const { from, afterMinutes } = form.rules[way];
  const after = [...new Set([...AFTER, afterMinutes])].sort((a, b) => a - b);
  return (
    <section aria-label={name} className="border-t border-base-300 mt-5 pt-3">
      <h2>{name}</h2>
      <div className="grid sm:grid-cols-2 lg:grid-cols-4 gap-x-4 gap-y-2 mt-1">
        {children}
        <LabelledSelect
          label="It gets"
          value={from}
          options={levelsFrom(ALARM_LEVELS)}
          onChange={(level) => set(withRule(form, way, { from: level as AlarmLevel }))}
        />
        <LabelledSelect
          label="When"
          value={String(afterMinutes)}
          options={after.map((m) => [String(m), afterWords(m)] as const)}
          onChange={(minutes) => set(withRule(form, way, { afterMinutes: Number(minutes) }))}
        />
      </div>
      <Try way={way} disabled={changed || !named} />
    </section>
  );
}

/** One message, now: did it come? */
function Try({ way, disabled }: { way: MessageWay; disabled: boolean }) {
  const [send, { error, isLoading, isSuccess }] = useTryAlarmWayMutation();
  return (
    <div className="flex flex-wrap items-center gap-3 mt-2">
      <button
        type="button"
        className="btn btn-outline border-base-300 h-12"
        disabled={disabled || isLoading}
        aria-label={`Send a test by ${way}`}
        onClick={() => void send(way)}
      >
        {isLoading ? 'Sending …' : 'Send a test'}
      </button>
      <span role="status">{isSuccess && 'It was taken. Look whether it came.'}</span>
      {error !== undefined && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
    </div>
  );
}
