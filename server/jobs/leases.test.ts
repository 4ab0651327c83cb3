/** Jobs that end their workers: found out, run apart, and given up. */
import { randomUUID } from 'node:crypto';
import { eq, sql } from 'drizzle-orm';
import { describe, expect, it, vi } from 'vitest';
import { db, tables } from '../database';
import { useDatabase } from '../testing/database';
import { EndsWorkers, Gate, Leases } from './leases';

useDatabase();
const { jobDeaths, workers } = tables;
const pause = () => new Promise((r) => setTimeout(r, 5));

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

describe('a job under which a worker died', () => {
  it('has one death counted, once, and so have those beside it', async () => {
    const [bad, beside] = [randomUUID(), randomUUID()];
    await dead(bad, beside);
    const leases = new Leases();
    await sweep(leases);
    await sweep(leases);
    expect([await deathsOf(bad), await deathsOf(beside)]).toEqual([1, 1]);
  });

  it('runs apart from others and is innocent once it ends well', async () => {
    const [suspect, other] = [randomUUID(), randomUUID()];
    await dead(suspect);
    const leases = new Leases();
    await sweep(leases);
    const order: string[] = [];
    let end = (): void => {};
    const running = leases.during(other, async () => {
      order.push('other begins');
      await new Promise<void>((r) => (end = r));
      order.push('other ends');
    });
    await vi.waitFor(() => expect(order).toEqual(['other begins']));
    const apart = leases.during(suspect, async () => void order.push('suspect'));
    await pause();
    end();
    await Promise.all([running, apart]);
    expect(order).toEqual(['other begins', 'other ends', 'suspect']);
    expect(await deathsOf(suspect)).toBe(0);
  });

  it('is given up after the second, without being begun', async () => {
    const bad = randomUUID();
    const leases = new Leases();
    for (let i = 0; i < 2; i++) {
      await dead(bad);
      await sweep(leases);
    }
    const work = vi.fn(async () => {});
    await expect(leases.during(bad, work)).rejects.toThrow(EndsWorkers);
    expect(work).not.toHaveBeenCalled();
  });
});

describe('the gate', () => {
  it('lets many in, one apart, and nobody past who waits to be apart', async () => {
    const gate = new Gate();
    const [a, b] = [await gate.enter(false), await gate.enter(false)];
    const entered: string[] = [];
    const alone = gate.enter(true).then((leave) => (entered.push('alone'), leave));
    const late = gate.enter(false).then((leave) => (entered.push('late'), leave));
    a();
    await pause();
    expect(entered).toEqual([]);
    b();
    const leave = await alone;
    await pause();
    expect(entered).toEqual(['alone']);
    leave();
    (await late)();
    expect(entered).toEqual(['alone', 'late']);
  });
});
