import { familyOf } from '../families/registry.ts';
import { SERVICE_KINDS, type ServiceKind } from '../sensor/befalls.ts';
import { Refusal } from '../quantities/refusal.ts';

/** Services of a part that not every sensor has: a tip or cap, an electrolyte. */
const OF_A_PART = { 'tip replaced': 'tip or cap', refilled: 'electrolyte to refill' } as const;

/**
 * What can be done to sensors of a family: nobody replaces the tip of a sensor that has none.
 *
 * @example servicesOf('conductivity').includes('tip replaced') // false
 */
export function servicesOf(familyId: string): readonly ServiceKind[] {
  const { befalls, soak } = familyOf(familyId);
  const has = new Set<ServiceKind>([
    // What is soaked has a reference with an electrolyte, also where nothing else is known of it.
    ...(soak ? (['refilled'] as const) : []),
    ...(befalls?.causes ?? []).flatMap((c) => [
      ...(c.curedBy ?? []),
      ...(c.partlyCuredBy ?? []),
      ...(c.test.service ? [c.test.service] : []),
    ]),
  ]);
  return SERVICE_KINDS.filter((kind) => !(kind in OF_A_PART) || has.has(kind));
}

/** @throws Refusal `no-such-part` for a service that no sensor of this family can have */
export function requireService(familyId: string, kind: ServiceKind): void {
  if (servicesOf(familyId).includes(kind)) return;
  const part = OF_A_PART[kind as keyof typeof OF_A_PART];
  throw new Refusal(
    'no-such-part',
    `A sensor for ${familyOf(familyId).name} has no ${part}. Note what was done in your words, as “other”.`,
    { part },
  );
}
