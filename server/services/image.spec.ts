import { deflateSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { withoutMetadata } from './image.ts';

const chunk = (name: string, data: Buffer) => {
  const head = Buffer.alloc(8);
  head.writeUInt32BE(data.length);
  head.write(name, 4, 'latin1');
  return Buffer.concat([head, data, Buffer.alloc(4)]);
};
const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
const png = (...more: Buffer[]) =>
  Buffer.concat([
    PNG,
    chunk('IHDR', Buffer.from([0, 0, 0, 1, 0, 0, 0, 1, 8, 0, 0, 0, 0])),
    ...more,
    chunk('IDAT', deflateSync(Buffer.from([0, 128]))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
const segment = (marker: number, data: Buffer) => {
  const head = Buffer.from([0xff, marker, 0, 0]);
  head.writeUInt16BE(data.length + 2, 2);
  return Buffer.concat([head, data]);
};
const jpeg = (...more: Buffer[]) =>
  Buffer.concat([
    Buffer.from([0xff, 0xd8]),
    ...more,
    segment(0xdb, Buffer.alloc(65)),
    segment(0xda, Buffer.from([1, 2, 3])),
    Buffer.from([9, 9, 0xff, 0xd9]),
  ]);

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

  it.each([
    ['nothing', Buffer.alloc(0)],
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
