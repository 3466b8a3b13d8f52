/** One record with its base fields worked in. */
export interface SenmlRecord {
  /** base name and name together */
  readonly name: string;
  readonly unit: string;
  readonly value: number;
  /** seconds since 1970; null when the pack states a time relative to now, or none */
  readonly atSeconds: number | null;
}

export type SenmlPack =
  | { readonly ok: true; readonly records: readonly SenmlRecord[] }
  | { readonly ok: false; readonly message: string };

/** More records than any instrument sends in one message. */
const MAX_RECORDS = 1000;

/** Times below this are relative to now: RFC 8428, 4.5.3. */
const RELATIVE_BELOW = 2 ** 28;

const text = (value: unknown) => (typeof value === 'string' ? value : undefined);
const number = (value: unknown) => (typeof value === 'number' && Number.isFinite(value) ? value : undefined);

/**
 * A SenML pack in JSON, resolved: base name, base unit, base value and base time go into each record that follows them.
 *
 * Records without a numeric value (texts, booleans, sums alone) are passed over: they are no readings.
 *
 * @param document parsed JSON
 * @see RFC 8428, sections 4 and 5
 */
export function decodeSenml(document: unknown): SenmlPack {
  if (!Array.isArray(document)) return { ok: false, message: 'A SenML pack is a list of records; this is none.' };
  if (document.length > MAX_RECORDS) {
    return { ok: false, message: `The pack has ${document.length} records; at most ${MAX_RECORDS} are taken.` };
  }
  const base = { name: '', unit: '', value: 0, time: 0 };
  const records: SenmlRecord[] = [];
  for (const [i, raw] of (document as unknown[]).entries()) {
    if (typeof raw !== 'object' || raw === null || Array.isArray(raw)) {
      return { ok: false, message: `Record ${i + 1} of the pack is no object.` };
    }
    const r = raw as Record<string, unknown>;
    // A label that ends in "_" must be understood, and this one is not: RFC 8428, 4.4.
    const must = Object.keys(r).find((key) => key.endsWith('_'));
    if (must) return { ok: false, message: `Record ${i + 1} asks for “${must}”, which is not known here.` };
    base.name = text(r['bn']) ?? base.name;
    base.unit = text(r['bu']) ?? base.unit;
    base.value = number(r['bv']) ?? base.value;
    base.time = number(r['bt']) ?? base.time;
    const name = base.name + (text(r['n']) ?? '');
    const own = number(r['v']);
    if (own === undefined && (number(r['bv']) === undefined || r['vs'] !== undefined || r['vb'] !== undefined))
      continue;
    if (!/^[A-Za-z0-9][-A-Za-z0-9:./_]*$/.test(name)) {
      return { ok: false, message: `Record ${i + 1} has no usable name (“${name.slice(0, 40)}”).` };
    }
    const time = base.time + (number(r['t']) ?? 0);
    records.push({
      name,
      unit: text(r['u']) ?? base.unit,
      value: base.value + (own ?? 0),
      atSeconds: time >= RELATIVE_BELOW ? time : null,
    });
  }
  return { ok: true, records };
}
