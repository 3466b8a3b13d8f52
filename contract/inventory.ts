import { object, string, type InferType } from 'yup';

export const MAX_INVENTORY_ROWS = 2000;
/** What one request may carry. */
const MAX_CHARACTERS = 1_500_000;

/** Loops and sensors as CSV or JSON: see `decodeInventory` for its columns. */
export const inventorySchema = object({
  text: string()
    .required('The file is empty. Take the inventory of this house as an example.')
    .max(MAX_CHARACTERS, 'The file has more than 1.5 million characters. Cut it into parts.'),
}).noUnknown();
export type Inventory = InferType<typeof inventorySchema>;

/** What one row would do, or has done. */
export interface InventoryStep {
  readonly line: number;
  /** the loop, or the sensor on the shelf */
  readonly name: string;
  readonly what: 'added' | 'changed' | 'same';
  readonly of: 'loop' | 'sensor';
  /** what becomes another, in words of the columns */
  readonly fields: readonly string[];
}

/** What an inventory gives, and what in it cannot be used: then nothing of it is kept. */
export interface InventoryView {
  readonly steps: readonly InventoryStep[];
  readonly faults: readonly { readonly line: number; readonly column: number; readonly message: string }[];
  readonly faultCount: number;
  readonly kept: boolean;
}
