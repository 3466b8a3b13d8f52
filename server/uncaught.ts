import type { Logger } from 'pino';

/** Errors that nobody caught: after so many it is better to begin anew as a whole. */
const MAX_UNCAUGHT = 20;

/**
 * What to do when an error was caught by nobody: a device may bring a library to throw in a handler of its own. It is logged
 * and counted, and every wire begins anew; the house goes on.
 *
 * @param restart opens every wire anew
 * @param giveUp ends the process, so that its supervisor starts it again
 */
export function survivor(
  log: Pick<Logger, 'error'>,
  restart: () => void,
  giveUp: () => void,
): (error: unknown) => void {
  let count = 0;
  return (error) => {
    log.error({ error, count: ++count }, 'an error that nobody caught: all channels are read anew');
    if (count > MAX_UNCAUGHT) giveUp();
    else restart();
  };
}
