/** Live workers report their jobs every few seconds. A job that no live worker reports expires. */
import { randomUUID } from 'node:crypto';
import { hostname } from 'node:os';
import { eq, lt, sql } from 'drizzle-orm';
import { db, tables } from '../database';
import { log } from '../config/log';
import { JOB_NAMES } from './queue';

const { workers } = tables;

/** Interval between reports (ms), and the silence (s) after which a worker counts as dead. */
export const BEAT = 2000;
const DEAD_AFTER = 8;
/**
 * Successful reports in a row before judging others, because after an outage of the database all
 * look dead.
 */
const SURE = 5;

/** The leases of this process. */
export class Leases {
  private readonly id = randomUUID();
  private readonly held = new Set<string>();
  private beats = 0;
  private timer: ReturnType<typeof setInterval> | undefined;

  async start(): Promise<void> {
    await this.beat();
    this.timer = setInterval(() => {
      this.beat()
        .then(() => this.sweep())
        .catch((e: Error) => {
          this.beats = 0;
          log.warn({ err: e }, 'could not say that this worker lives');
        });
    }, BEAT);
  }
  async stop(): Promise<void> {
    clearInterval(this.timer);
    await db().delete(workers).where(eq(workers.id, this.id));
  }

  /** Runs a job as this worker's, until it ends. */
  async during<T>(job: string, work: () => Promise<T>): Promise<T> {
    this.held.add(job);
    try {
      return await work();
    } finally {
      this.held.delete(job);
    }
  }

  private async beat(): Promise<void> {
    const jobs = [...this.held];
    await db()
      .insert(workers)
      .values({ id: this.id, host: hostname(), pid: process.pid, jobs })
      .onConflictDoUpdate({ target: workers.id, set: { seen: sql`now()`, jobs } });
    this.beats++;
  }

  /** Expires running jobs that no live worker reports, and removes dead workers. */
  private async sweep(): Promise<void> {
    if (this.beats < SURE) return;
    const ours = sql.join(
      JOB_NAMES.map((n) => sql`${n}`),
      sql`, `,
    );
    const dead = sql.raw(`interval '${DEAD_AFTER} seconds'`);
    await db().execute(sql`
      update pgboss.job set started_on = now() - expire_in - interval '1 second'
      where state = 'active' and name in (${ours}) and started_on < now() - ${dead} and started_on + expire_in > now()
        and not exists (select from ${workers} w where w.seen > now() - ${dead} and w.jobs ? job.id::text)`);
    await db()
      .delete(workers)
      .where(lt(workers.seen, sql`now() - interval '1 hour'`));
  }
}
