/** The worker process: takes imports, chunks and joins from the queues, at low priority so that the page stays quick. */
import { randomUUID } from 'node:crypto';
import { hostname, setPriority } from 'node:os';
import { lt, sql } from 'drizzle-orm';
import type PgBoss from 'pg-boss';
import { closeDatabase, db, tables } from '../database';
import { startEngine } from '../render';
import { giveUp, itemOfChunk, runChunk, runJoin } from './deliver';
import { runImport } from './import';
import { failInspection, runInspect } from './inspect';
import { runMeasure } from './measure';
import { type Jobs, queue, stopQueue } from './queue';

const { workers } = tables;
const id = randomUUID();

async function heartbeat(): Promise<void> {
  await db()
    .insert(workers)
    .values({ id, host: hostname(), pid: process.pid })
    .onConflictDoUpdate({ target: workers.id, set: { seen: sql`now()` } });
  await db()
    .delete(workers)
    .where(lt(workers.seen, sql`now() - interval '1 hour'`));
}

type Given<N extends keyof Jobs> = PgBoss.JobWithMetadata<Jobs[N]>;
const lastTry = (job: { retryCount: number; retryLimit: number }): boolean => job.retryCount >= job.retryLimit;

async function main(): Promise<void> {
  setPriority(10);
  const threads = startEngine();
  const boss = await queue();
  const options = { includeMetadata: true as const, batchSize: 1, pollingIntervalSeconds: 0.5 };
  await boss.work('import', options, async ([job]: Given<'import'>[]) => {
    if (job) await runImport(job.data.importId);
  });
  await boss.work('chunk', options, async ([job]: Given<'chunk'>[]) => {
    if (!job) return;
    try {
      await runChunk(job.data.chunkId, job.data.attempt, threads);
    } catch (e) {
      const item = await itemOfChunk(job.data.chunkId);
      if (item && lastTry(job)) await giveUp(item, job.data.attempt, (e as Error).message);
      throw e;
    }
  });
  await boss.work('measure', options, async ([job]: Given<'measure'>[]) => {
    if (job) await runMeasure(job.data, threads);
  });
  await boss.work('inspect', options, async ([job]: Given<'inspect'>[]) => {
    if (!job) return;
    try {
      await runInspect(job.data, threads);
    } catch (e) {
      if (lastTry(job)) await failInspection(job.data, (e as Error).message);
      throw e;
    }
  });
  await boss.work('join', options, async ([job]: Given<'join'>[]) => {
    if (!job) return;
    try {
      await runJoin(job.data.itemId, job.data.attempt);
    } catch (e) {
      if (lastTry(job)) await giveUp(job.data.itemId, job.data.attempt, (e as Error).message);
      throw e;
    }
  });
  await heartbeat();
  const beat = setInterval(() => {
    heartbeat().catch((e: Error) => console.error(`worker: ${e.message}`));
  }, 4000);
  const stop = async (): Promise<void> => {
    clearInterval(beat);
    await stopQueue();
    await db()
      .delete(workers)
      .where(sql`id = ${id}`);
    await closeDatabase();
    process.exit(0);
  };
  process.once('SIGTERM', () => void stop());
  process.once('SIGINT', () => void stop());
  console.log(`worker ${process.pid} is ready`);
}

await main();
