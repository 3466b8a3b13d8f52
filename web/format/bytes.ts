/**
 * A size for people, in decimal units.
 *
 * @example bytesWords(592_896) // '593 kB'
 * @example bytesWords(1_234_567_890) // '1.2 GB'
 */
export function bytesWords(bytes: number): string {
  if (bytes < 1e6) return `${Math.ceil(bytes / 1e3)} kB`;
  return bytes < 1e9 ? `${(bytes / 1e6).toFixed(1)} MB` : `${(bytes / 1e9).toFixed(1)} GB`;
}
