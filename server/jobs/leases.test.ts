/** Jobs under which workers died: found out, and run in a process of their own. */
import { fork } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq, sql } from 'drizzle-orm';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { db, tables } from '../database';
import { useDatabase } from '../testing/database';
import { apart, AwayApart, EndsWorkers } from './apart';
import { Leases } from './leases';

useDatabase();
const { jobDeaths, workers } = tables;

/** A worker that died with some jobs. */
const dead = (...jobs: string[]) =>
  db()
    .insert(workers)
    .values({ id: randomUUID(), host: 'x', pid: 1, jobs, seen: sql`now() - interval '1 minute'` });
const deathsOf = async (job: string): Promise<number> =>
  (await db().select().from(jobDeaths).where(eq(jobDeaths.job, job)))[0]?.deaths ?? 0;
const sweep = (l: Leases) => {
  const inner = l as unknown as { beats: number; sweep(): Promise<void> };
  inner.beats = 99;
  return inner.sweep();
};
const here = vi.fn(async () => 'here'),
  alone = vi.fn(async () => 'alone');

describe('a job under which a worker died', () => {
  it('has one death counted, once, and so have those beside it', async () => {
    const [bad, beside] = [randomUUID(), randomUUID()];
    await dead(bad, beside);
    const leases = new Leases();
    await sweep(leases);
    await sweep(leases);
    expect([await deathsOf(bad), await deathsOf(beside)]).toEqual([1, 1]);
  });

  it('runs in a process of its own until it has ended well, others as usual', async () => {
    const [suspect, other] = [randomUUID(), randomUUID()];
    await dead(suspect);
    const leases = new Leases();
    await sweep(leases);
    expect(await leases.during(other, here, alone)).toBe('here');
    expect(await leases.during(suspect, here, alone)).toBe('alone');
    expect(await deathsOf(suspect)).toBe(0);
    expect(await leases.during(suspect, here, alone)).toBe('here');
  });

  it('is not given up for workers that were ended from outside, however often', async () => {
    const job = randomUUID();
    const leases = new Leases();
    for (let i = 0; i < 5; i++) {
      await dead(job);
      await sweep(leases);
    }
    expect(await leases.during(job, here, alone)).toBe('alone');
  });
});

describe('a job in a process of its own', () => {
  const folder = mkdtempSync(join(tmpdir(), 'wabisabi-apart-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  let n = 0;
  /** A process that does this with the message `m`, before it ends. */
  const process = (body: string) => () => {
    const file = join(folder, `${n++}.mjs`);
    writeFileSync(file, `process.once('message', async (m) => { ${body} });`);
    return fork(file, [], { execArgv: [], stdio: ['ignore', 'ignore', 'ignore', 'ipc'] });
  };
  const send = (answer: string) => `process.send(${answer}, () => process.exit(0));`;
  const job = { importId: 'x' };

  it('ends as it ends there, with its words', async () => {
    await apart('import', job, process(send("{ failed: m.data.importId === 'x' ? null : m }")));
    const failing = process(send("{ failed: { message: 'no such file', away: false } }"));
    await expect(apart('import', job, failing)).rejects.toThrow('no such file');
    const away = process(send("{ failed: { message: 'gone', away: true } }"));
    await expect(apart('import', job, away)).rejects.toThrow(AwayApart);
  });

  it('is to blame if its process dies, and not if that was asked to end', async () => {
    const killed = process("process.kill(process.pid, 'SIGKILL');");
    await expect(apart('import', job, killed)).rejects.toThrow(EndsWorkers);
    await expect(apart('import', job, process('process.abort();'))).rejects.toThrow(EndsWorkers);
    await expect(apart('import', job, process('process.exit(7);'))).rejects.toThrow(EndsWorkers);
    const asked = process("process.kill(process.pid, 'SIGTERM');");
    await expect(apart('import', job, asked)).rejects.toThrow('the worker was ended');
  });
});
