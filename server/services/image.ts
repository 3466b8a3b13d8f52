import { Refusal } from '@frustum/core';

export type ImageType = 'image/jpeg' | 'image/png';

const NOT_AN_IMAGE = new Refusal(
  'not-an-image',
  'This file is no JPEG or PNG picture, or it is cut short. Take the picture again, or drop another file.',
);

const PNG_HEAD = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
/** Chunks that make the picture itself; everything else is about it, and goes. */
const PNG_KEPT = new Set(['IHDR', 'PLTE', 'IDAT', 'IEND', 'tRNS', 'gAMA', 'cHRM', 'sRGB']);

/**
 * A picture without what it tells about its place, time and device: only what is needed to show it stays.
 *
 * @param bytes as they came; nothing of them is trusted, the type least of all
 * @throws Refusal `not-an-image`
 * @see ITU-T T.81, annex B (JPEG markers); W3C PNG, section 5 (chunks)
 */
export function withoutMetadata(bytes: Buffer): { readonly type: ImageType; readonly bytes: Buffer } {
  if (bytes.subarray(0, 8).equals(PNG_HEAD)) return { type: 'image/png', bytes: barePng(bytes) };
  if (bytes[0] === 0xff && bytes[1] === 0xd8) return { type: 'image/jpeg', bytes: bareJpeg(bytes) };
  throw NOT_AN_IMAGE;
}

function barePng(bytes: Buffer): Buffer {
  const parts: Buffer[] = [PNG_HEAD];
  let at = PNG_HEAD.length;
  while (at + 12 <= bytes.length) {
    const end = at + 12 + bytes.readUInt32BE(at);
    const name = bytes.toString('latin1', at + 4, at + 8);
    if (end > bytes.length) throw NOT_AN_IMAGE;
    if (PNG_KEPT.has(name)) parts.push(bytes.subarray(at, end));
    if (name === 'IEND') return Buffer.concat(parts);
    at = end;
  }
  throw NOT_AN_IMAGE;
}

/** Of the segments before the picture, tables and frame stay; APPn (Exif, XMP, maker’s notes) and comments go. */
function bareJpeg(bytes: Buffer): Buffer {
  const parts = [bytes.subarray(0, 2)];
  let at = 2;
  while (at + 4 <= bytes.length) {
    if (bytes[at] !== 0xff) throw NOT_AN_IMAGE;
    const marker = bytes[at + 1]!;
    const end = at + 2 + bytes.readUInt16BE(at + 2);
    if (end > bytes.length) throw NOT_AN_IMAGE;
    const about = (marker >= 0xe0 && marker <= 0xef) || marker === 0xfe;
    // APP14 says how colours are coded: without it some pictures change theirs.
    if (!about || marker === 0xee) parts.push(bytes.subarray(at, end));
    if (marker === 0xda) {
      const last = bytes.lastIndexOf(Buffer.from([0xff, 0xd9]));
      if (last < end) throw NOT_AN_IMAGE;
      // What hangs behind the end of the picture goes too.
      parts.push(bytes.subarray(end, last + 2));
      return Buffer.concat(parts);
    }
    at = end;
  }
  throw NOT_AN_IMAGE;
}
