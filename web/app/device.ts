const DEVICE_KEY = 'frustum.device';

const randomHex = (bytes: number) =>
  Array.from(crypto.getRandomValues(new Uint8Array(bytes)), (b) => b.toString(16).padStart(2, '0')).join('');

let device = '';
/**
 * Names this browser, and this opening of a page: each counts its events by itself. `crypto.randomUUID` needs a secure
 * context, which a phone on plain HTTP is not.
 */
export function deviceId(): string {
  if (device) return device;
  let browser = localStorage.getItem(DEVICE_KEY);
  if (!browser) keepItem(DEVICE_KEY, (browser = `web-${randomHex(12)}`));
  return (device = `${browser}.${randomHex(4)}`);
}

let counted = 0;
/** Next number of this page: the pair (device, counter) counts once, whatever the network does. */
export const nextCounter = (): number => ++counted;

/** An id for something that is made here: a UUID of version 4, RFC 9562. */
export function newId(): string {
  const hex = randomHex(16);
  const variant = ((parseInt(hex[16]!, 16) & 3) | 8).toString(16);
  return [hex.slice(0, 8), hex.slice(8, 12), `4${hex.slice(13, 16)}`, variant + hex.slice(17, 20), hex.slice(20)].join(
    '-',
  );
}

/** Writes to this device's storage. @returns whether there was room */
export function keepItem(key: string, value: string): boolean {
  try {
    localStorage.setItem(key, value);
    return true;
  } catch {
    return false;
  }
}
