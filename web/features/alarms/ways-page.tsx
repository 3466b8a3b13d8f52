import { useState } from 'react';
import { Link } from 'react-router';
import type { AlarmWaysView } from '@frustum/contract';
import { useAlarmWaysQuery, useKeepAlarmWaysMutation } from '../../app/api.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { problemOf } from '../../format/problem.ts';
import { Notice } from '../../ui/notice.tsx';
import { formOfWays, waysOf, type WaysForm } from './ways-form.ts';
import { MailFields, MqttFields, QuietFields, WebhookFields } from './ways-fields.tsx';

/** Where alarms go beside the screen, from which level on, and when not. */
export function Page() {
  const { data, error } = useAlarmWaysQuery();
  if (!data) return <NotYet what="Reading where alarms go" error={error} />;
  return <Ways key={JSON.stringify(data)} view={data} />;
}

function Ways({ view }: { view: AlarmWaysView }) {
  const { asked, trouble } = view;
  const kept = formOfWays(asked ?? {}, view.rules, Intl.DateTimeFormat().resolvedOptions().timeZone);
  const [form, setForm] = useState(kept);
  const changed = JSON.stringify(form) !== JSON.stringify(kept);
  const set = (part: Partial<WaysForm>) => setForm({ ...form, ...part });
  const part = { form, set, changed };
  return (
    <main className="px-4 lg:px-7 py-5 max-w-4xl w-full mx-auto">
      <h1>Where alarms go</h1>
      <p className="sub mt-1 max-w-prose">
        Always to this screen. To other places as you say here: a message that cannot be told is tried again for a day.{' '}
        <Link className="underline" to="/alarms">
          Back to the alarms
        </Link>
      </p>
      {trouble && (
        <Notice kind="trouble" role="alert">
          {trouble} What you keep here takes its place.
        </Notice>
      )}
      <WebhookFields {...part} named={asked?.webhook !== undefined} />
      <MqttFields {...part} named={asked?.mqtt !== undefined} />
      <MailFields {...part} named={asked?.mail !== undefined} />
      <QuietFields form={form} set={set} />
      <Keep form={form} kept={kept} changed={changed} />
    </main>
  );
}

/** Kept ones are known by their form for as long as the page stands: undone in one press. */
let lastKept: WaysForm | null = null;

function Keep({ form, kept, changed }: { form: WaysForm; kept: WaysForm; changed: boolean }) {
  const [keep, { error, isLoading }] = useKeepAlarmWaysMutation();
  const save = async (to: WaysForm, was: WaysForm | null) => {
    const answer = await keep(waysOf(to));
    if (answer.error === undefined) lastKept = was;
  };
  return (
    <>
      {error !== undefined && <Refused error={error} />}
      <div className="flex flex-wrap gap-3 items-center mt-4">
        <button
          type="button"
          className="btn btn-primary h-14 text-lg"
          disabled={isLoading || !changed}
          onClick={() => void save(form, kept)}
        >
          Keep it so
        </button>
        {lastKept && !changed && (
          <p role="status">
            Kept.{' '}
            <button type="button" className="btn h-12 ml-1" onClick={() => void save(lastKept!, null)}>
              Undo
            </button>
          </p>
        )}
      </div>
    </>
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
