import type { Server } from 'node:net';
import { modbusDevice } from './modbus-device.ts';
import type { ProbePort } from './ports.ts';

/** Names of its figures, in the order of its registers; each takes two. */
export const MULTI_PROBE_FIGURES = ['ph', 'nitrate', 'potassium', 'conductance', 'temperature'] as const;

/**
 * A stand-in for a multi-probe with electronics of its own: pH, nitrate and potassium on one reference, a cell and a
 * thermometer. An invented map: input registers 0 to 9, floats of 32 bit, low word first: mV, mV, mV, µS, °C.
 */
export function multiProbe(probe: ProbePort, host: string, port: number): Promise<Server> {
  return modbusDevice(
    2 * MULTI_PROBE_FIGURES.length,
    {
      show: (input) => {
        const { electrodes, conductance, temperatureC } = probe.read();
        const figures = [electrodes['ph'], electrodes['nitrate'], electrodes['potassium'], conductance, temperatureC];
        figures.forEach((figure, i) => {
          const big = Buffer.alloc(4);
          big.writeFloatBE(figure ?? NaN);
          big.subarray(2).copy(input, 4 * i);
          big.subarray(0, 2).copy(input, 4 * i + 2);
        });
      },
    },
    host,
    port,
  );
}
