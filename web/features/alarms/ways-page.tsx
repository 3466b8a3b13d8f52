import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { ALARM_LEVELS, type AlarmLevel, type MessageWay } from '@frustum/core';
import type { AlarmWaysView } from '@frustum/contract';
import { useAlarmWaysQuery, useKeepAlarmWaysMutation, useTryAlarmWayMutation } from '../../app/api.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { problemOf } from '../../format/problem.ts';
import { Notice } from '../../ui/notice.tsx';
import { formOfWays, waysOf, withRule, type WaysForm } from './ways-form.ts';

const LEVELS: Readonly<Record<AlarmLevel, string>> = {
  note: 'every note',
  warn: 'warnings and worse',
  act: 'what somebody must act on, and worse',
  urgent: 'only what is urgent',
};
const AFTER = [
  [0, 'at once'],
  [10, 'when nobody has seen it for 10 min'],
  [30, 'when nobody has seen it for 30 min'],
  [60, 'when nobody has seen it for 1 h'],
] as const;

/** Where alarms go beside the screen, from which level on, and when not. */
export function Page() {
  const { data, error } = useAlarmWaysQuery();
  if (!data) return <NotYet what="Reading where alarms go" error={error} />;
  return <Ways key={JSON.stringify(data)} view={data} />;
}

function Ways({ view }: { view: AlarmWaysView }) {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const kept = formOfWays(view.asked ?? {}, view.rules, zone);
  const [form, setForm] = useState(kept);
  const [keep, { error, isLoading }] = useKeepAlarmWaysMutation();
  const [before, setBefore] = useState<WaysForm | null>(null);
  const changed = JSON.stringify(form) !== JSON.stringify(kept);
  const save = async (to: WaysForm, was: WaysForm | null) => {
    const answer = await keep(waysOf(to));
    if (answer.error === undefined) setBefore(was);
  };
  const set = (part: Partial<WaysForm>) => setForm({ ...form, ...part });
  return (
    <main className="px-4 lg:px-7 py-5 max-w-4xl w-full mx-auto">
      <h1>Where alarms go</h1>
      <p className="sub mt-1 max-w-prose">
        Always to this screen. To other places as you say here: a message that cannot be told is tried again for a day.{' '}
        <Link className="underline" to="/alarms">
          Back to the alarms
        </Link>
      </p>
      {view.trouble && (
        <Notice kind="trouble" role="alert">
          {view.trouble} What you keep here takes its place.
        </Notice>
      )}
      <form
        noValidate
        aria-label="Where alarms go"
        onSubmit={(e) => {
          e.preventDefault();
          void save(form, kept);
        }}
      >
        <Way
          name="A webhook"
          way="webhook"
          form={form}
          setForm={setForm}
          changed={changed}
          named={view.asked?.webhook !== undefined}
        >
          <Field label="Address" hint="http://…" value={form.webhook} onChange={(webhook) => set({ webhook })} wide />
        </Way>
        <Way
          name="An MQTT topic"
          way="mqtt"
          form={form}
          setForm={setForm}
          changed={changed}
          named={view.asked?.mqtt !== undefined}
        >
          <Field label="Broker" value={form.mqttHost} onChange={(mqttHost) => set({ mqttHost })} />
          <Field label="Port" hint="1883" value={form.mqttPort} onChange={(mqttPort) => set({ mqttPort })} decimal />
          <Field label="Topic" value={form.topic} onChange={(topic) => set({ topic })} />
          <Field
            label="Log-in"
            hint="its name, from Set-up"
            value={form.mqttLogIn}
            onChange={(mqttLogIn) => set({ mqttLogIn })}
          />
        </Way>
        <Way
          name="Mail by a relay of your own"
          way="mail"
          form={form}
          setForm={setForm}
          changed={changed}
          named={view.asked?.mail !== undefined}
        >
          <Field label="Relay" hint="relay.local" value={form.relay} onChange={(relay) => set({ relay })} />
          <Field
            label="Port of the relay"
            hint="as usual"
            value={form.relayPort}
            onChange={(relayPort) => set({ relayPort })}
            decimal
          />
          <Select
            label="Secured"
            value={form.security}
            options={[
              ['starttls', 'by STARTTLS'],
              ['tls', 'by TLS from the start'],
              ['none', 'not at all'],
            ]}
            onChange={(security) => set({ security: security as WaysForm['security'] })}
          />
          <Field
            label="Log-in of the relay"
            hint="its name, from Set-up"
            value={form.relayLogIn}
            onChange={(relayLogIn) => set({ relayLogIn })}
          />
          <Field label="From" hint="bench@tank.example" value={form.from} onChange={(from) => set({ from })} />
          <Field label="To" hint="one or several addresses" value={form.to} onChange={(to) => set({ to })} wide />
        </Way>
        <Quiet form={form} set={set} />
        {error !== undefined && <Refused error={error} />}
        <div className="flex flex-wrap gap-3 items-center mt-4">
          <button className="btn btn-primary h-14 text-lg" disabled={isLoading || !changed}>
            Keep it so
          </button>
          {before && (
            <p role="status">
              Kept.{' '}
              <button type="button" className="btn h-12 ml-1" onClick={() => void save(before, null)}>
                Undo
              </button>
            </p>
          )}
        </div>
      </form>
    </main>
  );
}

/** What the server names, field by field. */
function Refused({ error }: { error: unknown }) {
  const { detail, errors = [] } = problemOf(error);
  return (
    <div className="mt-3">
      <Notice kind="trouble" role="alert">
        {errors.length ? errors.map((e) => <p key={`${e.path} ${e.message}`}>{e.message}</p>) : detail}
      </Notice>
    </div>
  );
}

interface WayProps {
  readonly name: string;
  readonly way: MessageWay;
  readonly form: WaysForm;
  readonly setForm: (form: WaysForm) => void;
  /** what is on screen is not kept yet */
  readonly changed: boolean;
  /** the server knows where to */
  readonly named: boolean;
  readonly children: ReactNode;
}

function Way({ name, way, form, setForm, changed, named, children }: WayProps) {
  const rule = form.rules[way];
  return (
    <fieldset className="border-t border-base-300 mt-5 pt-3">
      <legend className="float-left font-semibold text-lg">{name}</legend>
      <div className="clear-both grid sm:grid-cols-2 lg:grid-cols-4 gap-x-4 gap-y-2">
        {children}
        <Select
          label="It gets"
          value={rule.from}
          options={ALARM_LEVELS.map((level) => [level, LEVELS[level]] as const)}
          onChange={(from) => setForm(withRule(form, way, { from: from as AlarmLevel }))}
        />
        <Select
          label="When"
          value={String(rule.afterMinutes)}
          options={[...new Map([...AFTER, [rule.afterMinutes, `when nobody has seen it for ${rule.afterMinutes} min`] as const].reverse()).entries()].sort((a, b) => a[0] - b[0]).map(([m, words]) => [String(m), words] as const)} // prettier-ignore
          onChange={(minutes) => setForm(withRule(form, way, { afterMinutes: Number(minutes) }))}
        />
      </div>
      <Try way={way} disabled={changed || !named} />
    </fieldset>
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

function Quiet({ form, set }: { form: WaysForm; set: (part: Partial<WaysForm>) => void }) {
  return (
    <fieldset className="border-t border-base-300 mt-5 pt-3">
      <legend className="float-left font-semibold text-lg">Quiet hours</legend>
      <p className="clear-both sub max-w-prose">
        What is less urgent waits until they are over, and is not told at all if it is over or seen by then. A hold that
        is too long and a probe forgotten in a cup are urgent.
      </p>
      <div className="grid sm:grid-cols-2 lg:grid-cols-4 gap-x-4 gap-y-2 mt-1">
        <Field label="From, like 22:00" value={form.quietFrom} onChange={(quietFrom) => set({ quietFrom })} />
        <Field label="To, like 07:00" value={form.quietTo} onChange={(quietTo) => set({ quietTo })} />
        <Field label="By the clock of" value={form.timeZone} onChange={(timeZone) => set({ timeZone })} />
        <Select
          label="All the same goes"
          value={form.unless}
          options={ALARM_LEVELS.filter((l) => l !== 'note').map((level) => [level, LEVELS[level]] as const)}
          onChange={(unless) => set({ unless: unless as AlarmLevel })}
        />
      </div>
    </fieldset>
  );
}

function Field({
  label,
  value,
  onChange,
  hint,
  decimal,
  wide,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  hint?: string;
  decimal?: boolean;
  wide?: boolean;
}) {
  return (
    <label className={`text-sm sub ${wide ? 'sm:col-span-2' : ''}`}>
      {label}
      <input
        className="input h-12 w-full text-base text-base-content"
        autoComplete="off"
        inputMode={decimal ? 'numeric' : undefined}
        placeholder={hint}
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
    </label>
  );
}

function Select({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  return (
    <label className="text-sm sub">
      {label}
      <select
        className="select h-12 w-full text-base text-base-content"
        value={value}
        onChange={(e) => onChange(e.target.value)}
      >
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
