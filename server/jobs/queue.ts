/**
 * The job queues. Jobs may take long, so a dead worker's job is told from a slow one by the reports
 * of live workers (`leases`). A job that no live worker reports expires and runs again.
 */
import { type SQL, sql } from 'drizzle-orm';
import PgBoss from 'pg-boss';
import type { EncodingId, FrameAssetId, Sampling } from '../../core';
import { db, type Transaction } from '../database';
import { log } from '../config/log';
import { QUEUE_CONNECTIONS, settings } from '../config/settings';

/** Data of the jobs, by queue. */
export interface Jobs {
  readonly import: { readonly importId: string };
  readonly chunk: {
    readonly chunkId: string;
    readonly attempt: number;
    /** For baking. */
    readonly ahead?: boolean;
  };
  readonly measure: {
    readonly hash: string;
    readonly encoding: EncodingId;
    readonly sampling?: Sampling | null;
  };
  readonly inspect: { readonly clipId: string; readonly of: string };
  readonly asset: { readonly hash: string; readonly asset: FrameAssetId; readonly from: number };
  /** Follows all traces of the footage that wait for it. */
  readonly track: { readonly hash: string };
  readonly join: { readonly itemId: string; readonly attempt: number };
}
/** Name of a queue. */
export type JobName = keyof Jobs;

/** Longest duration of a job, seconds. */
const LONGEST = 6 * 3600;
/** Number of retries for jobs that fail by themselves. */
export const TRIES: Record<JobName, number> = {
  import: 3,
  chunk: 6,
  measure: 3,
  inspect: 3,
  asset: 3,
  track: 3,
  join: 4,
};
/**
 * The queue's own limit of retries is practically none: a worker's or the database's end also costs
 * one, and nobody would be left to report the last.
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
  asset: again(2),
  track: again(2),
  join: again(1),
};
/** Message about a full disk, and the delay before another try, seconds. */
export const DISK_FULL = 'the disk is full: make room on it, and this goes on by itself',
  ROOM_AGAIN = 10;
/** Jobs in one statement. */
const MOST_AT_ONCE = 2000;
/** Names of all queues. */
export const JOB_NAMES = Object.keys(OPTIONS) as JobName[];

let boss: Promise<PgBoss> | undefined;

async function start(): Promise<PgBoss> {
  const b = new PgBoss({
    connectionString: settings().database,
    maintenanceIntervalSeconds: 5,
    monitorStateIntervalSeconds: 30,
    schedule: false,
    max: QUEUE_CONNECTIONS,
  });
  b.on('error', (e) => log.error({ err: e }, 'the queue failed'));
  await b.start();
  for (const name of JOB_NAMES) await b.createQueue(name);
  return b;
}
/** The queue, started on first use. */
export const queue = (): Promise<PgBoss> =>
  (boss ??= start().catch((e: unknown) => {
    boss = undefined;
    throw e;
  }));

/** A statement with numbered parameters as a Drizzle query. */
const asSql = (text: string, values: readonly unknown[]): SQL =>
  sql.join(
    text
      .split(/\$(\d+)/)
      .map((part, i) =>
        i % 2 === 0 ? sql.raw(part) : sql`${sql.param(values[Number(part) - 1])}`,
      ),
  );

/** Whether a job with this key waits or runs; the queue itself does not ensure unique keys. */
async function isWanted(name: JobName, key: string, on: Pick<Transaction, 'execute'>) {
  const { rows } = await on.execute(sql`
    select 1 from pgboss.job
    where name = ${name} and singleton_key = ${key} and state in ('created', 'retry', 'active')
    limit 1`);
  return rows.length > 0;
}

/**
 * Sends jobs; inside a transaction they exist only if it commits. With a `singletonKey` nothing is
 * sent while a job with that key waits or runs. `inTurn`: each is less urgent than the one before;
 * without it jobs that are sent together run in any order.
 */
export async function send<N extends JobName>(
  name: N,
  jobs: readonly Jobs[N][],
  { inTurn, ...more }: PgBoss.SendOptions & { readonly inTurn?: boolean } = {},
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
  for (let at = 0; at < jobs.length; at += MOST_AT_ONCE) {
    const some = jobs.slice(at, at + MOST_AT_ONCE);
    const urgency = (i: number): PgBoss.SendOptions =>
      inTurn ? { priority: (more.priority ?? 0) - at - i } : {};
    const all = some.map((data, i) => ({ ...OPTIONS[name], ...more, ...urgency(i), name, data }));
    await b.insert(all as PgBoss.JobInsert[], within ?? {});
  }
}
/** Stops the queue. */
export async function stopQueue(): Promise<void> {
  await (await boss)?.stop({ graceful: false, wait: true });
  boss = undefined;
}
