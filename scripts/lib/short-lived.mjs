/**
 * Flags for a process that opens the database and ends soon, as in a test: the database is compiled when and as quickly as it
 * is asked for, never a second time into faster code. An opening costs half of the processor's time, a busy hour more of it.
 */
export const SHORT_LIVED = ['--liftoff-only', '--wasm-lazy-compilation'];
