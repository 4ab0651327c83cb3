/**
 * News between processes through PostgreSQL's own notifications: workers say what changed, pages
 * hear of it.
 */
import { EventEmitter } from 'node:events';
import { setTimeout as pause } from 'node:timers/promises';
import { sql } from 'drizzle-orm';
import pg from 'pg';
import { db } from '../database';
import { settings } from '../config/settings';

export interface AppEvent {
  readonly project: string;
  readonly what: 'clips' | 'imports' | 'deliveries' | 'looks' | 'references';
}
/** What a listener hears: news, and when news can be missed. */
export interface Listener {
  readonly onEvent: (n: AppEvent) => void;
  /** The database is away, or there again: what changed between is for the listener to find out. */
  readonly onState: (there: boolean) => void;
}
const CHANNEL = 'wabisabi';

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

/** Pauses between attempts to reach the database, in milliseconds: each twice the one before. */
const FIRST_PAUSE = 200,
  LONGEST_PAUSE = 3000;

/** Listens for as long as the process lives; when the database goes, until it is there again. */
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
      // It is not there yet: the next attempt comes.
    }
    setThere(false);
    await client.end().catch(() => {});
    await pause(wait);
  }
}

/** Calls back until the returned function is called. */
export function subscribe({ onEvent, onState }: Listener): () => void {
  listening ??= listen();
  emitter.on('news', onEvent).on('state', onState);
  return () => emitter.off('news', onEvent).off('state', onState);
}
