import { deflateSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { requireUnpacks, withoutMetadata } from './image.ts';

const chunk = (name: string, data: Buffer) => {
  const head = Buffer.alloc(8);
  head.writeUInt32BE(data.length);
  head.write(name, 4, 'latin1');
  return Buffer.concat([head, data, Buffer.alloc(4)]);
};
const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
/** @param kind bit depth, colour type, and whether it is interlaced */
const headOf = (width: number, height: number, [depth, colour, interlaced] = [8, 0, 0]) => {
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width);
  head.writeUInt32BE(height, 4);
  [head[8], head[9], head[12]] = [depth, colour, interlaced];
  return chunk('IHDR', head);
};
const pngOf = (head: Buffer, lines: Buffer, ...more: Buffer[]) =>
  Buffer.concat([PNG, head, ...more, chunk('IDAT', deflateSync(lines)), chunk('IEND', Buffer.alloc(0))]);
const png = (...more: Buffer[]) => pngOf(headOf(1, 1), Buffer.from([0, 128]), ...more);
const segment = (marker: number, data: Buffer) => {
  const head = Buffer.from([0xff, marker, 0, 0]);
  head.writeUInt16BE(data.length + 2, 2);
  return Buffer.concat([head, data]);
};
/** A frame of three rows and two columns: a progressive one has several scans. */
const FRAME = segment(0xc2, Buffer.from([8, 0, 3, 0, 2, 1, 1, 0x11, 0]));
const scan = (...bytes: number[]) => Buffer.concat([segment(0xda, Buffer.from([1, 2, 3])), Buffer.from(bytes)]);
const END = Buffer.from([0xff, 0xd9]);
const jpegOf = (...parts: Buffer[]) => Buffer.concat([Buffer.from([0xff, 0xd8]), ...parts]);
const jpeg = (...more: Buffer[]) => jpegOf(...more, segment(0xdb, Buffer.alloc(65)), FRAME, scan(9, 9), END);

describe('a picture is kept without what it tells of its place', () => {
  it('PNG: text, time and Exif go, the picture stays', () => {
    const made = withoutMetadata(
      png(chunk('tEXt', Buffer.from('GPS 48.1')), chunk('eXIf', Buffer.from('MM')), chunk('gAMA', Buffer.alloc(4))),
    );
    expect(made.type).toBe('image/png');
    const text = made.bytes.toString('latin1');
    expect(text).not.toMatch(/tEXt|eXIf|GPS/);
    expect(text).toMatch(/IHDR.*gAMA.*IDAT.*IEND/s);
  });

  it('JPEG: Exif, XMP, comments and what hangs behind the end go; tables, frame and scan stay', () => {
    const made = withoutMetadata(
      Buffer.concat([
        jpeg(segment(0xe1, Buffer.from('Exif\0\0GPS 48.1')), segment(0xfe, Buffer.from('a comment'))),
        Buffer.from('trailing secret'),
      ]),
    );
    expect(made.type).toBe('image/jpeg');
    expect(made.bytes.toString('latin1')).not.toMatch(/Exif|GPS|comment|secret/);
    expect(made.bytes).toEqual(jpeg());
  });

  it('JPEG: also between two scans, and in a second picture behind the first; the scans stay to the byte', () => {
    const [tables, first, second] = [segment(0xc4, Buffer.alloc(20)), scan(1, 0xff, 0, 2, 0xff, 0xd3, 7), scan(5, 6)];
    const whole = jpegOf(FRAME, tables, first, tables, second, END);
    const exif = segment(0xe1, Buffer.from('Exif GPS 48.1'));
    const told = jpegOf(FRAME, tables, first, exif, tables, Buffer.from([0xff]), segment(0xfe, Buffer.from('GPS')), second, END, jpeg(exif)); // prettier-ignore
    expect(withoutMetadata(told)).toEqual({ type: 'image/jpeg', bytes: whole, width: 2, height: 3 });
  });

  it('JPEG: the note about colours stays, and only as long as it is one', () => {
    const adobe = segment(0xee, Buffer.from('Adobe\0\x64\0\0\0\0\x01', 'latin1'));
    expect(withoutMetadata(jpeg(adobe)).bytes).toEqual(jpeg(adobe));
    expect(withoutMetadata(jpeg(segment(0xee, Buffer.from('Adobe and where it was')))).bytes).toEqual(jpeg());
  });

  it.each([
    ['a PNG', pngOf(headOf(60_000, 60_000), Buffer.alloc(4))],
    ['a JPEG', jpegOf(segment(0xc0, Buffer.from([8, 0xff, 0xff, 0xff, 0xff, 1])), scan(1), END)],
  ])('%s of more pixels than a photo has is refused by its head', (_, bytes) => {
    expect(() => withoutMetadata(bytes)).toThrow(/ × \d+ pixels; 25 million are the most\. Make it smaller/);
  });

  // Bytes of all lines by hand: a filter byte a line, and in an interlaced one a line of each pass (W3C PNG, section 8.2).
  it.each<[string, [number, number, number], number, number, number]>([
    ['grey', [8, 0, 0], 3, 2, 2 * (1 + 3)],
    ['black and white', [1, 0, 0], 9, 2, 2 * (1 + 2)],
    ['colour with transparency', [8, 6, 0], 3, 2, 2 * (1 + 12)],
    ['16 bit colour', [16, 2, 0], 2, 1, 1 + 12],
    ['a palette', [4, 3, 0], 3, 1, 1 + 2],
    ['interlaced, 8 × 8', [8, 0, 1], 8, 8, 2 + 2 + 3 + 2 * 3 + 2 * 5 + 4 * 5 + 4 * 9],
    ['interlaced, 1 × 1', [8, 0, 1], 1, 1, 2],
  ])('a PNG unpacks to what its head says: %s', async (_, kind, width, height, bytes) => {
    const of = (length: number) => withoutMetadata(pngOf(headOf(width, height, kind), Buffer.alloc(length)));
    await expect(requireUnpacks(of(bytes))).resolves.toBeUndefined();
    await expect(requireUnpacks(of(bytes + 1))).rejects.toThrow(/cut short/);
    await expect(requireUnpacks(of(bytes - 1))).rejects.toThrow(/cut short/);
  });

  it('a small PNG that unpacks without end, or not at all, is refused', async () => {
    const bomb = withoutMetadata(pngOf(headOf(100, 100), Buffer.alloc(40_000_000)));
    expect(bomb.bytes.length).toBeLessThan(50_000);
    await expect(requireUnpacks(bomb)).rejects.toThrow(/no JPEG or PNG picture/);
    const broken = withoutMetadata(png());
    broken.bytes[broken.bytes.indexOf('IDAT') + 4] = 7;
    await expect(requireUnpacks(broken)).rejects.toThrow(/no JPEG or PNG picture/);
    const strange = withoutMetadata(pngOf(headOf(1, 1, [3, 0, 0]), Buffer.alloc(2)));
    await expect(requireUnpacks(strange)).rejects.toThrow(/no JPEG or PNG picture/);
  });

  it.each([
    ['nothing', Buffer.alloc(0)],
    ['a PNG that begins with something else', pngOf(chunk('tEXt', Buffer.alloc(3)), Buffer.alloc(2))],
    ['a JPEG without a frame', jpegOf(scan(9, 9), END)],
    ['a JPEG without a scan', jpegOf(FRAME, END)],
    ['a PNG without a width', pngOf(headOf(0, 1), Buffer.alloc(1))],
    ['a page that calls itself a picture', Buffer.from('<svg onload="alert(1)"/>')],
    ['a PNG that is cut short', png().subarray(0, 40)],
    ['a JPEG without an end', jpeg().subarray(0, -2)],
    [
      'a PNG whose chunk claims more than there is',
      Buffer.concat([PNG, Buffer.from([0x7f, 0xff, 0xff, 0xff]), Buffer.from('IDAT')]),
    ],
    ['a JPEG whose segment climbs out', Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0xff, 0xff])],
  ])('%s is refused with the way out', (_, bytes) => {
    expect(() => withoutMetadata(bytes)).toThrow(/no JPEG or PNG picture, or it is cut short\. Take the picture again/);
  });
});
