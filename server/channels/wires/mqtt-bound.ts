import type { Socket } from 'node:net';

/** A length has at most four bytes of seven bits: MQTT 3.1.1, section 2.2.3, and MQTT 5, section 1.5.5. */
const LENGTH_BYTES = 4;

/**
 * Follows the packets of an MQTT stream by their fixed headers, so that one which is too long is known before it is buffered.
 *
 * @see MQTT Version 3.1.1, section 2.2
 */
class PacketLengths {
  /** bytes still to come of the packet that is being read */
  private left = 0;
  /** bytes of the length that were read; −1 = the next byte is the first of a header */
  private read = -1;
  private length = 0;

  /** @returns a length that is too long, as far as it was read, bytes; null while none is, and Infinity where the bytes are no valid length */
  longerThan(most: number, bytes: Uint8Array): number | null {
    for (let i = 0; i < bytes.length;) {
      if (this.left > 0) {
        const passed = Math.min(this.left, bytes.length - i);
        this.left -= passed;
        i += passed;
        continue;
      }
      const byte = bytes[i++]!;
      if (this.read < 0) {
        [this.read, this.length] = [0, 0];
        continue;
      }
      this.length += (byte & 0x7f) * 2 ** (7 * this.read++);
      if (this.length > most) return this.length;
      if (byte & 0x80) {
        if (this.read === LENGTH_BYTES) return Infinity;
        continue;
      }
      [this.left, this.read] = [this.length, -1];
    }
    return null;
  }
}

/** Ends a connection as soon as a packet on it announces more than so many bytes. */
export function bounded(socket: Socket, most: number, tell: (length: number) => void): Socket {
  const lengths = new PacketLengths();
  // Before whatever buffers: it hears each piece first.
  socket.prependListener('data', (bytes: Buffer) => {
    const length = lengths.longerThan(most, bytes);
    if (length === null) return;
    tell(length);
    socket.destroy();
  });
  return socket;
}
