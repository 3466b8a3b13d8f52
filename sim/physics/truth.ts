import type { ElectrodeTruth } from './electrode.ts';
import type { OxygenTruth } from './oxygen.ts';
import { FRESH_REFERENCE, type ReferenceTruth } from './reference.ts';

/** A contacting conductivity cell. */
export interface CellTruth {
  /** conductance shown for what is there: nominal over real cell constant */
  readonly gain: number;
  /** nominal cell constant, /cm */
  readonly constant: number;
  /** share of the plates that scale covers */
  readonly scaled: number;
  /** conductance of the film that is left after a shake, µS; it dries */
  readonly filmUs: number;
  /** more than this cannot be shown, µS */
  readonly mostUs: number;
  /** the channel shows so many times what it should: another scale; 1 when absent */
  readonly scale?: number;
  /** and corrects by so much too much for every °C from 25; 0 when absent */
  readonly overPerC?: number;
}

interface ThermometerTruth {
  readonly offsetC: number;
  /** stands somewhere else, at this temperature; null = in the same cup */
  readonly elsewhereC: number | null;
}

/** What the lead, the plug and the input add. */
interface InputTruth {
  /** amplitude of mains hum, mV */
  readonly humMv: number;
  /** potential of the water against earth, mV: only where the water touches the plant */
  readonly strayMv: number;
  /** restlessness in water that hardly conducts, mV */
  readonly staticMv: number;
  /** insulation of plug and lead, MΩ: moisture lowers it */
  readonly insulationMohm: number;
  /** the cable is pulled */
  readonly pulled: boolean;
  /** offset of the amplifier, mV */
  readonly offsetMv: number;
  /** plus and minus are exchanged */
  readonly turned?: boolean;
}

/** Amperometric chlorine behind a membrane. */
interface ChlorineTruth {
  readonly zeroNa: number;
  /** nA for one mg/L at pH 7, 25 °C and full flow */
  readonly slopeNa: number;
  /** flow at the membrane, L/h; nothing flows in a pipe that is shut */
  readonly flow: number;
}

/** Nitrate by ultraviolet light, shown as N. */
interface OpticsTruth {
  readonly zero: number;
  readonly gain: number;
  /** share of the light that film on the windows takes */
  readonly dirt: number;
  /** light from outside: what an unshaded cup adds, mg/L */
  readonly straylight: number;
}

/** All that can be right or wrong with a body and its sensors. Faults turn one of these into another. */
export interface BodyTruth {
  readonly reference: ReferenceTruth;
  readonly electrodes: Readonly<Record<string, ElectrodeTruth>>;
  readonly cell: CellTruth | null;
  readonly chlorine: ChlorineTruth | null;
  readonly optics: OpticsTruth | null;
  readonly oxygen: OxygenTruth | null;
  readonly thermometer: ThermometerTruth;
  readonly input: InputTruth;
  /** the wetting cap is still on: no cup reaches the membrane */
  readonly capped: boolean;
  /** the membrane has run dry, 0 to 1 */
  readonly dry: number;
  /** a bubble on membrane or plates that does not leave by itself, 0 to 1 */
  readonly bubble: number;
  /** share of the last liquid that clings when nothing was rinsed, on top of the usual */
  readonly sticky: number;
  /** what is poured is not what the label says: pH, mV of a redox standard, and share that it is off by */
  readonly lotOffPh: number;
  readonly lotOffMv: number;
  readonly lotShare: number;
  /** cups stand this much warmer than the room, °C */
  readonly cupsOffC: number;
  /** a real move of the process, pH */
  readonly processOffPh: number;
}

export const NO_INPUT_TROUBLE: InputTruth = {
  humMv: 0,
  strayMv: 0,
  staticMv: 1.5,
  insulationMohm: Infinity,
  pulled: false,
  offsetMv: 0,
};

/** A body with nothing wrong and no sensors: add them. */
export const BARE_BODY: BodyTruth = {
  reference: FRESH_REFERENCE,
  electrodes: {},
  cell: null,
  chlorine: null,
  optics: null,
  oxygen: null,
  thermometer: { offsetC: 0, elsewhereC: null },
  input: NO_INPUT_TROUBLE,
  capped: false,
  dry: 0,
  bubble: 0,
  sticky: 0,
  lotOffPh: 0,
  lotOffMv: 0,
  lotShare: 1,
  cupsOffC: 0,
  processOffPh: 0,
};
