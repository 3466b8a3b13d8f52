import type { PgliteDatabase } from 'drizzle-orm/pglite';
import type * as schema from './schema/index.ts';

export type Database = PgliteDatabase<typeof schema>;
/** Writers take this: they exist only inside a transaction. */
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];
/** Readers take either. */
export type Reader = Database | Transaction;
