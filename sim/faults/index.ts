import { ELECTROLYTE_DILUTED } from './electrolyte-diluted.ts';
import { REFERENCE_CONTAMINATED } from './reference-contaminated.ts';
import { JUNCTION_BLOCKED } from './junction-blocked.ts';
import { GLASS_AGED } from './glass-aged.ts';
import { GLASS_COATED } from './glass-coated.ts';
import { GLASS_CRACKED } from './glass-cracked.ts';
import { MOIST_CONNECTOR } from './moist-connector.ts';
import { BUBBLE } from './bubble.ts';
import { DRY_TIP } from './dry-tip.ts';
import { CAP_ON } from './cap-on.ts';
import { CARRY_OVER } from './carry-over.ts';
import { BAD_LOT } from './bad-lot.ts';
import { THERMOMETER_OFF } from './thermometer-off.ts';
import { THERMOMETER_ELSEWHERE } from './thermometer-elsewhere.ts';
import { CUPS_COLD } from './cups-cold.ts';
import { STRAY_VOLTAGE } from './stray-voltage.ts';
import { MAINS_HUM } from './mains-hum.ts';
import { STATIC } from './static.ts';
import { CABLE_PULLED } from './cable-pulled.ts';
import { WORN_ION_TIP } from './worn-ion-tip.ts';
import { SCALED_CELL } from './scaled-cell.ts';
import { WET_CELL } from './wet-cell.ts';
import { WRONG_RANGE } from './wrong-range.ts';
import { DIRTY_WINDOW } from './dirty-window.ts';
import { LOW_FLOW } from './low-flow.ts';
import { CAP_FADED } from './cap-faded.ts';
import { MEMBRANE_FOULED } from './membrane-fouled.ts';
import { MEMBRANE_TORN } from './membrane-torn.ts';
import { POLES_EXCHANGED } from './poles-exchanged.ts';
import { ANOTHER_SCALE } from './another-scale.ts';
import { ANOTHER_COEFFICIENT } from './another-coefficient.ts';
import { PROCESS_MOVED } from './process-moved.ts';
import type { Fault } from '../physics/fault.ts';

export { faulty, type Fault, type Switched } from '../physics/fault.ts';

/** Every named fault of a body. A new one is a file here and a line in this list. */
export const FAULTS: readonly Fault[] = [
  ELECTROLYTE_DILUTED,
  REFERENCE_CONTAMINATED,
  JUNCTION_BLOCKED,
  GLASS_AGED,
  GLASS_COATED,
  GLASS_CRACKED,
  MOIST_CONNECTOR,
  BUBBLE,
  DRY_TIP,
  CAP_ON,
  CARRY_OVER,
  BAD_LOT,
  THERMOMETER_OFF,
  THERMOMETER_ELSEWHERE,
  CUPS_COLD,
  STRAY_VOLTAGE,
  MAINS_HUM,
  STATIC,
  CABLE_PULLED,
  WORN_ION_TIP,
  SCALED_CELL,
  WET_CELL,
  WRONG_RANGE,
  DIRTY_WINDOW,
  LOW_FLOW,
  CAP_FADED,
  MEMBRANE_FOULED,
  MEMBRANE_TORN,
  PROCESS_MOVED,
  POLES_EXCHANGED,
  ANOTHER_SCALE,
  ANOTHER_COEFFICIENT,
];
