// The open bundle
export {
  decodeBundle,
  encodeBundle,
  type Bundle,
  type BundleCapture,
  type BundleChannel,
  type BundleLoop,
  type BundleLot,
  type BundleRun,
} from './bundle/bundle.ts';

// A lot's own table
export { decodeLotTable, type LotTable } from './lot-table/lot-table.ts';

// Recorded traces
export { decodeTrace, MOST_BYTES, MOST_ROWS, type TraceFault, type TraceResult } from './trace/trace-csv.ts';
