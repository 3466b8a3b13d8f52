import { object, string, type InferType } from 'yup';
import { trimmed } from '../fields.ts';
import { textKind, type WireKind } from './kind.ts';
import { pointer, textual } from './parts.ts';

/** A device that answers JSON over HTTP. */
const schema = object({
  kind: string<'http-json'>().oneOf(['http-json']).required(),
  url: string()
    .transform(trimmed)
    .required('The address is missing. Type it like http://192.168.1.20/api/probes.')
    .max(500, 'The address has more than 500 characters.')
    .test('url', 'The address is no http or https one. Type it like http://192.168.1.20/api/probes.', (v) => isWeb(v))
    .test('real', 'The address cannot be: check its host and port (1 to 65535).', (v) => !isWeb(v) || hasRealPort(v))
    .test('no-secret', 'A name and password in an address end up in records. Leave them out.', (v) => !hasSecret(v)),
  pointer: pointer('Path to the signal').default(''),
  temperaturePointer: pointer('Path to the temperature').nullable().default(null),
  ...textual,
}).noUnknown();

export type HttpJsonConfig = InferType<typeof schema>;

export const httpJson: WireKind<HttpJsonConfig> = textKind(schema);

const authority = (value: string) => /^https?:\/\/([^/?#\s]+)/i.exec(value)?.[1] ?? '';
const isWeb = (value: string) => authority(value) !== '' && !/\s/.test(value);
const hasRealPort = (value: string) =>
  Number(/:(\d+)$/.exec(authority(value))?.[1] ?? 80) - 1 < 65_535 && !/:0*$/.test(authority(value));
const hasSecret = (value: string) => authority(value).includes('@');
