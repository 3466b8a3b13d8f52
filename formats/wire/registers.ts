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
