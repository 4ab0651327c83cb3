/**
 * The queues. A job may take long: what tells a dead worker's job from a slow one is that live
 * workers say every few seconds which jobs they are at (`leases`). A job that no live worker is at
 * expires, and runs again.
 */
import { type SQL, sql } from 'drizzle-orm';
import PgBoss from 'pg-boss';
import type { EncodingId, Sampling } from '../../core';
import { db, type Transaction } from '../database';
import { log } from '../config/log';
import { settings } from '../config/settings';

export interface Jobs {
  readonly import: { readonly importId: string };
  readonly chunk: { readonly chunkId: string; readonly attempt: number };
  readonly measure: {
    readonly hash: string;
    readonly encoding: EncodingId;
    readonly sampling?: Sampling | null;
  };
  readonly inspect: { readonly clipId: string; readonly of: string };
  readonly motion: { readonly hash: string; readonly from: number };
  readonly join: { readonly itemId: string; readonly attempt: number };
}
export type JobName = keyof Jobs;

/** No job of a live worker takes as long (seconds). */
const LONGEST = 6 * 3600;
/** How often a job that fails of itself is tried again. */
export const TRIES: Record<JobName, number> = {
  import: 3,
  chunk: 6,
  measure: 3,
  inspect: 3,
  motion: 3,
  join: 4,
};
/**
 * Whatever ends under a job (its worker, the database) costs it a try as well, and nobody is left
 * to say that it was the last: the queue itself has no such limit.
 */
const OFTEN = 10_000;
const again = (retryDelay: number): PgBoss.SendOptions => ({
  expireInSeconds: LONGEST,
  retryLimit: OFTEN,
  retryDelay,
});
const OPTIONS: Record<JobName, PgBoss.SendOptions> = {
  import: again(2),
  chunk: again(1),
  measure: again(2),
  inspect: again(2),
  motion: again(2),
  join: again(1),
};
/** What people are told, and how soon (seconds) what found no room on the disk is tried again. */
export const DISK_FULL = 'the disk is full: make room on it, and this goes on by itself',
  ROOM_AGAIN = 10;
export const JOB_NAMES = Object.keys(OPTIONS) as JobName[];

let boss: Promise<PgBoss> | undefined;

async function start(): Promise<PgBoss> {
  const b = new PgBoss({
    connectionString: settings().database,
    maintenanceIntervalSeconds: 5,
    monitorStateIntervalSeconds: 30,
    schedule: false,
    max: 6,
  });
  b.on('error', (e) => log.error({ err: e }, 'the queue failed'));
  await b.start();
  for (const name of JOB_NAMES) await b.createQueue(name);
  return b;
}
export const queue = (): Promise<PgBoss> =>
  (boss ??= start().catch((e: unknown) => {
    boss = undefined;
    throw e;
  }));

/** A statement with numbered parameters, as one of ours. */
const asSql = (text: string, values: readonly unknown[]): SQL =>
  sql.join(
    text
      .split(/\$(\d+)/)
      .map((part, i) =>
        i % 2 === 0 ? sql.raw(part) : sql`${sql.param(values[Number(part) - 1])}`,
      ),
  );

/** Whether a job by that key waits or is under way: the queue itself lets keys stand twice. */
async function isWanted(name: JobName, key: string, on: Pick<Transaction, 'execute'>) {
  const { rows } = await on.execute(sql`
    select 1 from pgboss.job
    where name = ${name} and singleton_key = ${key} and state in ('created', 'retry', 'active')
    limit 1`);
  return rows.length > 0;
}

/**
 * Sends jobs; inside a transaction they are there exactly if it succeeds. With a `singletonKey`
 * nothing is sent while a job by that key waits or is under way.
 */
export async function send<N extends JobName>(
  name: N,
  jobs: readonly Jobs[N][],
  more: PgBoss.SendOptions = {},
  tx?: Transaction,
): Promise<void> {
  const b = await queue(),
    { singletonKey: key } = more;
  if (key !== undefined && (await isWanted(name, key, tx ?? db()))) return;
  const within = tx && {
    db: {
      executeSql: async (text: string, values: unknown[]) => ({
        rows: (await tx.execute(asSql(text, values))).rows,
      }),
    },
  };
  for (const data of jobs) await b.send(name, data, { ...OPTIONS[name], ...more, ...within });
}
export async function stopQueue(): Promise<void> {
  await (await boss)?.stop({ graceful: false, wait: true });
  boss = undefined;
}
