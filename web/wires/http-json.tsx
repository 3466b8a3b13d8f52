import { Text } from '../ui/text-field.tsx';
import { LogInField, messageOf, OwnTimeFields, PaceFields, SignalFields, temperatureFrom, TemperaturePath } from './parts.tsx'; // prettier-ignore
import type { WireForm, WithChannel } from './wire-form.ts';

const Fields = () => (
  <>
    <div className="sm:col-span-2">
      <Text<WithChannel> name="channel.url" label="Address" hint="http://192.168.1.20/now" />
    </div>
    <Text<WithChannel> name="channel.pointer" label="Path to the signal" hint="/probes/main/mv" />
    <LogInField />
    <OwnTimeFields />
    <SignalFields />
    <TemperaturePath />
    <PaceFields />
  </>
);

export const httpJson: WireForm<'http-json'> = {
  label: 'JSON over HTTP',
  wayOf: ({ url, pointer }) => `${url}${pointer ? `, at ${pointer}` : ''}`,
  Fields,
  settingsOf: (form) => ({ url: form.url, ...messageOf(form) }),
  temperatureAt: ({ pointer = '' }) => ({ temperaturePointer: pointer, temperatureFrom: 'device' }),
  typedOf: ({ temperaturePointer }) => ({ temperatureFrom: temperatureFrom(temperaturePointer) }),
};
