/**
 * The worker process: runs imports, chunks, joins and other jobs from the queues, at low priority
 * so that pages stay responsive.
 */
import { availableParallelism, setPriority } from 'node:os';
import type PgBoss from 'pg-boss';
import { closeDatabase, isAway } from './database';
import { RenewableThreads, startEngine } from './render';
import { itemOfChunk, runChunk } from './deliveries/chunks';
import { giveUp } from './deliveries/item-state';
import { runJoin } from './deliveries/join';
import { failImport, runImport } from './footage/import-job';
import { failInspection, runInspect } from './inspections/inspect';
import { EndsWorkers, Leases } from './jobs/leases';
import { runMeasure } from './footage/statistics';
import { failMotion, runMotion } from './footage/motion-job';
import { log } from './config/log';
import { reasonOf } from './media/reason';
import { folder, niceness, WORKER_CONNECTIONS } from './config/settings';
import { inTurn } from './jobs/turns';
import { type Jobs, queue, stopQueue, TRIES } from './jobs/queue';

// A failed job cannot be recorded while the database is away; it expires and runs again.
process.on('unhandledRejection', (e) => {
  if (!isAway(e)) throw e;
  log.warn({ err: e }, 'the database is away');
});

type Given<N extends keyof Jobs> = PgBoss.JobWithMetadata<Jobs[N]>;
/** Number of imports at a time; each uses one core for decoding. */
const IMPORTS = Math.max(1, Math.min(4, availableParallelism()));

process.env['WABISABI_CONNECTIONS'] ??= String(WORKER_CONNECTIONS);

async function main(): Promise<void> {
  setPriority(niceness());
  const threads = new RenewableThreads(() => startEngine(undefined, undefined, folder('work')));
  const boss = await queue();
  const leases = new Leases();
  await leases.start();
  /** Starts working on a queue. `onLast` is called when a job is given up. */
  const take = async <N extends keyof Jobs>(
    name: N,
    work: (data: Jobs[N]) => Promise<void>,
    onLast: (data: Jobs[N], reason: string) => Promise<void>,
  ): Promise<void> => {
    const options = { includeMetadata: true as const, batchSize: 1, pollingIntervalSeconds: 0.5 };
    await boss.work(name, options, async ([job]: Given<N>[]) => {
      if (!job) return;
      try {
        await leases.during(job.id, () => threads.during(() => work(job.data)));
      } catch (e) {
        log.error({ job: job.id, queue: name, tried: job.retryCount, err: e }, 'a job failed');
        const isLast = e instanceof EndsWorkers || job.retryCount >= TRIES[name];
        // While the database is away nothing can be recorded, so this is not the last try.
        if (isAway(e) || !isLast) throw e;
        await onLast(job.data, reasonOf(e));
      }
    });
  };
  for (let i = 0; i < IMPORTS; i++)
    await take(
      'import',
      (j) => inTurn('person', () => runImport(j.importId)),
      (j, why) => failImport(j.importId, why),
    );
  await take(
    'chunk',
    (j) =>
      inTurn(j.ahead ? 'background' : 'delivery', () => runChunk(j.chunkId, j.attempt, threads)),
    async (j, why) => {
      const item = await itemOfChunk(j.chunkId);
      if (item) await giveUp(item, j.attempt, why);
    },
  );
  await take(
    'measure',
    (j) => inTurn('person', () => runMeasure(j, threads)),
    async () => {},
  );
  await take('inspect', (j) => inTurn('background', () => runInspect(j, threads)), failInspection);
  await take('motion', (j) => inTurn('delivery', () => runMotion(j)), failMotion);
  await take(
    'join',
    (j) => inTurn('delivery', () => runJoin(j.itemId, j.attempt)),
    (j, why) => giveUp(j.itemId, j.attempt, why),
  );
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

await main();
