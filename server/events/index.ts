/** News between processes through PostgreSQL's own notifications: workers say what changed, pages hear of it. */
import { EventEmitter } from 'node:events';
import { sql } from 'drizzle-orm';
import pg from 'pg';
import { db } from '../database';
import { settings } from '../settings';

export interface News {
  readonly project: string;
  readonly what: 'clips' | 'imports' | 'deliveries' | 'looks' | 'references';
}
const CHANNEL = 'wabisabi';

export const tell = (news: News): Promise<unknown> => db().execute(sql`select pg_notify(${CHANNEL}, ${JSON.stringify(news)})`);

const heard = new EventEmitter().setMaxListeners(0);
let listening: Promise<pg.Client> | undefined;

async function listen(): Promise<pg.Client> {
  const client = new pg.Client({ connectionString: settings().database });
  client.on('notification', (n) => heard.emit('news', JSON.parse(n.payload ?? '{}') as News));
  client.on('error', () => {
    listening = undefined;
  });
  await client.connect();
  await client.query(`listen ${CHANNEL}`);
  return client;
}

/** Calls back with news until the returned function is called. */
export async function hear(onNews: (n: News) => void): Promise<() => void> {
  listening ??= listen();
  await listening.catch((e: unknown) => {
    listening = undefined;
    throw e;
  });
  heard.on('news', onNews);
  return () => heard.off('news', onNews);
}
