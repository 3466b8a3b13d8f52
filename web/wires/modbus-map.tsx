import { useFormContext } from 'react-hook-form';
import { typedNumber } from '../format/typed.ts';
import { Pick, Text } from '../ui/text-field.tsx';
import { UnitFields, unitSettings } from './modbus.tsx';
import { ifFromDevice, PaceFields, SignalFields, signalOf, TemperatureFields, temperatureFrom } from './parts.tsx';
import type { WireForm, WithChannel } from './wire-form.ts';

const TYPES = [
  ['int16', '16 bit, signed'],
  ['uint16', '16 bit, unsigned'],
  ['int32', '32 bit, signed'],
  ['uint32', '32 bit, unsigned'],
  ['float32', '32 bit, float'],
] as const;

function Registers() {
  const { watch } = useFormContext<WithChannel>();
  const [type, temperatureType, from] = watch(['channel.type', 'channel.temperatureType', 'channel.temperatureFrom']);
  const wide = type.endsWith('32') || (from === 'device' && temperatureType.endsWith('32'));
  return (
    <>
      <Pick<WithChannel>
        name="channel.table"
        label="Table"
        options={[
          ['input', 'input registers'],
          ['holding', 'holding registers'],
        ]}
      />
      <Text<WithChannel> name="channel.register" label="Signal register" decimal />
      <Pick<WithChannel> name="channel.type" label="Signal is" options={TYPES} />
      {wide && (
        <Pick<WithChannel>
          name="channel.words"
          label="Of two words, first comes"
          options={[
            ['high-first', 'the high one'],
            ['low-first', 'the low one'],
          ]}
        />
      )}
    </>
  );
}

const Fields = () => (
  <>
    <UnitFields />
    <Registers />
    <SignalFields />
    <TemperatureFields>
      <Text<WithChannel> name="channel.temperatureRegister" label="Temperature register" decimal />
      <Pick<WithChannel> name="channel.temperatureType" label="Temperature is" options={TYPES} />
      <Text<WithChannel> name="channel.temperatureScale" label="Temperature scale, °C a step" decimal />
    </TemperatureFields>
    <PaceFields />
  </>
);

export const modbusMap: WireForm<'modbus-map'> = {
  label: 'Modbus TCP, any other map',
  wayOf: ({ host, port, unitId, table, register }) =>
    `Modbus TCP ${host}:${port}, unit ${unitId}, ${table} register ${register}`,
  Fields,
  settingsOf: (form) => ({
    ...unitSettings(form),
    table: form.table,
    words: form.words,
    register: typedNumber(form.register),
    type: form.type,
    ...signalOf(form),
    temperatureRegister: ifFromDevice(form, typedNumber(form.temperatureRegister)),
    temperatureType: form.temperatureType,
    temperatureScale: typedNumber(form.temperatureScale),
  }),
  temperatureAt: ({ register = '', type = 'int16' }) => ({
    temperatureRegister: register,
    temperatureType: type,
    temperatureFrom: 'device',
  }),
  typedOf: ({ temperatureRegister }) => ({ temperatureFrom: temperatureFrom(temperatureRegister) }),
};
