import { object, string, type InferType } from 'yup';
import { trimmed, whole } from '../fields.ts';
import { textKind, type WireKind } from './kind.ts';
import { host, textual } from './parts.ts';

/** A device that publishes on an MQTT broker: one topic, JSON or a SenML pack in it. */
const schema = object({
  kind: string<'mqtt'>().oneOf(['mqtt']).required(),
  host,
  port: whole('Port', 1, 65_535).default(1883),
  version: string().oneOf(['3.1.1', '5'], 'MQTT is spoken as 3.1.1 or as 5.').default('3.1.1'),
  topic: string()
    .transform(trimmed)
    .required('The topic is missing. Type it like hall/line-2/now.')
    .max(200, 'The topic has more than 200 characters.')
    .matches(/^[^+#]*$/, 'A channel reads one topic: leave out + and #.')
    .test('text', 'A topic is plain text.', (v) => !v.includes('\u0000')),
  format: string().oneOf(['json', 'senml'], 'A message is JSON or a SenML pack.').default('json'),
  /** JSON: a path; SenML: the name of a record, base name included */
  pointer: string()
    .transform(trimmed)
    .max(200, 'The path to the signal has more than 200 characters.')
    .default('')
    .test('path', 'Path to the signal begins with “/”, like /probe/mv.', (v, { parent }) => {
      return (parent as { format?: string }).format === 'senml' || /^(\/.*)?$/.test(v);
    }),
  temperaturePointer: string()
    .transform(trimmed)
    .max(200, 'The path to the temperature has more than 200 characters.')
    .nullable()
    .default(null),
  ...textual,
}).noUnknown();

export type MqttConfig = InferType<typeof schema>;

export const mqtt: WireKind<MqttConfig> = textKind(schema);
