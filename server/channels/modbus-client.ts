import { Socket } from 'node:net';
import { client as clients } from 'jsmodbus';
import { Refusal, type Coefficients } from '@frustum/core';

/**
 * Registers of one probe, relative to its first one. Big-endian, high word first.
 *
 * Input:   +0 mV × 10 (signed), +1 °C × 100 (signed), +2,+3 device clock in tenths of a second, +4 status (0 = measuring)
 * Holding: +0 zero, mV × 10 (signed), +1 slope × 10 000
 */
const INPUT_COUNT = 5;

export interface Reading {
  readonly potentialMv: number;
  readonly temperatureC: number;
  /** device's own clock, s */
  readonly clockSeconds: number;
}

type TcpClient = InstanceType<typeof clients.TCP>;

const TIMEOUT_MS = 2000;

/** One connection to one unit of a device; the probes behind it take turns. */
export class ModbusConnection {
  private readonly host: string;
  private readonly port: number;
  private readonly unitId: number;
  private open: { readonly socket: Socket; readonly client: TcpClient } | null = null;
  private opening: Promise<TcpClient> | null = null;

  constructor(host: string, port: number, unitId: number) {
    this.host = host;
    this.port = port;
    this.unitId = unitId;
  }

  /** @throws Refusal `device-unreachable` naming the stage that failed */
  async read(baseAddress: number): Promise<Reading> {
    const client = await this.client();
    const { response } = await this.guard('read', client.readInputRegisters(baseAddress, INPUT_COUNT));
    const bytes = response.body.valuesAsBuffer;
    if (bytes.length < 2 * INPUT_COUNT) {
      throw this.refuse('read', `it gave ${bytes.length / 2} of ${INPUT_COUNT} registers from ${baseAddress} on`);
    }
    const status = bytes.readUInt16BE(8);
    if (status !== 0) throw this.refuse('status', `the transmitter reports status ${status}`);
    return {
      potentialMv: bytes.readInt16BE(0) / 10,
      temperatureC: bytes.readInt16BE(2) / 100,
      clockSeconds: bytes.readUInt32BE(4) / 10,
    };
  }

  /** Writes zero and slope, reads them back, and says what the device now holds. */
  async writeCoefficients(baseAddress: number, { zeroMv, slope }: Coefficients): Promise<Coefficients> {
    const client = await this.client();
    const bytes = Buffer.alloc(4);
    bytes.writeInt16BE(Math.round(zeroMv * 10), 0);
    bytes.writeUInt16BE(Math.round(slope * 10_000), 2);
    await this.guard('write', client.writeMultipleRegisters(baseAddress, bytes));
    const { response } = await this.guard('read back', client.readHoldingRegisters(baseAddress, 2));
    const held = response.body.valuesAsBuffer;
    const kept = { zeroMv: held.readInt16BE(0) / 10, slope: held.readUInt16BE(2) / 10_000 };
    if (Math.abs(kept.zeroMv - zeroMv) > 0.051 || Math.abs(kept.slope - slope) > 0.000051) {
      throw this.refuse('read back', `it holds zero ${kept.zeroMv} mV and slope ${(kept.slope * 100).toFixed(2)} %`);
    }
    return kept;
  }

  close(): void {
    this.open?.socket.destroy();
    this.open = null;
  }

  private client(): Promise<TcpClient> {
    if (this.open && !this.open.socket.destroyed) return Promise.resolve(this.open.client);
    this.opening ??= new Promise<TcpClient>((resolve, reject) => {
      const socket = new Socket();
      // Before it connects: the client learns from the socket's events that it is online.
      const client = new clients.TCP(socket, this.unitId, TIMEOUT_MS);
      const late = setTimeout(() => socket.destroy(), TIMEOUT_MS);
      socket.setNoDelay(true);
      socket.once('connect', () => {
        clearTimeout(late);
        this.open = { socket, client };
        resolve(client);
      });
      socket.on('error', (error) => reject(this.refuse('connect', error.message)));
      socket.once('close', () => {
        clearTimeout(late);
        reject(this.refuse('connect', 'no answer, or the connection was closed'));
      });
      socket.connect({ host: this.host, port: this.port });
    }).finally(() => (this.opening = null));
    return this.opening;
  }

  private async guard<T>(stage: string, call: Promise<T>): Promise<T> {
    try {
      return await call;
    } catch (error) {
      this.close();
      const message =
        (error as { message?: string; err?: string }).message ?? (error as { err?: string }).err ?? 'no answer';
      throw this.refuse(stage, message);
    }
  }

  private refuse(stage: string, what: string): Refusal {
    return new Refusal(
      'device-unreachable',
      `${this.host}:${this.port}, ${stage}: ${what}. Check plug, address and unit id.`,
      {
        host: this.host,
        port: this.port,
        stage,
      },
    );
  }
}
