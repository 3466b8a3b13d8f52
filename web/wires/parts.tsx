// Parts of the form that several wires share: the other side of the contract's `wires/parts.ts`.
import type { ReactNode } from 'react';
import { useFormContext } from 'react-hook-form';
import { SIGNALS } from '@frustum/contract';
import { typedNumber } from '../format/typed.ts';
import { Pick, Text, Tick } from '../ui/text-field.tsx';
import type { ChannelForm } from './channel-form.ts';
import { WIDE, type WithChannel } from './wire-form.ts';

const UNITS = Object.entries(SIGNALS).map(([unit, { words }]) => [unit, words] as const);

/** From the number on the wire to the signal. */
export function SignalFields() {
  const [quantity, spanUnit] = useFormContext<WithChannel>().watch(['channel.quantity', 'channel.spanUnit']);
  return (
    <>
      <Pick<WithChannel>
        name="channel.quantity"
        label="Times scale, it is"
        options={[...UNITS.slice(0, 1), ['mA', 'a 4–20 mA current'], ...UNITS.slice(1)]}
      />
      <Text<WithChannel> name="channel.scale" label="Scale" hint="0.1" decimal />
      <Text<WithChannel> name="channel.offset" label="Offset" decimal />
      {quantity === 'mA' && (
        <>
          <Pick<WithChannel> name="channel.spanUnit" label="The current stands for" options={UNITS} />
          <Text<WithChannel> name="channel.at4" label={`${spanUnit} at 4 mA`} decimal />
          <Text<WithChannel> name="channel.at20" label={`${spanUnit} at 20 mA`} decimal />
        </>
      )}
    </>
  );
}

/** Where the temperature comes from. */
export function TemperatureFields({ children }: { children: ReactNode }) {
  const from = useFormContext<WithChannel>().watch('channel.temperatureFrom');
  return (
    <>
      <Pick<WithChannel>
        name="channel.temperatureFrom"
        label="Temperature comes"
        options={[
          ['device', 'from the device'],
          ['fixed', 'fixed, as set here'],
        ]}
      />
      {from === 'fixed' ? <Text<WithChannel> name="channel.fixedC" label="Fixed temperature, °C" decimal /> : children}
    </>
  );
}

/** A temperature in a message. */
export const TemperaturePath = () => (
  <TemperatureFields>
    <Text<WithChannel> name="channel.temperaturePointer" label="Path to the temperature" hint="/probes/main/c" />
    <Pick<WithChannel>
      name="channel.temperatureUnit"
      label="It is in"
      options={[
        ['°C', '°C'],
        ['°F', '°F'],
      ]}
    />
  </TemperatureFields>
);

export const PaceFields = () => (
  <>
    <Text<WithChannel> name="channel.pollSeconds" label="Read every, s" decimal />
    <Text<WithChannel> name="channel.staleSeconds" label="Stale after, s" decimal />
  </>
);

export const LogInField = () => (
  <Text<WithChannel> name="channel.logIn" label="Log-in, by its name" hint="optional; kept on the server" />
);

/** When a reading was taken, by the device itself. */
export function OwnTimeFields({ saysItself = false }: { saysItself?: boolean }) {
  const buffered = useFormContext<WithChannel>().watch('channel.buffered');
  return (
    <>
      {!saysItself && (
        <Text<WithChannel> name="channel.clockPointer" label="Path to its clock, s" hint="optional: /uptime" />
      )}
      <Tick<WithChannel> name="channel.buffered" label="Buffered: it sends later what it measured while it was away" />
      {buffered && (
        <p className={`sub text-sm ${WIDE}`}>
          Its readings are kept under their own time
          {saysItself ? '' : ', which its clock must say in seconds since 1970'}. Only a fresh one is live at the bench.
          What is more than a day ahead, or from before the sensor was fitted, is set aside.
        </p>
      )}
    </>
  );
}

const fromDevice = (form: ChannelForm) => form.temperatureFrom === 'device';

/** From the number to the signal, and how often. */
export const signalOf = (form: ChannelForm) => ({
  quantity: form.quantity,
  scale: typedNumber(form.scale),
  offset: typedNumber(form.offset),
  at4: typedNumber(form.at4),
  at20: typedNumber(form.at20),
  spanUnit: form.spanUnit,
  fixedC: fromDevice(form) ? null : typedNumber(form.fixedC),
  pollSeconds: typedNumber(form.pollSeconds),
  staleSeconds: typedNumber(form.staleSeconds),
});

/** Of a message: where the signal, the temperature and the time lie in it. */
export const messageOf = (form: ChannelForm) => ({
  ...signalOf(form),
  pointer: form.pointer,
  logIn: form.logIn,
  temperaturePointer: fromDevice(form) ? form.temperaturePointer : null,
  temperatureUnit: form.temperatureUnit,
  clockPointer: form.clockPointer.trim() || null,
  buffered: form.buffered,
});

/** The device's own temperature; null for a fixed one. */
export const ifFromDevice = <T,>(form: ChannelForm, own: T): T | null => (fromDevice(form) ? own : null);

/** Where the form has it from, by the place in the settings that a fixed one leaves empty. */
export const temperatureFrom = (own: unknown): ChannelForm['temperatureFrom'] => (own === null ? 'fixed' : 'device');
