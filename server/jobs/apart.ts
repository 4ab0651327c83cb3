/**
 * Jobs in a process of their own, for those under which a worker died: if the process dies as well,
 * it was the job; if a worker is ended from outside, nothing is held against the job.
 */
import { type ChildProcess, fork } from 'node:child_process';
import pLimit from 'p-limit';
import { log } from '../config/log';
import { reasonOf } from '../media/reason';
import type { JobName, Jobs } from './queue';

/** The argument that makes a worker process run one job and end. */
export const APART = '--one-job';
/** The job's process ended without an answer. */
export class EndsWorkers extends Error {
  constructor() {
    super('its worker ended twice while it worked on this');
  }
}
/** A job for a process of its own. */
interface Given {
  readonly name: JobName;
  readonly data: Jobs[JobName];
}
/**
 * How it went: null if all is well, else why in words for people (`reasonOf`: what an error carries
 * beside its message does not cross), and whether the database was away.
 */
type Answer = { readonly failed: null | { readonly message: string; readonly away: boolean } };

/** The database was away for the process that worked on a job. */
export class AwayApart extends Error {}

/** Signals by which processes are asked to end. */
const ASKED: readonly (NodeJS.Signals | null)[] = ['SIGTERM', 'SIGINT', 'SIGHUP'];
const oneAtATime = pLimit(1);

/**
 * Runs a job in a process of its own, one at a time. Throws what the job throws, `AwayApart`, and
 * `EndsWorkers` if the process dies.
 */
export const apart = <N extends JobName>(
  name: N,
  data: Jobs[N],
  start = (): ChildProcess =>
    fork(process.argv[1]!, [APART], { stdio: ['ignore', 'inherit', 'inherit', 'ipc'] }),
): Promise<void> =>
  oneAtATime(
    () =>
      new Promise<void>((resolve, reject) => {
        const child = start();
        let answer: Answer | undefined;
        child.on('message', (m) => (answer = m as Answer));
        child.once('error', reject);
        child.once('exit', (_, signal) => {
          if (answer?.failed)
            reject(new (answer.failed.away ? AwayApart : Error)(answer.failed.message));
          else if (answer) resolve();
          else
            reject(ASKED.includes(signal) ? new Error('the worker was ended') : new EndsWorkers());
        });
        child.send({ name, data } satisfies Given);
      }),
  );

/**
 * The other side: waits for the job, works on it and ends. It ends at once when the worker that
 * started it does.
 */
export async function answerApart(
  work: (name: JobName, data: Jobs[JobName]) => Promise<void>,
  isAway: (e: unknown) => boolean,
): Promise<void> {
  process.once('disconnect', () => process.exit(1));
  const { name, data } = await new Promise<Given>((resolve) =>
    process.once('message', (m) => resolve(m as Given)),
  );
  const failed = await work(name, data).then(
    () => null,
    (e: unknown) => {
      log.error({ queue: name, err: e }, 'a job in a process of its own failed');
      return { message: reasonOf(e), away: isAway(e) };
    },
  );
  await new Promise<void>((sent) => process.send!({ failed } satisfies Answer, () => sent()));
}
