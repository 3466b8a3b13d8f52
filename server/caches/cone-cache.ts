import type { Cone, Due, SensorId } from '@frustum/core';
import type { ConeView } from '@frustum/contract';

/** What of a row of Margins costs something to make. */
export interface MadeCone {
  readonly errorAt: Cone['errorAt'];
  readonly branches: Cone['branches'];
  readonly view: ConeView;
  readonly forecast: Due;
}

/** Cones of the house, kept as long as nothing that they rest on has changed: runs are only ever added. */
export class ConeCache {
  private readonly kept = new Map<SensorId, { readonly basis: string; readonly made: MadeCone }>();

  /** @param basis changes whenever `make` would give something else */
  of(sensorId: SensorId, basis: string, make: () => MadeCone): MadeCone {
    const known = this.kept.get(sensorId);
    if (known?.basis === basis) return known.made;
    const made = make();
    this.kept.set(sensorId, { basis, made });
    return made;
  }
}
