import type { LogIn, LogIns } from '../../config/log-ins.ts';
import { SIGNALS, type ChannelConfig, type Impedance, type SignalUnit } from '@frustum/contract';
import { celsius, loopState, Refusal, valueOfCurrent, type Coefficients } from '@frustum/core';
import { figureOf, kindOf, pointedAt } from '@frustum/formats';

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
  readonly unit: SignalUnit;
  readonly temperatureC: number;
  readonly impedance?: Impedance;
  /** the device's own clock, s; null where it has none */
  readonly clockSeconds: number | null;
  /** of a buffered channel: what came with it, older, in the order in which it came */
  readonly earlier?: readonly WireReading[];
  /** what came over the wire, before anything was made of it */
  readonly raw: readonly { readonly what: string; readonly value: string }[];
}

/** A figure that a device has to offer. */
export interface Place {
  readonly label: string;
  readonly value: number;
  /** by which scale it is what a display shows; null where it is not, and where nothing was said */
  readonly fits: number | null;
  /** settings of the channel that lead there */
  readonly settings: Readonly<Record<string, string>>;
}

/** One way to a device: reads when asked, and lets go. */
export interface Wire {
  /** @throws Refusal `device-unreachable` or `device-fault` naming the stage that failed */
  read(): Promise<WireReading>;
  /**
   * every figure that the device has to offer, where that can be asked
   *
   * @param shows what its display shows just now; null = nobody has said
   */
  survey?(shows: number | null): Promise<readonly Place[]>;
  /** writes zero and slope and reads them back, where the device takes them */
  writeCoefficients?(coefficients: Coefficients): Promise<Coefficients>;
  close(): void;
}

/** The sentence of a wire that failed: who, at which stage, what, and the way out. */
export function wireRefusal(where: string, stage: Stage, what: string, wayOut = WAYS_OUT[stage]): Refusal {
  const code = stage === 'status' || stage === 'range' ? 'device-fault' : 'device-unreachable';
  return new Refusal(code, `${where}, ${stage}: ${withMinus(what)}. ${wayOut}`, { where, stage });
}

/** Figures in a sentence have a real minus sign; names keep their hyphens. */
export const withMinus = (words: string): string => words.replace(/(?<![\w.:/-])-(?=\d)/g, '−');

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

/** The channels that are scaled by what the operator gave. */
export type Scaled = Exclude<ChannelConfig, { kind: 'hand' | 'modbus' }>;

/**
 * The signal from the number on the wire. A current outside NE 43's measuring range is a fault, and so is a figure that no
 * sensor of the kind gives, or that lies outside the channel's own range: none is ever passed on as a reading.
 *
 * @throws Refusal `device-fault`
 */
export function signalOf(where: string, number: number, config: Scaled): { signal: number; unit: SignalUnit } {
  const { scale, offset, quantity, at4, at20 } = config;
  const scaled = number * scale + offset;
  if (quantity !== 'mA') return { signal: checked(where, number, scaled, quantity, config), unit: quantity };
  const state = loopState(scaled);
  if (state !== 'measuring') {
    const limits = 'NE 43: a transmitter measures from 3.8 to 20.5 mA';
    throw wireRefusal(where, 'status', `${scaled.toFixed(2)} mA is ${state} (${limits})`);
  }
  const signal = valueOfCurrent(scaled, { at4, at20 });
  return { signal: checked(where, number, signal, config.spanUnit, config), unit: config.spanUnit };
}

/** The range of a channel, and of anything of its kind. @throws Refusal `device-fault` */
export function checked(
  where: string,
  number: number,
  signal: number,
  unit: SignalUnit,
  { rangeLow, rangeHigh }: { readonly rangeLow: number | null; readonly rangeHigh: number | null },
): number {
  const { low, high } = SIGNALS[unit];
  const shown = `${number} on the wire is ${Number(signal.toPrecision(5))} ${unit}`;
  if (!(signal >= low && signal <= high))
    throw wireRefusal(where, 'range', `${shown}; nothing of the kind is below ${low} or above ${high}`);
  if ((rangeLow !== null && signal < rangeLow) || (rangeHigh !== null && signal > rangeHigh)) {
    const range = `${rangeLow ?? 'anything'} to ${rangeHigh ?? 'anything'} ${unit}`;
    throw wireRefusal(where, 'range', `${shown}; this channel goes from ${range}`);
  }
  return signal;
}

/** A temperature that water can have in a loop. @throws Refusal `device-fault` */
export function celsiusOf(where: string, temperatureC: number): number {
  if (temperatureC >= -10 && temperatureC <= 130) return temperatureC;
  throw wireRefusal(where, 'range', `a temperature of ${temperatureC.toPrecision(4)} °C is outside -10 to 130`);
}

/** A figure in a message: its value, null for none, and how it stood there. */
interface Found {
  readonly value: number | null;
  readonly shown: string;
}

/**
 * A reading out of a message with two paths, whatever the message is.
 *
 * @param ownSeconds when the message says that it was taken, s since 1970; null = it does not
 * @param find a path's figure; throws a refusal of stage `address` where the path leads nowhere
 */
export function readingOf(
  where: string,
  config: Extract<ChannelConfig, { kind: 'http-json' | 'mqtt' }>,
  find: (path: string) => Found,
  ownSeconds: number | null = null,
): WireReading {
  const raw: { what: string; value: string }[] = [];
  const number = (what: string, path: string) => {
    const { value, shown } = find(path);
    raw.push({ what: `${what}, ${path || 'the whole message'}`, value: shown });
    if (value === null) throw wireRefusal(where, 'decode', `${path || 'the message'} is ${shown}, no figure`);
    return value;
  };
  const signal = number('signal', config.pointer);
  const degrees = config.temperaturePointer == null ? null : number('temperature', config.temperaturePointer);
  const own = degrees !== null && config.temperatureUnit === '°F' ? celsius(degrees) : degrees;
  return {
    ...signalOf(where, signal, config),
    temperatureC: celsiusOf(where, own ?? config.fixedC ?? 25),
    clockSeconds: config.clockPointer ? number('clock', config.clockPointer) : ownSeconds,
    raw,
  };
}

/** A path's figure in a JSON document, by RFC 6901. @throws Refusal of stage `address` */
export function jsonFinder(where: string, document: unknown): (path: string) => Found {
  return (path) => {
    const found = pointedAt(document, path);
    if (!found.ok) throw wireRefusal(where, 'address', found.message.replace(/\.$/, ''));
    const value = figureOf(found.value);
    return { value, shown: value === null ? kindOf(found.value) : String(value) };
  };
}

/**
 * The log-in of a channel, none for ''. Anybody who reaches the page can set up a channel, so a file that only the server's
 * owner writes says where each password may go.
 *
 * @param where host and port that it would be sent to
 * @throws Refusal of stage `connect` when the server keeps none of that name, or for another destination
 */
export function logInOf(where: string, logIns: LogIns, name: string): Pick<LogIn, 'username' | 'password'> | null {
  if (!name) return null;
  const refuse = (what: string, wayOut: string) => wireRefusal(where, 'connect', what, wayOut);
  let known: LogIn | null;
  try {
    known = logIns(name);
  } catch (error) {
    // The file itself says what is wrong with it.
    if (error instanceof Refusal) throw refuse(error.message.replace(/\. Mend .*$/, ''), 'Mend it in the data folder.');
    throw error;
  }
  if (!known) throw refuse(`the server keeps no log-in “${name}”`, 'Enter it in Set-up, Log-ins of devices.');
  const { username, password, to } = known;
  if (to === undefined)
    throw refuse(
      `log-in “${name}” does not say where it belongs`,
      `Enter it anew in Set-up, Log-ins of devices, for ${where}.`,
    );
  if (to.toLowerCase() !== where.toLowerCase())
    throw refuse(
      `log-in “${name}” belongs to another host or port, and is not sent here`,
      'Give this one a log-in of its own.',
    );
  return { username, password };
}
