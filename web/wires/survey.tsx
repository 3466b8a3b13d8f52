import { useState } from 'react';
import { useFormContext, type Path } from 'react-hook-form';
import type { ChannelKind, SurveyView } from '@frustum/contract';
import { useSurveyMutation } from '../app/api.ts';
import { typedNumber } from '../format/typed.ts';
import { problemOf } from '../format/problem.ts';
import { Notice } from '../ui/notice.tsx';
import type { ChannelForm } from './channel-form.ts';
import { WIDE, type WireForm, type WithChannel } from './wire-form.ts';
import { channelOf } from './wire-forms.ts';

/** Looks what the device has to offer: figures to tap instead of a manual to read. */
export function Survey({ temperatureAt }: { temperatureAt: NonNullable<WireForm<ChannelKind>['temperatureAt']> }) {
  const { getValues, setValue } = useFormContext<WithChannel>();
  const [shows, setShows] = useState('');
  const [survey, { data, error, isLoading }] = useSurveyMutation();
  const look = () => {
    const typed = typedNumber(shows);
    // What is not known yet is filled in for the look: only the device's address has to be right.
    const settings = channelOf(getValues('channel'));
    const unknown = { register: 0, topic: 'any' };
    const filled = Object.entries(unknown).filter(([key]) => key in settings && !settings[key]);
    const channel = { ...settings, ...Object.fromEntries(filled), fixedC: 25 };
    void survey({ channel, shows: typeof typed === 'number' ? typed : null });
  };
  const put = (settings: Partial<ChannelForm>) => {
    for (const [key, value] of Object.entries(settings))
      setValue(`channel.${key}` as Path<WithChannel>, value, { shouldDirty: true, shouldValidate: false });
  };
  return (
    <details className={WIDE}>
      <summary className="cursor-pointer py-3 sub">No manual? Look what it has to offer</summary>
      <div className="flex flex-wrap gap-x-4 gap-y-2 items-end">
        <label className="text-sm sub">
          Its own display shows now
          <input
            className="input h-12 w-40 text-base text-base-content fig block"
            inputMode="decimal"
            placeholder="if it has one"
            value={shows}
            onChange={(e) => setShows(e.target.value)}
          />
        </label>
        <button type="button" className="btn btn-outline border-base-300 h-12" disabled={isLoading} onClick={look}>
          {isLoading ? 'Looking …' : 'Look'}
        </button>
      </div>
      <div role="status" className="mt-2">
        {error !== undefined && <Notice kind="trouble">{problemOf(error).detail}</Notice>}
        {error === undefined && data && <Notice kind={data.ok ? 'plain' : 'trouble'}>{data.message}</Notice>}
      </div>
      {data && <Places places={data.places} onSignal={put} onTemperature={(s) => put(temperatureAt(s))} />}
    </details>
  );
}

type Place = SurveyView['places'][number];

interface PlacesProps {
  readonly places: readonly Place[];
  readonly onSignal: (settings: Place['settings']) => void;
  readonly onTemperature: (settings: Place['settings']) => void;
}

function Places({ places, onSignal, onTemperature }: PlacesProps) {
  const [said, setSaid] = useState('');
  const pick = (what: string, place: Place, put: (settings: Place['settings']) => void) => {
    put(place.settings);
    setSaid(`${what} is read at ${place.label}.`);
  };
  return (
    <>
      <ul className="mt-2 max-h-80 overflow-y-auto" tabIndex={0} aria-label="What it has to offer">
        {places.map((place) => (
          <li key={place.label} className="border-t border-base-300 flex flex-wrap items-center gap-x-3 py-1">
            <span className="fig grow [overflow-wrap:anywhere]">{place.label}</span>
            <span className={`fig ${place.fits ? 'font-[650]' : ''}`}>
              {String(Number(place.value.toPrecision(7)))}
            </span>
            <button
              type="button"
              className="btn btn-outline border-base-300 h-12 font-normal"
              aria-label={`It is the signal: ${place.label}`}
              onClick={() => pick('The signal', place, onSignal)}
            >
              It is the signal
            </button>
            <button
              type="button"
              className="btn btn-outline border-base-300 h-12 font-normal"
              aria-label={`It is the temperature: ${place.label}`}
              onClick={() => pick('The temperature', place, onTemperature)}
            >
              It is the temperature
            </button>
          </li>
        ))}
      </ul>
      <p role="status" className="sub mt-1">
        {said}
      </p>
    </>
  );
}
