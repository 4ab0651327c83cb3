/** Live workers report their jobs every few seconds. A job that no live worker reports expires. */
import { randomUUID } from 'node:crypto';
import { hostname } from 'node:os';
import { eq, lt, sql } from 'drizzle-orm';
import { db, tables } from '../database';
import { log } from '../config/log';
import { JOB_NAMES } from './queue';

const { jobDeaths, workers } = tables;

/** Interval between reports (ms), and the silence (s) after which a worker counts as dead. */
export const BEAT = 2000;
const DEAD_AFTER = 8;
/**
 * Successful reports in a row before judging others, because after an outage of the database all
 * look dead.
 */
const SURE = 5;

const DEAD = sql.raw(`interval '${DEAD_AFTER} seconds'`);
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

  /**
   * Runs a job as this worker's, until it ends. One under which a worker died before is run by
   * `apart` instead, in a process of its own, until it has ended well.
   */
  async during<T>(job: string, work: () => Promise<T>, apart: () => Promise<T>): Promise<T> {
    const deaths = await this.deathsOf(job);
    this.held.add(job);
    try {
      // Said before it begins: a job that ends its worker at once is known by it.
      await this.beat();
      const done = await (deaths > 0 ? apart() : work());
      if (deaths > 0) await db().delete(jobDeaths).where(eq(jobDeaths.job, job));
      return done;
    } finally {
      this.held.delete(job);
    }
  }
  private async deathsOf(job: string): Promise<number> {
    const [row] = await db().select().from(jobDeaths).where(eq(jobDeaths.job, job));
    return row?.deaths ?? 0;
  }

  private async beat(): Promise<void> {
    const jobs = [...this.held];
    await db()
      .insert(workers)
      .values({ id: this.id, host: hostname(), pid: process.pid, jobs })
      .onConflictDoUpdate({ target: workers.id, set: { seen: sql`now()`, jobs } });
    this.beats++;
  }

  /**
   * Expires running jobs that no live worker reports, counts a death for those that a dead worker
   * was at, and removes dead workers.
   */
  private async sweep(): Promise<void> {
    if (this.beats < SURE) return;
    await db().execute(sql`
      with dead as (
        update ${workers} w set jobs = '[]'
        from (
          select id, jobs from ${workers} where seen < now() - ${DEAD} and jobs <> '[]' for update
        ) d
        where w.id = d.id returning d.jobs
      )
      insert into ${jobDeaths} (job, deaths)
      select distinct j::uuid, 1 from dead, jsonb_array_elements_text(dead.jobs) j
      on conflict (job) do update set deaths = ${jobDeaths}.deaths + 1`);
    const ours = sql.join(
      JOB_NAMES.map((n) => sql`${n}`),
      sql`, `,
    );
    await db().execute(sql`
      update pgboss.job set started_on = now() - expire_in - interval '1 second'
      where state = 'active' and name in (${ours})
        and started_on < now() - ${DEAD} and started_on + expire_in > now()
        and not exists (
          select from ${workers} w where w.seen > now() - ${DEAD}
            and w.jobs ? job.id::text
        )`);
    await db()
      .delete(workers)
      .where(lt(workers.seen, sql`now() - interval '1 hour'`));
  }
}
