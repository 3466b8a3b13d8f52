import { Socket } from 'node:net';
import { client as clients } from 'jsmodbus';
import { Refusal } from '@frustum/core';
import { CheckedFrames } from './modbus-frames.ts';
import { PRIVATE_ONLY, reachedLookup, requireReached, type Reach } from '../reach.ts';
import { stageOf, wireRefusal, type Stage } from './wire.ts';

type TcpClient = InstanceType<typeof clients.TCP>;

const TIMEOUT_MS = 2000;

/** What a device says no with: Modbus Application Protocol V1.1b3, section 7. */
const EXCEPTIONS: Readonly<Record<number, string>> = {
  1: 'it does not know this function (exception 1)',
  2: 'it has no such register (exception 2)',
  3: 'it does not take this value or count (exception 3)',
  4: 'it failed while answering (exception 4)',
  6: 'it is busy (exception 6)',
  10: 'its gateway finds no path (exception 10)',
  11: 'the device behind its gateway does not answer (exception 11)',
};

/** One connection to one unit of a device; the probes behind it take turns. */
export class ModbusConnection {
  private readonly host: string;
  private readonly port: number;
  private readonly unitId: number;
  private readonly reach: Reach;
  private open: { readonly socket: Socket; readonly client: TcpClient; readonly frames: CheckedFrames } | null = null;
  private opening: Promise<TcpClient> | null = null;

  constructor(host: string, port: number, unitId: number, reach: Reach = PRIVATE_ONLY) {
    this.host = host;
    this.port = port;
    this.unitId = unitId;
    this.reach = reach;
  }

  /**
   * Words of a table, in one request.
   *
   * @throws Refusal `device-unreachable` naming the stage that failed
   */
  async words(table: 'input' | 'holding', start: number, count: number): Promise<Buffer> {
    const client = await this.client();
    const bytes = await this.guard(
      'read',
      table === 'input'
        ? client.readInputRegisters(start, count).then((a) => a.response.body.valuesAsBuffer)
        : client.readHoldingRegisters(start, count).then((a) => a.response.body.valuesAsBuffer),
    );
    if (bytes.length === 2 * count) return bytes;
    throw this.refuse('address', `it gave ${bytes.length / 2} registers from ${start} on instead of ${count}`);
  }

  /** Writes holding registers. @throws Refusal `device-unreachable` */
  async write(start: number, bytes: Buffer): Promise<void> {
    const client = await this.client();
    await this.guard('write', client.writeMultipleRegisters(start, bytes));
  }

  close(): void {
    this.open?.socket.destroy();
    this.open = null;
  }

  private client(): Promise<TcpClient> {
    if (this.open && !this.open.socket.destroyed) return Promise.resolve(this.open.client);
    this.opening ??= new Promise<TcpClient>((resolve, reject) => {
      requireReached(this.host, this.port, this.reach);
      const socket = new Socket();
      const frames = new CheckedFrames(socket, this.unitId);
      // Before it connects: the client learns from the socket's events that it is online. It listens and writes, no more.
      const client = new clients.TCP(frames as unknown as Socket, this.unitId, TIMEOUT_MS);
      const late = setTimeout(() => socket.destroy(), TIMEOUT_MS);
      socket.setNoDelay(true);
      socket.once('connect', () => {
        clearTimeout(late);
        this.open = { socket, client, frames };
        resolve(client);
      });
      socket.on('error', (error) =>
        reject(error instanceof Refusal ? error : this.refuse(stageOf(error, 'connect'), error.message)),
      );
      socket.once('close', () => {
        clearTimeout(late);
        const { trouble } = frames;
        reject(
          trouble ? this.refuse('read', trouble) : this.refuse('time out', 'no answer, or the connection was closed'),
        );
      });
      const { host, port, reach } = this;
      socket.connect({ host, port, lookup: reachedLookup(port, reach) });
    }).finally(() => (this.opening = null));
    return this.opening;
  }

  private async guard<T>(stage: Stage, call: Promise<T>): Promise<T> {
    const frames = this.open?.frames;
    try {
      return await call;
    } catch (error) {
      const known = error as { message?: string; err?: string };
      const exception = known.err === 'ModbusException' ? (frames?.exception ?? undefined) : undefined;
      // The device answered, if only to say no: the connection is good.
      if (exception === undefined) this.close();
      if (frames?.trouble) throw this.refuse('read', frames.trouble);
      throw this.refuse(
        exception === 2 ? 'address' : known.err === 'Timeout' ? 'time out' : stage,
        exception === undefined
          ? (known.message ?? known.err ?? 'no answer')
          : (EXCEPTIONS[exception] ?? `exception ${exception}`),
      );
    }
  }

  refuse(stage: Stage, what: string): Refusal {
    return wireRefusal(`${this.host}:${this.port}`, stage, what);
  }
}
