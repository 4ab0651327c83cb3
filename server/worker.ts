/**
 * The worker process: runs imports, chunks, joins and other jobs from the queues, at low priority
 * so that pages stay responsive.
 */
import { availableParallelism, setPriority } from 'node:os';
import type PgBoss from 'pg-boss';
import { closeDatabase, isAway } from './database';
import { RenewableThreads, startEngine, type Threads } from './render';
import { itemOfChunk, runChunk } from './deliveries/chunks';
import { giveUp } from './deliveries/item-state';
import { runJoin } from './deliveries/join';
import { failImport, runImport } from './footage/import-job';
import { failInspection, runInspect } from './inspections/inspect';
import { APART, answerApart, apart, AwayApart, EndsWorkers } from './jobs/apart';
import { Leases } from './jobs/leases';
import { runMeasure } from './footage/statistics';
import { failAsset, runAsset } from './assets/job';
import { failTracks, runTracks } from './traces/track-job';
import { wantTracksAnew } from './traces/traces';
import { log } from './config/log';
import { reasonOf } from './media/reason';
import { folder, niceness, WORKER_CONNECTIONS } from './config/settings';
import { inTurn, type Turn } from './jobs/turns';
import { type JobName, type Jobs, queue, stopQueue, TRIES } from './jobs/queue';

// A failed job cannot be recorded while the database is away; it expires and runs again.
process.on('unhandledRejection', (e) => {
  if (!isAway(e)) throw e;
  log.warn({ err: e }, 'the database is away');
});

type Given<N extends JobName> = PgBoss.JobWithMetadata<Jobs[N]>;
/** Number of imports at a time; each uses one core for decoding. */
const IMPORTS = Math.max(1, Math.min(4, availableParallelism()));

process.env['WABISABI_CONNECTIONS'] ??= String(WORKER_CONNECTIONS);

/** What is done with a job of each queue. */
const WORK: { readonly [N in JobName]: (data: Jobs[N], threads: Threads) => Promise<void> } = {
  import: (j) => runImport(j.importId),
  chunk: (j, threads) => runChunk(j.chunkId, j.attempt, threads),
  measure: runMeasure,
  inspect: runInspect,
  asset: runAsset,
  track: runTracks,
  join: (j) => runJoin(j.itemId, j.attempt),
};
/** Who waits for a job of each queue. */
const TURNS: { readonly [N in JobName]: (data: Jobs[N]) => Turn } = {
  import: () => 'person',
  chunk: (j) => (j.ahead ? 'background' : 'delivery'),
  measure: () => 'person',
  inspect: () => 'background',
  asset: () => 'delivery',
  track: () => 'person',
  join: () => 'delivery',
};
const engineHere = (): Threads => startEngine(undefined, undefined, folder('work'));

/** Works on one job that another worker hands over, and ends. */
async function oneJob(): Promise<void> {
  setPriority(niceness());
  const threads = engineHere();
  await answerApart(
    (name, data) => (WORK[name] as (d: unknown, t: Threads) => Promise<void>)(data, threads),
    isAway,
  );
  await stopQueue();
  await closeDatabase();
  process.exit(0);
}

async function main(): Promise<void> {
  setPriority(niceness());
  const threads = new RenewableThreads(engineHere);
  const boss = await queue();
  const leases = new Leases();
  await leases.start();
  /** Starts working on a queue. `onLast` is called when a job is given up. */
  const take = async <N extends JobName>(
    name: N,
    onLast: (data: Jobs[N], reason: string) => Promise<void>,
  ): Promise<void> => {
    const options = { includeMetadata: true as const, batchSize: 1, pollingIntervalSeconds: 0.5 };
    await boss.work(name, options, async ([job]: Given<N>[]) => {
      if (!job) return;
      const { data } = job;
      try {
        await inTurn(TURNS[name](data), () =>
          leases.during(
            job.id,
            () => threads.during(() => WORK[name](data, threads)),
            () => apart(name, data),
          ),
        );
      } catch (e) {
        log.error({ job: job.id, queue: name, tried: job.retryCount, err: e }, 'a job failed');
        const isLast = e instanceof EndsWorkers || job.retryCount >= TRIES[name];
        // While the database is away nothing can be recorded, so this is not the last try.
        if (isAway(e) || e instanceof AwayApart || !isLast) throw e;
        await onLast(data, reasonOf(e));
      }
    });
  };
  for (let i = 0; i < IMPORTS; i++) await take('import', (j, why) => failImport(j.importId, why));
  await take('chunk', async (j, why) => {
    const item = await itemOfChunk(j.chunkId);
    if (item) await giveUp(item, j.attempt, why);
  });
  await take('measure', async () => {});
  await take('inspect', failInspection);
  await take('asset', failAsset);
  await take('track', failTracks);
  await take('join', (j, why) => giveUp(j.itemId, j.attempt, why));
  await wantTracksAnew();
  const stop = async (): Promise<void> => {
    await leases.stop().catch(() => {});
    await stopQueue();
    await closeDatabase();
    process.exit(0);
  };
  process.once('SIGTERM', () => void stop());
  process.once('SIGINT', () => void stop());
  log.info('the worker is ready');
}

await (process.argv.includes(APART) ? oneJob() : main());
