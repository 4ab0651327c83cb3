/** The queues. Chunks are small and expire soon, so that what a dead worker left is done again within a minute. */
import PgBoss from 'pg-boss';
import type { EncodingId, Sampling } from '../../core';
import { settings } from '../settings';

export interface Jobs {
  readonly import: { readonly importId: string };
  readonly chunk: { readonly chunkId: string; readonly attempt: number };
  readonly measure: { readonly hash: string; readonly encoding: EncodingId; readonly sampling?: Sampling | null };
  readonly inspect: { readonly clipId: string; readonly of: string };
  readonly join: { readonly itemId: string; readonly attempt: number };
}
export type JobName = keyof Jobs;

const OPTIONS: Record<JobName, PgBoss.SendOptions> = {
  import: { expireInSeconds: 900, retryLimit: 2, retryDelay: 2 },
  chunk: { expireInSeconds: 30, retryLimit: 6, retryDelay: 1 },
  measure: { expireInSeconds: 120, retryLimit: 3, retryDelay: 2 },
  inspect: { expireInSeconds: 900, retryLimit: 2, retryDelay: 2 },
  join: { expireInSeconds: 60, retryLimit: 4, retryDelay: 1 },
};

let boss: Promise<PgBoss> | undefined;

async function start(): Promise<PgBoss> {
  const b = new PgBoss({
    connectionString: settings().database,
    maintenanceIntervalSeconds: 5,
    monitorStateIntervalSeconds: 30,
    schedule: false,
    max: 6,
  });
  b.on('error', (e) => console.error(`queue: ${e.message}`));
  await b.start();
  for (const name of Object.keys(OPTIONS)) await b.createQueue(name);
  return b;
}
export const queue = (): Promise<PgBoss> => (boss ??= start());

export async function send<N extends JobName>(name: N, jobs: readonly Jobs[N][], more: PgBoss.SendOptions = {}): Promise<void> {
  const b = await queue();
  for (const data of jobs) await b.send(name, data, { ...OPTIONS[name], ...more });
}
export async function stopQueue(): Promise<void> {
  await (await boss)?.stop({ graceful: false, wait: true });
  boss = undefined;
}
