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
/** Times that a worker may die at a job before the job is given up. */
const MOST_DEATHS = 2;

/** A job ended its worker too often. */
export class EndsWorkers extends Error {
  constructor(times: number) {
    super(`its worker ended ${times} times while it worked on this`);
  }
}

/** Lets many in at once, or one apart from all others. */
export class Gate {
  private inside = 0;
  private apart = false;
  private readonly waiting: { readonly apart: boolean; readonly go: () => void }[] = [];

  /** Resolves once inside, with the way out. */
  async enter(apart: boolean): Promise<() => void> {
    const free = apart ? this.inside === 0 : !this.apart;
    // Whoever wants to be apart is not overtaken for ever by those who do not.
    if (!free || this.waiting.length > 0)
      await new Promise<void>((go) => this.waiting.push({ apart, go }));
    else this.admit(apart);
    return () => {
      this.inside--;
      this.apart = false;
      this.next();
    };
  }
  private admit(apart: boolean): void {
    this.inside++;
    this.apart = apart;
  }
  private next(): void {
    for (let first = this.waiting[0]; first; first = this.waiting[0]) {
      if (this.apart || (first.apart && this.inside > 0)) return;
      this.waiting.shift();
      this.admit(first.apart);
      first.go();
    }
  }
}

/** The leases of this process. */
export class Leases {
  private readonly id = randomUUID();
  private readonly held = new Set<string>();
  private readonly waiting = new Set<string>();
  private readonly gate = new Gate();
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
   * Runs a job as this worker's, until it ends. A job under which a worker died before runs apart
   * from all others, so that only it is to blame if that happens again; one that did it too often
   * throws `EndsWorkers`.
   */
  async during<T>(job: string, work: () => Promise<T>): Promise<T> {
    const deaths = await this.deathsOf(job);
    if (deaths >= MOST_DEATHS) throw new EndsWorkers(deaths);
    this.waiting.add(job);
    const leave = await this.gate.enter(deaths > 0);
    this.waiting.delete(job);
    this.held.add(job);
    try {
      // Said before it begins: a job that ends its worker at once is known by it.
      await this.beat();
      const done = await work();
      if (deaths > 0) await db().delete(jobDeaths).where(eq(jobDeaths.job, job));
      return done;
    } finally {
      this.held.delete(job);
      leave();
    }
  }
  private async deathsOf(job: string): Promise<number> {
    const [row] = await db().select().from(jobDeaths).where(eq(jobDeaths.job, job));
    return row?.deaths ?? 0;
  }

  private async beat(): Promise<void> {
    const lists = { jobs: [...this.held], waiting: [...this.waiting] };
    await db()
      .insert(workers)
      .values({ id: this.id, host: hostname(), pid: process.pid, ...lists })
      .onConflictDoUpdate({ target: workers.id, set: { seen: sql`now()`, ...lists } });
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
            and (w.jobs ? job.id::text or w.waiting ? job.id::text)
        )`);
    await db()
      .delete(workers)
      .where(lt(workers.seen, sql`now() - interval '1 hour'`));
  }
}
