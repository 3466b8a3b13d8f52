import { number, object, string, type InferType } from 'yup';
import { figure, whole } from '../fields.ts';
import { temperatureTrouble, type Trouble, type WireKind } from './kind.ts';
import { about, fixedC, host, pace, scaledUnit, scaling } from './parts.ts';

const registerType = (label: string) =>
  string().oneOf(['int16', 'uint16', 'int32', 'uint32', 'float32'], `${label}: pick one of the five types.`);

/** Any other device on Modbus TCP: where the signal lies, as what, and what one step is worth. */
const schema = object({
  kind: string<'modbus-map'>().oneOf(['modbus-map']).required(),
  host,
  port: whole('Port', 1, 65_535).default(502),
  unitId: whole('Unit id', 0, 255).default(1),
  table: string().oneOf(['input', 'holding'], 'Registers are input or holding ones.').default('input'),
  words: string().oneOf(['high-first', 'low-first'], 'The high or the low word comes first.').default('high-first'),
  register: whole('Signal register', 0, 65_535),
  type: registerType('Signal').default('int16'),
  ...scaling,
  temperatureRegister: number()
    .typeError('Temperature register is not a figure. Type it like 11.')
    .integer('Temperature register is a whole number.')
    .min(0, 'Temperature register is below 0.')
    .max(65_535, 'Temperature register is above 65535.')
    .nullable()
    .default(null),
  temperatureType: registerType('Temperature').default('int16'),
  temperatureScale: figure('Temperature scale').default(1),
  fixedC,
  ...pace,
  ...about,
}).noUnknown();

export type ModbusMapConfig = InferType<typeof schema>;

/** Registers of 16 bit that a type takes. */
const widthOf = (type: unknown) => (String(type).endsWith('32') ? 2 : 1);

/** Two figures cannot lie in one register, and none beyond the last. */
function registerTrouble(config: Partial<ModbusMapConfig>): Trouble | null {
  const { register: from, type, temperatureRegister, temperatureType } = config;
  if (from === undefined) return null;
  const trouble = (words: string): Trouble => ({ field: 'register', words });
  const to = from + widthOf(type) - 1;
  if (to > 65_535) return trouble(`A 32-bit signal at ${from} would end at ${to}; registers end at 65535.`);
  if (temperatureRegister == null) return null;
  const [t0, t1] = [temperatureRegister, temperatureRegister + widthOf(temperatureType) - 1];
  if (t1 > 65_535) return trouble(`A 32-bit temperature at ${t0} would end at ${t1}; registers end at 65535.`);
  if (t1 < from || t0 > to) return null;
  const span = to > from ? `registers ${from} and ${to}` : `register ${from}`;
  return trouble(`The temperature lies in the signal’s ${span}. Check both against the device’s map.`);
}

/** A count of a whole-number register is worth its scale; of a current, the part of its span. */
function perCount({ type, quantity, at4, at20, scale }: ModbusMapConfig): number | null {
  if (type === 'float32') return null;
  return quantity === 'mA' ? ((at20 - at4) / 16) * scale : scale;
}

export const modbusMap: WireKind<ModbusMapConfig> = {
  schema,
  reads: 'wired',
  unit: scaledUnit,
  staleSeconds: (config) => config.staleSeconds,
  perCount,
  trouble: (config) => temperatureTrouble(config.temperatureRegister, config.fixedC) ?? registerTrouble(config),
};
