import { familyOf } from '@frustum/core';
import type { ShelvedSensor } from '@frustum/contract';
import type { SensorRecord } from '../../store/commands/life.ts';

/** When a sensor that soaks may be fitted; null for now. */
function readyAtOf({ family, soakingSince }: SensorRecord, nowMs: number): string | null {
  const { soak } = familyOf(family);
  const readyMs = soakingSince !== null && soak ? Date.parse(soakingSince) + 1000 * soak.seconds : -Infinity;
  return readyMs > nowMs ? new Date(readyMs).toISOString() : null;
}

export const shelvedRow = (
  { sensor, since }: { readonly sensor: SensorRecord; readonly since: string },
  nowMs: number,
): ShelvedSensor => {
  const { id, name, serial, family, model, boughtOn, storage, soakingSince, retiredAt, version } = sensor;
  const readyAt = readyAtOf(sensor, nowMs);
  return {
    sensorId: id,
    name,
    serial,
    family,
    model,
    boughtOn,
    storage,
    soakingSince,
    readyAt,
    retiredAt,
    since,
    version,
  };
};
