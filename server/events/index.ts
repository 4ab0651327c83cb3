/**
 * Events between processes through PostgreSQL's notifications: workers publish changes, pages
 * receive them.
 */
import { EventEmitter } from 'node:events';
import { setTimeout as pause } from 'node:timers/promises';
import { sql } from 'drizzle-orm';
import pg from 'pg';
import { db } from '../database';
import { settings } from '../config/settings';

/** Something in a project changed; in all of them where there is none. */
export interface AppEvent {
  readonly project: string | null;
  readonly what: 'clips' | 'imports' | 'deliveries' | 'looks' | 'references' | 'cut';
}
/** Receives events, and learns when events may be lost. */
export interface Listener {
  readonly onEvent: (n: AppEvent) => void;
  /** The connection was lost or restored. Listeners must refetch afterwards. */
  readonly onState: (there: boolean) => void;
}
const CHANNEL = 'wabisabi';

/** Publishes an event. */
export const notify = (news: AppEvent): Promise<unknown> =>
  db().execute(sql`select pg_notify(${CHANNEL}, ${JSON.stringify(news)})`);

const emitter = new EventEmitter().setMaxListeners(0);
let listening: Promise<never> | undefined;
let there = false;
const setThere = (now: boolean): void => {
  if (there === now) return;
  there = now;
  emitter.emit('state', now);
};

/** Pauses between attempts to connect, ms; doubled each time. */
const FIRST_PAUSE = 200,
  LONGEST_PAUSE = 3000;

/** Listens for the life of the process; reconnects when the database goes away. */
async function listen(): Promise<never> {
  for (let wait = FIRST_PAUSE; ; wait = Math.min(LONGEST_PAUSE, wait * 2)) {
    const client = new pg.Client({ connectionString: settings().database, keepAlive: true });
    const lost = new Promise<void>((resolve) => {
      client.once('error', () => resolve());
      client.once('end', () => resolve());
    });
    client.on('notification', (n) =>
      emitter.emit('news', JSON.parse(n.payload ?? '{}') as AppEvent),
    );
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
      setThere(true);
      wait = FIRST_PAUSE;
      await lost;
    } catch {
      // Not available yet; try again.
    }
    setThere(false);
    await client.end().catch(() => {});
    await pause(wait);
  }
}

/** Calls the listener until the returned function is called. */
export function subscribe({ onEvent, onState }: Listener): () => void {
  listening ??= listen();
  emitter.on('news', onEvent).on('state', onState);
  return () => emitter.off('news', onEvent).off('state', onState);
}
