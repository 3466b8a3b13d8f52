import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { figureOf, pointedAt } from './json-pointer.ts';
import { decodeRegisters, REGISTER_TYPES, registersOf, type RegisterType } from './registers.ts';
import { decodeSenml } from './senml.ts';

const SEED = 20267;

describe('registers: Modbus Application Protocol V1.1b3, big-endian words; IEEE 754', () => {
  it.each<[number[], RegisterType, 'high-first' | 'low-first', number]>([
    [[0xffac], 'int16', 'high-first', -84],
    [[0xffac], 'uint16', 'high-first', 65_452],
    [[0x0001, 0x0000], 'uint32', 'high-first', 65_536],
    [[0x0000, 0x0001], 'uint32', 'low-first', 65_536],
    [[0xffff, 0xfffe], 'int32', 'high-first', -2],
    // IEEE 754: 0x41C50000 is 24.625, 0xC330E666 is −176.9
    [[0x41c5, 0x0000], 'float32', 'high-first', 24.625],
    [[0xe666, 0xc330], 'float32', 'low-first', -176.9],
  ])('%j as %s, %s, is %s', (words, type, order, value) => {
    expect(decodeRegisters(words, type, order)).toBeCloseTo(value, 4);
  });

  it('too few words, and a float that is no number, are no figure', () => {
    expect(decodeRegisters([0x41c5], 'float32', 'high-first')).toBeNull();
    expect(decodeRegisters([], 'int16', 'high-first')).toBeNull();
    expect(decodeRegisters([0x7fc0, 0], 'float32', 'high-first')).toBeNull();
    expect(decodeRegisters([0x7f80, 0], 'float32', 'high-first')).toBeNull();
  });

  it(`what Node's own Buffer writes comes back, in both word orders (seed ${SEED})`, () => {
    const write: Record<RegisterType, (b: Buffer, v: number) => number> = {
      int16: (b, v) => b.writeInt16BE(v % 32_768),
      uint16: (b, v) => b.writeUInt16BE(Math.abs(v) % 65_536),
      int32: (b, v) => b.writeInt32BE(v),
      uint32: (b, v) => b.writeUInt32BE(v >>> 0),
      float32: (b, v) => b.writeFloatBE(v / 7),
    };
    const read: Record<RegisterType, (b: Buffer) => number> = {
      int16: (b) => b.readInt16BE(),
      uint16: (b) => b.readUInt16BE(),
      int32: (b) => b.readInt32BE(),
      uint32: (b) => b.readUInt32BE(),
      float32: (b) => b.readFloatBE(),
    };
    fc.assert(
      fc.property(fc.constantFrom(...REGISTER_TYPES), fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 }), (type, v) => {
        const bytes = Buffer.alloc(4);
        write[type](bytes, v);
        const words = [bytes.readUInt16BE(0), bytes.readUInt16BE(2)].slice(0, registersOf(type));
        expect(decodeRegisters(words, type, 'high-first')).toBe(read[type](bytes));
        expect(decodeRegisters([...words].reverse(), type, 'low-first')).toBe(read[type](bytes));
      }),
      { seed: SEED },
    );
  });
});

describe('JSON pointers: RFC 6901', () => {
  // The document and the answers of section 5 of the RFC.
  const rfc = {
    foo: ['bar', 'baz'],
    '': 0,
    'a/b': 1,
    'c%d': 2,
    'e^f': 3,
    'g|h': 4,
    'i\\j': 5,
    'k"l': 6,
    ' ': 7,
    'm~n': 8,
  };
  it.each([
    ['/foo/0', 'bar'],
    ['/', 0],
    ['/a~1b', 1],
    ['/c%d', 2],
    ['/e^f', 3],
    ['/g|h', 4],
    ['/i\\j', 5],
    ['/k"l', 6],
    ['/ ', 7],
    ['/m~0n', 8],
  ])('%s', (pointer, value) => expect(pointedAt(rfc, pointer)).toEqual({ ok: true, value }));

  it('the whole document, and paths that lead nowhere, with what is there', () => {
    expect(pointedAt(rfc, '')).toEqual({ ok: true, value: rfc });
    const no = (pointer: string, document: unknown = { probes: [{ mv: 1 }], site: 'A' }) => {
      const found = pointedAt(document, pointer);
      return found.ok ? '' : found.message;
    };
    expect(no('/probe/0')).toBe('There is no “probe” at the top; it has probes, site.');
    expect(no('/probes/1/mv')).toBe('There is no “1” at /probes; it is a list of 1.');
    expect(no('/probes/01')).toMatch(/no “01”/);
    expect(no('/site/name')).toBe('There is no “name” at /site; it is a text.');
    expect(no('/x', null)).toBe('There is no “x” at the top; it is nothing.');
    expect(no('probes')).toMatch(/does not begin with/);
    // What every object inherits is no value of the device's.
    expect(no('/constructor')).toMatch(/no “constructor”/);
    expect(no('/__proto__')).toMatch(/no “__proto__”/);
  });

  it('a figure is a number, or a text that is one', () => {
    expect([figureOf(7.02), figureOf('7.02'), figureOf(' 24,6 ')]).toEqual([7.02, 7.02, 24.6]);
    expect([figureOf('7.02 pH'), figureOf(''), figureOf(null), figureOf(true), figureOf(NaN), figureOf([7])]).toEqual(
      Array(6).fill(null),
    );
  });
});

describe('SenML: RFC 8428', () => {
  it('section 5.1.3: base name, base time and base unit go into every record', () => {
    const pack = decodeSenml([
      { bn: 'urn:dev:ow:10e2073a0108006:', bt: 1.276020076001e9, bu: 'A', bver: 5, n: 'voltage', u: 'V', v: 120.1 },
      { n: 'current', t: -5, v: 1.2 },
      { n: 'current', t: -4, v: 1.3 },
    ]);
    expect(pack).toEqual({
      ok: true,
      records: [
        { name: 'urn:dev:ow:10e2073a0108006:voltage', unit: 'V', value: 120.1, atSeconds: 1.276020076001e9 },
        { name: 'urn:dev:ow:10e2073a0108006:current', unit: 'A', value: 1.2, atSeconds: 1.276020071001e9 },
        { name: 'urn:dev:ow:10e2073a0108006:current', unit: 'A', value: 1.3, atSeconds: 1.276020072001e9 },
      ],
    });
  });

  it('a base value is added; texts and booleans are no readings; a relative time is none yet', () => {
    const pack = decodeSenml([
      { bn: 'probe/', bv: 20, n: 'temp', u: 'Cel', v: 4.6 },
      { n: 'label', vs: 'main' },
      { n: 'wet', vb: true },
      { n: 'mv', v: -28.4, t: -3 },
    ]);
    expect(pack.ok && pack.records).toEqual([
      { name: 'probe/temp', unit: 'Cel', value: 24.6, atSeconds: null },
      { name: 'probe/mv', unit: '', value: -8.399999999999999, atSeconds: null },
    ]);
  });

  it.each<[unknown, RegExp]>([
    [{}, /a list of records/],
    [[5], /Record 1 of the pack is no object/],
    [[{ v: 1 }], /Record 1 has no usable name/],
    [[{ n: 'a', v: 1, must_: 2 }], /asks for “must_”/],
    [Array(1001).fill({ n: 'a', v: 1 }), /1001 records/],
  ])('refuses %j', (document, message) => {
    const pack = decodeSenml(document);
    expect(!pack.ok && pack.message).toMatch(message);
  });

  it(`no JSON at all makes it fall over (seed ${SEED})`, () => {
    fc.assert(
      fc.property(fc.jsonValue(), (document) => {
        const pack = decodeSenml(document);
        if (pack.ok) expect(pack.records.every((r) => Number.isFinite(r.value))).toBe(true);
      }),
      { seed: SEED, numRuns: 500 },
    );
  });
});
