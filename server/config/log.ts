/** What the server's processes write of their work: a line of JSON each, on standard error. */
import { pino } from 'pino';
import { settled } from './settings';

/** `WABISABI_LOG` says from which level on: fatal, error, warn, info, debug, trace or silent. */
export const log = pino(
  { level: settled().WABISABI_LOG, base: { pid: process.pid } },
  pino.destination({ dest: 2, sync: true }),
);
