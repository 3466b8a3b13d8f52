import { useFormContext } from 'react-hook-form';
import { useTestChannelMutation } from '../app/api.ts';
import { fixed } from '../format/numbers.ts';
import { problemOf } from '../format/problem.ts';
import { Notice } from '../ui/notice.tsx';
import { Pick, Text, Tick } from '../ui/text-field.tsx';

import { Survey } from './survey.tsx';
import { WIDE, type WithChannel } from './wire-form.ts';
import { channelOf, WIRE_FORMS, wireFormOf } from './wire-forms.ts';

/** How a reading reaches Frustum, and a button that tries it once. */
export function ChannelFields() {
  const { register, watch } = useFormContext<WithChannel>();
  const kind = watch('channel.kind');
  const { Fields, temperatureAt } = wireFormOf(kind);
  return (
    <>
      <fieldset className={WIDE}>
        <legend className="text-sm sub">How its reading reaches Frustum</legend>
        {WIRE_FORMS.map(([kind, { label }]) => (
          <label key={kind} className="inline-flex items-center gap-2 min-h-12 mr-6">
            <input type="radio" className="radio" value={kind} {...register('channel.kind')} /> {label}
          </label>
        ))}
      </fieldset>
      {Fields && (
        <>
          <Fields />
          {temperatureAt && <Survey key={kind} temperatureAt={temperatureAt} />}
          <TryIt />
        </>
      )}
      <AboutFields canBeOff={Fields !== undefined} />
    </>
  );
}

/** What belongs to a channel whatever its wire; usual for most, so folded away. */
function AboutFields({ canBeOff }: { canBeOff: boolean }) {
  return (
    <details className={WIDE}>
      <summary className="cursor-pointer py-3 sub">Coefficients, thermometer, range, outputs</summary>
      <div className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3">
        <Pick<WithChannel>
          name="channel.coefficientsIn"
          label="Its coefficients live"
          options={[
            ['instrument', 'in the instrument'],
            ['sensor', 'in the sensor’s head'],
          ]}
        />
        <Text<WithChannel> name="channel.compensatedBy" label="Compensated by" hint="its own thermometer" />
        <Text<WithChannel> name="channel.outputs" label="Outputs on it" hint="acid pump, alarm" />
        <Text<WithChannel> name="channel.rangeLow" label="Its range begins at" hint="empty: no limit" decimal />
        <Text<WithChannel> name="channel.rangeHigh" label="and ends at" hint="empty: no limit" decimal />
        {canBeOff && <Tick<WithChannel> name="channel.off" label="Switched off: nobody reads it" />}
      </div>
    </details>
  );
}

/** Reads once and says precisely what came, or at which stage it failed. */
function TryIt() {
  const { getValues } = useFormContext<WithChannel>();
  const [test, { data, error, isLoading }] = useTestChannelMutation();
  return (
    <div className={WIDE}>
      <button
        type="button"
        className="btn btn-outline border-base-300 h-12"
        disabled={isLoading}
        onClick={() => void test({ channel: channelOf(getValues('channel')) })}
      >
        {isLoading ? 'Reading once …' : 'Read it once'}
      </button>
      <div role="status" className="mt-2">
        {error && <Notice kind="trouble">{problemOf(error).detail}</Notice>}
        {!error && data && !data.ok && <Notice kind="trouble">{data.message}</Notice>}
        {!error && data?.ok && (
          <Notice kind="plain">
            <p>
              {data.message} It took {fixed(data.milliseconds, 0)} ms.
            </p>
            <ul className="fig text-[15px] sub">
              {data.raw.map((r) => (
                <li key={r.what}>
                  {r.what}: {r.value}
                </li>
              ))}
            </ul>
          </Notice>
        )}
      </div>
    </div>
  );
}
