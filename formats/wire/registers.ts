/** How a figure lies in 16-bit registers. */
export type RegisterType = 'int16' | 'uint16' | 'int32' | 'uint32' | 'float32';

/** Order of the two words of a 32-bit figure: the Modbus way is the high word first, many devices turn it round. */
export type WordOrder = 'high-first' | 'low-first';

export const REGISTER_TYPES: readonly RegisterType[] = ['int16', 'uint16', 'int32', 'uint32', 'float32'];

/**
 * Registers that a type takes.
 *
 * @example registersOf('float32') // 2
 */
export function registersOf(type: RegisterType): 1 | 2 {
  return type === 'int16' || type === 'uint16' ? 1 : 2;
}

/**
 * The figure in one or two registers, each big-endian as Modbus has it.
 *
 * @param words as they came, one for a 16-bit type, two for a 32-bit one
 * @returns the figure; null for too few words, and for a float that is no number
 * @see Modbus Application Protocol V1.1b3, 4.2; IEEE 754 for float32
 * @example decodeRegisters([0x41c5, 0x0000], 'float32', 'high-first') // 24.625
 */
export function decodeRegisters(words: readonly number[], type: RegisterType, order: WordOrder): number | null {
  if (words.length < registersOf(type)) return null;
  const view = new DataView(new ArrayBuffer(4));
  const [first, second] = order === 'high-first' ? [0, 2] : [2, 0];
  const wide = registersOf(type) === 2;
  view.setUint16(wide ? first : 0, words[0]! & 0xffff);
  if (wide) view.setUint16(second, words[1]! & 0xffff);
  const value = {
    int16: () => view.getInt16(0),
    uint16: () => view.getUint16(0),
    int32: () => view.getInt32(0),
    uint32: () => view.getUint32(0),
    float32: () => view.getFloat32(0),
  }[type]();
  return Number.isFinite(value) ? value : null;
}

/** One way to read a figure out of a block of registers. */
export interface Decoding {
  /** place in the block, from 0 */
  readonly at: number;
  readonly type: RegisterType;
  readonly order: WordOrder;
  readonly value: number;
}

/**
 * A block of registers in every decoding that there is, each of both orders of words only where that makes a difference.
 *
 * @example decodingsOf([0x41c5, 0x0000]).find((d) => d.type === 'float32').value // 24.625
 */
export const decodingsOf = (words: readonly number[]): Decoding[] =>
  words.flatMap((_, at) =>
    REGISTER_TYPES.flatMap((type) =>
      (['high-first', 'low-first'] as const).flatMap((order): Decoding[] => {
        if (order === 'low-first' && registersOf(type) === 1) return [];
        const value = decodeRegisters(words.slice(at, at + registersOf(type)), type, order);
        return value === null ? [] : [{ at, type, order, value }];
      }),
    ),
  );

/** Whole numbers are often sent in tenths, hundredths or thousandths of a unit. */
const SCALES = [1, 0.1, 0.01, 0.001] as const;

/**
 * By which scale a figure on the wire is what a display shows, within half a percent or one step of the figure on the wire; null
 * where no usual scale makes it so.
 *
 * @example scaleShown({ at: 0, type: 'int16', order: 'high-first', value: 702 }, 7.02) // 0.01
 */
export function scaleShown({ type, value }: Decoding, shown: number): number | null {
  const scales = type === 'float32' ? [1] : SCALES;
  const near = (scale: number) => Math.max(Math.abs(shown) / 200, type === 'float32' ? 0 : scale);
  return scales.find((scale) => value !== 0 && Math.abs(value * scale - shown) <= near(scale)) ?? null;
}
