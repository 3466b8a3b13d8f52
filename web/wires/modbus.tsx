import { typedNumber } from '../format/typed.ts';
import { Text, Tick } from '../ui/text-field.tsx';
import type { ChannelForm } from './channel-form.ts';
import { WIDE, type WireForm, type WithChannel } from './wire-form.ts';

/** The unit of a device on Modbus TCP. */
export const UnitFields = () => (
  <>
    <Text<WithChannel> name="channel.host" label="Host" hint="192.168.1.20" />
    <Text<WithChannel> name="channel.port" label="Port" decimal />
    <Text<WithChannel> name="channel.unitId" label="Unit id" decimal />
  </>
);

export const unitSettings = ({ host, port, unitId }: ChannelForm) => ({
  host,
  port: typedNumber(port),
  unitId: typedNumber(unitId),
});

const Fields = () => (
  <>
    <UnitFields />
    <Text<WithChannel> name="channel.baseAddress" label="First register" decimal />
    <Tick<WithChannel> name="channel.impedance" label="It measures impedances too" />
    <p className={`sub text-sm ${WIDE}`}>
      Input registers: +0 mV × 10, +1 °C × 100, +2 and +3 clock in 0.1 s, +4 status (0 = measuring), +5 impedance of the
      glass in MΩ × 10, +6 of the reference in kΩ × 10. Holding: +0 zero × 10, +1 slope × 10 000.
    </p>
  </>
);

export const modbus: WireForm<'modbus'> = {
  label: 'Modbus TCP, Frustum’s own map',
  wayOf: ({ host, port, unitId, baseAddress }) =>
    `Modbus TCP ${host}:${port}, unit ${unitId}, from register ${baseAddress}`,
  Fields,
  settingsOf: (form) => ({
    ...unitSettings(form),
    baseAddress: typedNumber(form.baseAddress),
    impedance: form.impedance,
  }),
};
