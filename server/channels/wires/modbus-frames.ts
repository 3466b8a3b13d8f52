import { EventEmitter } from 'node:events';
import type { Socket } from 'node:net';

/** Bytes before what the unit id begins: transaction, protocol, length. Modbus Messaging on TCP/IP V1.0b, section 3.1.3. */
const HEADER = 6;
/** Unit id and the longest PDU of 253 bytes; the shortest is the unit id and two bytes. Same, section 4.1. */
const LENGTH = { least: 3, most: 254 } as const;
/** Reading holding and input registers, writing registers: what is ever asked. Modbus Application Protocol V1.1b3, section 6. */
const READS = [3, 4];
const WRITE = 16;
/** Any exception that every library knows: what the device really said is kept beside it. */
const FAILED = 4;
const ASKED = [...READS, WRITE];

/** What is wrong with a frame, in words; null for one that is in order. */
function frameTrouble(frame: Buffer, unitId: number): string | null {
  const [protocol, unit, code] = [frame.readUInt16BE(2), frame[6]!, frame[7]!];
  const pdu = frame.length - HEADER - 1;
  if (protocol !== 0) return `it speaks protocol ${protocol} instead of 0`;
  if (unit !== unitId) return `unit ${unit} answers instead of ${unitId}`;
  if (code > 0x80 && ASKED.includes(code - 0x80))
    return pdu === 2 ? null : `its exception has ${pdu} bytes instead of 2`;
  if (READS.includes(code)) {
    const said = frame[8]!;
    return said === pdu - 2 && said % 2 === 0 ? null : `it announces ${said} bytes and sends ${pdu - 2}`;
  }
  if (code === WRITE) return pdu === 5 ? null : `its answer to writing has ${pdu} bytes instead of 5`;
  return `it answers with function ${code}, which nobody asked for`;
}

/**
 * A device's socket as a Modbus library may hear it: whole frames that are in order, one at a time. Whatever else comes ends
 * the connection, with a sentence of why.
 */
export class CheckedFrames extends EventEmitter {
  /** why the connection was ended from here; '' while it was not */
  trouble = '';
  /** what the device said no with, last; null for nothing yet */
  exception: number | null = null;
  private readonly socket: Socket;
  private readonly unitId: number;
  private rest = Buffer.alloc(0);

  constructor(socket: Socket, unitId: number) {
    super();
    this.socket = socket;
    this.unitId = unitId;
    socket.on('connect', () => this.emit('connect'));
    socket.on('close', () => this.emit('close'));
    socket.on('data', (bytes) => this.take(bytes));
  }

  /** As a library calls it. */
  write(bytes: Buffer, done?: (error?: Error | null) => void): boolean {
    return this.socket.write(bytes, done);
  }

  private take(bytes: Buffer): void {
    this.rest = Buffer.concat([this.rest, bytes]);
    while (!this.trouble && this.rest.length >= HEADER) {
      const length = this.rest.readUInt16BE(4);
      if (length < LENGTH.least || length > LENGTH.most) return this.end(`no Modbus frame has ${length} bytes`);
      if (this.rest.length < HEADER + length) return;
      const frame = Buffer.from(this.rest.subarray(0, HEADER + length));
      this.rest = this.rest.subarray(HEADER + length);
      const wrong = frameTrouble(frame, this.unitId);
      if (wrong) return this.end(wrong);
      this.pass(frame);
    }
  }

  private pass(frame: Buffer): void {
    if (frame[7]! > 0x80) {
      this.exception = frame[8]!;
      frame[8] = FAILED;
    }
    try {
      this.emit('data', frame);
    } catch (error) {
      // What a library makes of a frame must end one connection, and never the process.
      this.end(`its answer could not be read: ${error instanceof Error ? error.message : String(error)}`);
    }
  }

  private end(why: string): void {
    this.trouble = why;
    this.socket.destroy();
  }
}
