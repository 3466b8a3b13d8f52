import { Refusal, requireWithin } from '../quantities/refusal.ts';

/** Cell constants from ultra-pure to sea, /cm. */
const CELL_RANGE = { low: 0.001, high: 100 } as const;

const cell = (constantPerCm: number) =>
  requireWithin(constantPerCm, CELL_RANGE.low, CELL_RANGE.high, 'cell constant', '/cm', 'It is printed on the cell.');

function above0(value: number, what: string, unit: string): number {
  requireWithin(value, 0, 1e12, what, unit, 'Check figure and unit.');
  // Less than this is nothing, on any instrument.
  if (value > 1e-12) return value;
  throw new Refusal('out-of-range', `${what} 0 ${unit} needs no box: an open or a shorted input. Enter more than 0.`, {
    value,
    low: 0,
  });
}

/**
 * Box that stands for a resistivity: R = K·ρ.
 *
 * @param resistivityMohmCm MΩ·cm, as the transmitter is to show it uncompensated
 * @param cellConstantPerCm /cm
 * @returns Ω
 * @throws Refusal `out-of-range`
 * @example boxForResistivity(18, 0.01) // 180000
 */
export function boxForResistivity(resistivityMohmCm: number, cellConstantPerCm: number): number {
  return cell(cellConstantPerCm) * above0(resistivityMohmCm, 'resistivity', 'MΩ·cm') * 1e6;
}

/**
 * Resistivity that a box stands for.
 *
 * @returns MΩ·cm
 * @example resistivityOfBox(180000, 0.01) // 18
 */
export function resistivityOfBox(ohms: number, cellConstantPerCm: number): number {
  return above0(ohms, 'resistance', 'Ω') / cell(cellConstantPerCm) / 1e6;
}

/**
 * Box that stands for a conductivity: R = K/κ.
 *
 * @param conductivityUsPerCm at the simulated temperature, uncompensated, µS/cm
 * @returns Ω
 * @example boxForConductivity(1413, 1) // 707.7
 */
export function boxForConductivity(conductivityUsPerCm: number, cellConstantPerCm: number): number {
  return (1e6 * cell(cellConstantPerCm)) / above0(conductivityUsPerCm, 'conductivity', 'µS/cm');
}

/**
 * Conductivity that a box stands for.
 *
 * @returns µS/cm
 * @example conductivityOfBox(1000, 0.1) // 100
 */
export function conductivityOfBox(ohms: number, cellConstantPerCm: number): number {
  return (1e6 * cell(cellConstantPerCm)) / above0(ohms, 'resistance', 'Ω');
}

/**
 * Cell constant from a standard and the conductance found in it: K = κ/G.
 *
 * @param standardUsPerCm at the temperature of the cup, µS/cm
 * @param conductanceUs µS
 * @returns /cm
 * @throws Refusal `out-of-range`, also for a constant that no cell has
 * @example cellConstantFrom(1413, 1413) // 1
 */
export function cellConstantFrom(standardUsPerCm: number, conductanceUs: number): number {
  const k =
    above0(standardUsPerCm, 'the standard’s conductivity', 'µS/cm') / above0(conductanceUs, 'conductance', 'µS');
  return requireWithin(k, CELL_RANGE.low, CELL_RANGE.high, 'cell constant', '/cm', 'Check both units: µS/cm and µS.');
}
