// The open bundle
export { figuresIn, type FigureAt } from './wire/figures-in.ts';
export {
  decodeInventory,
  INVENTORY_COLUMNS,
  inventoryCsv,
  inventoryJson,
  type InventoryColumn,
  type InventoryRow,
} from './inventory/inventory.ts';
export {
  decodeLogbook,
  LOGBOOK_COLUMNS,
  logbookSheet,
  type LogbookColumn,
  type LogbookFault,
  type LogbookRead,
  type LogbookRow,
} from './logbook/logbook-csv.ts';
export {
  decodeBundle,
  encodeBundle,
  type Bundle,
  type BundleCapture,
  type BundleEntry,
  type BundleChannel,
  type BundleLoop,
  type BundleLot,
  type BundleReadings,
  type BundleDoses,
  type BundleService,
  type BundleRun,
} from './bundle/bundle.ts';

// A lot's own table
export { decodeLotTable, type LotTable } from './lot-table/lot-table.ts';

// Recorded traces
export { decodeTrace, MAX_BYTES, MAX_ROWS, type TraceFault, type TraceResult } from './trace/trace-csv.ts';

// What devices send
export { figureOf, kindOf, pointedAt, type Pointed } from './wire/json-pointer.ts';
export {
  decodeRegisters,
  decodingsOf,
  scaleShown,
  type Decoding,
  REGISTER_TYPES,
  registersOf,
  type RegisterType,
  type WordOrder,
} from './wire/registers.ts';
export { decodeSenml, type SenmlPack, type SenmlRecord } from './wire/senml.ts';

// Records
export { eventWords } from './record/event-words.ts';
export { recordOf, type RecordOf } from './record/record.ts';
export { encodeTable, type Cell } from './table/table.ts';
export { decodeDoses, encodeDoses, type Dose, type DoseFault, type DosesResult } from './doses/doses-csv.ts';
