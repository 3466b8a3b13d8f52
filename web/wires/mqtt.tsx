import { useFormContext } from 'react-hook-form';
import { typedNumber } from '../format/typed.ts';
import { Pick, Text } from '../ui/text-field.tsx';
import { LogInField, messageOf, OwnTimeFields, PaceFields, SignalFields, temperatureFrom, TemperaturePath } from './parts.tsx'; // prettier-ignore
import type { WireForm, WithChannel } from './wire-form.ts';

const BrokerFields = () => (
  <>
    <Text<WithChannel> name="channel.host" label="Broker" hint="192.168.1.20" />
    <Text<WithChannel> name="channel.brokerPort" label="Port" decimal />
    <Pick<WithChannel>
      name="channel.version"
      label="Spoken as"
      options={[
        ['3.1.1', 'MQTT 3.1.1'],
        ['5', 'MQTT 5'],
      ]}
    />
    <Text<WithChannel> name="channel.topic" label="Topic" hint="hall/line-2/now" />
    <Pick<WithChannel>
      name="channel.format"
      label="A message is"
      options={[
        ['json', 'JSON'],
        ['senml', 'a SenML pack'],
      ]}
    />
  </>
);

function Fields() {
  const senml = useFormContext<WithChannel>().watch('channel.format') === 'senml';
  return (
    <>
      <BrokerFields />
      <Text<WithChannel>
        name="channel.pointer"
        label={senml ? 'Name of the signal' : 'Path to the signal'}
        hint={senml ? 'line-2/potential' : '/probe/mv'}
      />
      <LogInField />
      <OwnTimeFields saysItself={senml} />
      <SignalFields />
      <TemperaturePath />
      <PaceFields />
    </>
  );
}

export const mqtt: WireForm<'mqtt'> = {
  label: 'MQTT',
  wayOf: ({ version, host, port, topic }) => `MQTT ${version}, ${host}:${port}, ${topic}`,
  Fields,
  settingsOf: (form) => ({
    host: form.host,
    port: typedNumber(form.brokerPort),
    version: form.version,
    topic: form.topic,
    format: form.format,
    ...messageOf(form),
  }),
  temperatureAt: ({ pointer = '' }) => ({ temperaturePointer: pointer, temperatureFrom: 'device' }),
  // A broker has a usual port of its own, so the form keeps both.
  typedOf: ({ port, temperaturePointer }) => ({
    brokerPort: String(port),
    port: '502',
    temperatureFrom: temperatureFrom(temperaturePointer),
  }),
};
