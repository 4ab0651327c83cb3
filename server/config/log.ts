/** The log of the server's processes: one JSON line per entry, on standard error. */
import { pino } from 'pino';
import { settled } from './settings';

/** The logger. `WABISABI_LOG` sets the level: fatal, error, warn, info, debug, trace or silent. */
export const log = pino(
  { level: settled().WABISABI_LOG, base: { pid: process.pid } },
  pino.destination({ dest: 2, sync: true }),
);
