import type { ConditionName } from '@frustum/core';

/**
 * The open bundle: sites, sensors, lots and runs as measured, with their traces. What it does *not* hold is anything
 * computed: the reader works out zero, slope and verdict anew.
 */
export interface Bundle {
  readonly format: 'frustum-bundle';
  readonly version: 2;
  readonly site: { readonly name: string; readonly timeZone: string };
  readonly loops: readonly BundleLoop[];
  readonly lots: readonly BundleLot[];
  readonly runs: readonly BundleRun[];
  /** what the channels gave between the runs */
  readonly readings?: readonly BundleReadings[];
  /** what was done to the sensors outside of the runs */
  readonly services?: readonly BundleService[];
  /** what was dosed into the water of a loop */
  readonly doses?: readonly BundleDoses[];
}

export interface BundleReadings {
  readonly loop: string;
  /** ISO 8601 UTC of the first */
  readonly from: string;
  readonly stepSeconds: number;
  /** [signal, °C], null where there was none */
  readonly values: readonly (readonly [number, number] | null)[];
}

export interface BundleService {
  readonly loop: string;
  readonly at: string;
  readonly kind: 'cleaned' | 'refilled' | 'plug dried' | 'tip replaced' | 'stored dry' | 'other';
  readonly note: string;
  readonly by: string;
}

export interface BundleDoses {
  readonly loop: string;
  readonly what: string;
  readonly unit: 'mL' | 'L' | 'mg' | 'g' | 'kg' | 's' | 'min';
  /** [ISO 8601 UTC, amount] */
  readonly given: readonly (readonly [string, number])[];
}

export interface BundleLoop {
  readonly key: string;
  readonly name: string;
  readonly place: string;
  readonly family: string;
  /** what the arithmetic must know of the sensor */
  readonly settings?: Readonly<Record<string, number | string>>;
  /** which loops show conditions of this one, by their keys */
  readonly takes?: Readonly<Partial<Record<ConditionName, string>>>;
  /** in the family's unit, as is the tolerance */
  readonly workingValue: number;
  readonly workingC: number;
  readonly tolerance: number;
  readonly intervalDays: number;
  /** what decides the next date; absent = the calendar */
  readonly dueBy?: 'calendar' | 'forecast';
  /** what the loop controls, '' for nothing, and what that does to the value */
  readonly controls: string;
  readonly controlAction?: 'raises' | 'lowers';
  /** its output is held so long at most before somebody is told, min; absent = 60 */
  readonly holdMinutes?: number;
  /** loops of one name share a reference electrode */
  readonly referenceGroup?: string;
  /** the loop that this one stands in for, by its key */
  readonly backupOf?: string;
  readonly surroundings?: readonly ('pressurised' | 'stocked' | 'high-purity')[];
  readonly sensor: { readonly name: string; readonly serial: string; readonly fittedOn: string };
  /** nominal values of the points in their usual order, by standard id */
  readonly pointSet: readonly string[];
  readonly channel: BundleChannel;
}

/** The channel as the set-up keeps it; what is not said is the usual. */
export type BundleChannel =
  | { readonly kind: 'hand' | 'modbus-map' | 'http-json' | 'mqtt'; readonly [setting: string]: unknown }
  | {
      readonly kind: 'modbus';
      readonly host: string;
      readonly port: number;
      readonly unitId: number;
      /** address of the first of this probe's registers */
      readonly baseAddress: number;
      /** the device measures impedances too */
      readonly impedance?: boolean;
    };

export interface BundleLot {
  readonly key: string;
  readonly standardId: string;
  readonly label: string;
  /** ISO date */
  readonly expiresOn: string;
  readonly openedOn: string | null;
}

export interface BundleRun {
  readonly loop: string;
  /** ISO 8601 UTC */
  readonly startedAt: string;
  readonly by: string;
  readonly passes: readonly (readonly BundleCapture[])[];
  /** a value from elsewhere that it was held against instead of standards; then there is one pass of one capture */
  readonly entry?: BundleEntry;
}

export type BundleEntry =
  | {
      readonly kind: 'sample';
      readonly value: number;
      readonly unit: string;
      /** k = 2, same unit */
      readonly plusMinus: number;
      readonly temperatureC: number;
    }
  /** °C, both of the same accuracy */
  | { readonly kind: 'thermometers'; readonly readings: readonly number[]; readonly plusMinus: number };

export interface BundleCapture {
  readonly standardId: string;
  readonly lot: string;
  /** [seconds, signal, °C] since the probe came into the cup */
  readonly samples: readonly (readonly [number, number, number])[];
}

/**
 * Reads a bundle's text.
 *
 * @throws SyntaxError on anything that is not JSON of this format and version; the sentence names what was found
 */
export function decodeBundle(text: string): Bundle {
  const value: unknown = JSON.parse(text);
  const head = value as { format?: unknown; version?: unknown } | null;
  if (head?.format !== 'frustum-bundle')
    throw new SyntaxError('This file is not a Frustum bundle: “format” is missing.');
  if (head.version !== 2) {
    throw new SyntaxError(`This bundle is of version ${String(head.version)}; this Frustum reads version 2.`);
  }
  return value as Bundle;
}

export function encodeBundle(bundle: Bundle): string {
  return JSON.stringify(bundle);
}
