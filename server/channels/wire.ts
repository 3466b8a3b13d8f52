import { loopState, Refusal, valueOfCurrent, type Coefficients } from '@frustum/core';

/** Where a reading can fail, in the order in which it is had. */
export type Stage =
  | 'name'
  | 'connect'
  | 'refused'
  | 'time out'
  | 'read'
  | 'address'
  | 'decode'
  | 'range'
  | 'status'
  | 'write'
  | 'read back';

export interface WireReading {
  readonly signal: number;
  readonly temperatureC: number;
  /** the device's own clock, s; null where it has none */
  readonly clockSeconds: number | null;
  /** what came over the wire, before anything was made of it */
  readonly raw: readonly { readonly what: string; readonly value: string }[];
}

/** One way to a device: reads when asked, and lets go. */
export interface Wire {
  /** @throws Refusal `device-unreachable` or `device-fault` naming the stage that failed */
  read(): Promise<WireReading>;
  /** writes zero and slope and reads them back, where the device takes them */
  writeCoefficients?(coefficients: Coefficients): Promise<Coefficients>;
  close(): void;
}

/** What a signal may be at all: beyond it no glass electrode ever was, mV. */
const MOST_MV = 2000;

/** The sentence of a wire that failed: who, at which stage, what, and the way out. */
export function wireRefusal(where: string, stage: Stage, what: string, wayOut = WAYS_OUT[stage]): Refusal {
  const code = stage === 'status' || stage === 'range' ? 'device-fault' : 'device-unreachable';
  return new Refusal(code, `${where}, ${stage}: ${what}. ${wayOut}`, { where, stage });
}

const WAYS_OUT: Record<Stage, string> = {
  name: 'Check the name, or use the address in figures.',
  connect: 'Check plug, address and unit id.',
  refused: 'The machine is there, and nothing listens on that port: check the port.',
  'time out': 'Check plug, address and unit id.',
  read: 'Check plug, address and unit id.',
  address: 'Check the register and its table, or the path.',
  decode: 'Check type, word order and path.',
  range: 'Check scale, unit and the span.',
  status: 'Look at the device’s own message.',
  write: 'Check that the device takes it; else enter the figures by hand.',
  'read back': 'Enter the figures by hand.',
};

/** The stage at which a socket or a request failed, by the error code of the system. */
export function stageOf(error: unknown, otherwise: Stage): Stage {
  const codes = [error, (error as { cause?: unknown } | null)?.cause].map((e) => (e as { code?: string } | null)?.code);
  if (codes.some((c) => c === 'ENOTFOUND' || c === 'EAI_AGAIN' || c === 'EAI_NODATA')) return 'name';
  if (codes.includes('ECONNREFUSED')) return 'refused';
  if (codes.some((c) => c === 'ETIMEDOUT' || c === 'UND_ERR_CONNECT_TIMEOUT')) return 'time out';
  if ((error as { name?: string } | null)?.name === 'TimeoutError') return 'time out';
  return otherwise;
}

/** How a number on the wire becomes millivolts. */
export interface Scaling {
  readonly scale: number;
  readonly offset: number;
  readonly quantity?: string | undefined;
  readonly mvAt4: number;
  readonly mvAt20: number;
}

/**
 * Millivolts from the number on the wire. A current outside NE 43's measuring range is a fault, and so is a potential that
 * no electrode has: neither is ever passed on as a reading.
 *
 * @throws Refusal `device-fault`
 */
export function millivoltsOf(
  where: string,
  number: number,
  { scale, offset, quantity, mvAt4, mvAt20 }: Scaling,
): number {
  const scaled = number * scale + offset;
  if (quantity === 'mA') {
    const state = loopState(scaled);
    if (state !== 'measuring') {
      const limits = 'NE 43: a transmitter measures from 3.8 to 20.5 mA';
      throw wireRefusal(where, 'status', `${scaled.toFixed(2)} mA is ${state} (${limits})`);
    }
  }
  const mv = quantity === 'mA' ? valueOfCurrent(scaled, { at4: mvAt4, at20: mvAt20 }) : scaled;
  if (Math.abs(mv) <= MOST_MV) return mv;
  throw wireRefusal(where, 'range', `${number} on the wire is ${mv.toPrecision(4)} mV; an electrode gives ±${MOST_MV}`);
}

/** A temperature that water can have in a loop. @throws Refusal `device-fault` */
export function celsiusOf(where: string, temperatureC: number): number {
  if (temperatureC >= -10 && temperatureC <= 130) return temperatureC;
  throw wireRefusal(where, 'range', `a temperature of ${temperatureC.toPrecision(4)} °C is outside -10 to 130`);
}
