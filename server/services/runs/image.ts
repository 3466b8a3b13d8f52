import { createInflate } from 'node:zlib';
import { Refusal } from '@frustum/core';

export type ImageType = 'image/jpeg' | 'image/png';

/** A picture without what it tells of itself, and how large it is. */
interface BareImage {
  readonly type: ImageType;
  readonly bytes: Buffer;
  readonly width: number;
  readonly height: number;
}

const NOT_AN_IMAGE = new Refusal(
  'not-an-image',
  'This file is no JPEG or PNG picture, or it is cut short. Take the picture again, or drop another file.',
);

/** More is no photo of a display: a browser sends 1600 pixels at most. */
const MAX_PIXELS = 25_000_000;

/** @throws Refusal `image-too-large`, before anything of the picture is decoded */
function requireSize(width: number, height: number): void {
  if (width === 0 || height === 0) throw NOT_AN_IMAGE;
  if (width * height <= MAX_PIXELS) return;
  const words = `This picture has ${width} × ${height} pixels; ${MAX_PIXELS / 1e6} million are the most. Make it smaller, or take it with a lower resolution.`;
  throw new Refusal('image-too-large', words, { width, height, most: MAX_PIXELS });
}

const PNG_HEAD = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
/** Chunks that make the picture itself; everything else is about it, and goes. */
const PNG_KEPT = new Set(['IHDR', 'PLTE', 'IDAT', 'IEND', 'tRNS', 'gAMA', 'cHRM', 'sRGB']);

/**
 * A picture without what it tells about its place, time and device: only what is needed to show it stays.
 *
 * @param bytes as they came; nothing of them is trusted, the type least of all
 * @throws Refusal `not-an-image`, `image-too-large`
 * @see ITU-T T.81, annex B (JPEG markers); W3C PNG, section 5 (chunks)
 */
export function withoutMetadata(bytes: Buffer): BareImage {
  if (bytes.subarray(0, 8).equals(PNG_HEAD)) return barePng(bytes);
  if (bytes[0] === 0xff && bytes[1] === 0xd8) return bareJpeg(bytes);
  throw NOT_AN_IMAGE;
}

function barePng(bytes: Buffer): BareImage {
  const parts: Buffer[] = [PNG_HEAD];
  let size: { width: number; height: number } | null = null;
  let at = PNG_HEAD.length;
  while (at + 12 <= bytes.length) {
    const end = at + 12 + bytes.readUInt32BE(at);
    const name = bytes.toString('latin1', at + 4, at + 8);
    if (end > bytes.length || (size === null) !== (name === 'IHDR')) throw NOT_AN_IMAGE;
    if (name === 'IHDR') {
      if (end - at !== 12 + 13) throw NOT_AN_IMAGE;
      size = { width: bytes.readUInt32BE(at + 8), height: bytes.readUInt32BE(at + 12) };
      requireSize(size.width, size.height);
    }
    if (PNG_KEPT.has(name)) parts.push(bytes.subarray(at, end));
    if (name === 'IEND') return { type: 'image/png', bytes: Buffer.concat(parts), ...size! };
    at = end;
  }
  throw NOT_AN_IMAGE;
}

/** Samples of a pixel by colour type: W3C PNG, section 11.2.2. */
const SAMPLES: Readonly<Record<number, number>> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };
/** First column and row, and steps, of the seven passes of an interlaced picture: W3C PNG, section 8.2. */
const PASSES = [
  [0, 0, 8, 8],
  [4, 0, 8, 8],
  [0, 4, 4, 8],
  [2, 0, 4, 4],
  [0, 2, 2, 4],
  [1, 0, 2, 2],
  [0, 1, 1, 2],
] as const;

/** Bytes that the lines of a PNG must have once they are unpacked; null for a kind of pixel that there is not. */
function unpackedBytes(head: Buffer): number | null {
  const [width, height] = [head.readUInt32BE(0), head.readUInt32BE(4)];
  const [depth, colour, , , interlaced] = head.subarray(8) as unknown as number[];
  const bits = depth! * (SAMPLES[colour!] ?? 0);
  if (![1, 2, 4, 8, 16].includes(depth!) || bits === 0) return null;
  const lines = (columns: number, rows: number) => (columns ? rows * (1 + Math.ceil((columns * bits) / 8)) : 0);
  if (interlaced === 0) return lines(width, height);
  return PASSES.reduce((sum, [x, y, dx, dy]) => {
    return sum + lines(Math.ceil(Math.max(0, width - x) / dx), Math.ceil(Math.max(0, height - y) / dy));
  }, 0);
}

/**
 * Checks that a PNG unpacks to what its head says, and to no byte more: a small file may hold lines without end. Unpacked
 * beside the server's own thread, a piece at a time, and thrown away.
 *
 * @param bare as `withoutMetadata` gives it
 * @throws Refusal `not-an-image`
 */
export async function requireUnpacks({ type, bytes }: BareImage): Promise<void> {
  if (type !== 'image/png') return;
  const packed: Buffer[] = [];
  for (let at = PNG_HEAD.length; at < bytes.length; at += 12 + bytes.readUInt32BE(at))
    if (bytes.toString('latin1', at + 4, at + 8) === 'IDAT') {
      packed.push(bytes.subarray(at + 8, at + 8 + bytes.readUInt32BE(at)));
    }
  const expected = unpackedBytes(bytes.subarray(PNG_HEAD.length + 8));
  if (expected === null) throw NOT_AN_IMAGE;
  let unpacked = 0;
  const inflate = createInflate();
  inflate.end(Buffer.concat(packed));
  try {
    for await (const piece of inflate) if ((unpacked += (piece as Buffer).length) > expected) break;
  } catch {
    throw NOT_AN_IMAGE;
  }
  if (unpacked !== expected) throw NOT_AN_IMAGE;
}

/** Markers of a frame, where its size stands; the three that are none have other meanings (T.81, table B.1). */
const isFrame = (marker: number) => marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);

/** APP14 says how colours are coded, and is kept if it says that and nothing else: without it some pictures change theirs. */
const isColourNote = (segment: Buffer) => segment.length === 16 && segment.toString('latin1', 4, 9) === 'Adobe';

/**
 * Tables, frame and scans stay, wherever they stand; APPn (Exif, XMP, maker’s notes) and comments go, also between two scans,
 * and so does what hangs behind the end of the picture.
 */
function bareJpeg(bytes: Buffer): BareImage {
  const parts = [bytes.subarray(0, 2)];
  let size: { width: number; height: number } | null = null;
  let scans = 0;
  let at = 2;
  while (at + 2 <= bytes.length) {
    if (bytes[at] !== 0xff) throw NOT_AN_IMAGE;
    const marker = bytes[at + 1]!;
    // Any marker may have filling before it.
    if (marker === 0xff) {
      at++;
      continue;
    }
    if (marker === 0xd9) {
      if (size === null || scans === 0) throw NOT_AN_IMAGE;
      parts.push(bytes.subarray(at, at + 2));
      return { type: 'image/jpeg', bytes: Buffer.concat(parts), ...size };
    }
    if (at + 4 > bytes.length) throw NOT_AN_IMAGE;
    const end = at + 2 + bytes.readUInt16BE(at + 2);
    if (end > bytes.length || end < at + 4) throw NOT_AN_IMAGE;
    const segment = bytes.subarray(at, end);
    if (isFrame(marker)) {
      if (segment.length < 9) throw NOT_AN_IMAGE;
      size = { width: segment.readUInt16BE(7), height: segment.readUInt16BE(5) };
      requireSize(size.width, size.height);
    }
    const about = (marker >= 0xe0 && marker <= 0xef) || marker === 0xfe;
    if (!about || (marker === 0xee && isColourNote(segment))) parts.push(segment);
    at = end;
    if (marker !== 0xda) continue;
    if (size === null) throw NOT_AN_IMAGE;
    scans++;
    const scanned = endOfScan(bytes, at);
    parts.push(bytes.subarray(at, scanned));
    at = scanned;
  }
  throw NOT_AN_IMAGE;
}

/** Where the marker after a scan stands: 0xFF in the scan itself is followed by 0, or restarts it (T.81, B.1.1.5). */
function endOfScan(bytes: Buffer, from: number): number {
  for (let at = bytes.indexOf(0xff, from); at >= 0; at = bytes.indexOf(0xff, at + 1)) {
    const next = bytes[at + 1];
    if (next === undefined) break;
    if (next !== 0 && !(next >= 0xd0 && next <= 0xd7)) return at;
  }
  throw NOT_AN_IMAGE;
}
