import type { Reach } from '../reach.ts';
import { ModbusConnection } from './modbus-connection.ts';

/** One connection a device and unit: the probes behind it take turns. */
export class ModbusConnections {
  private readonly reach: Reach;
  private readonly open = new Map<string, ModbusConnection>();

  constructor(reach: Reach) {
    this.reach = reach;
  }

  to({ host, port, unitId }: { host: string; port: number; unitId: number }): ModbusConnection {
    const key = `${host}:${port}/${unitId}`;
    const known = this.open.get(key) ?? new ModbusConnection(host, port, unitId, this.reach);
    this.open.set(key, known);
    return known;
  }

  /** Lets all of them go; the next wire opens its own anew. */
  close(): void {
    for (const connection of this.open.values()) connection.close();
    this.open.clear();
  }
}
