/** Queues: a job exists exactly if its transaction commits, and once per key. */
import { describe, expect, it } from 'vitest';
import { db } from '../database';
import { useDatabase } from '../testing/database';
import { JOB_NAMES, queue, send, TRIES } from './queue';

useDatabase();

const jobs = async (key: string): Promise<{ state: string; priority: number }[]> => {
  const { rows } = await db().execute<{ state: string; priority: number }>(
    `select state, priority from pgboss.job where data->>'itemId' = '${key}' order by created_on`,
  );
  return rows;
};
const join = (itemId: string) => ({ itemId, attempt: 1 });

describe('a job', () => {
  it('has a queue of its kind, and so many tries', async () => {
    const boss = await queue();
    for (const name of JOB_NAMES) {
      expect(await boss.getQueue(name)).toMatchObject({ name });
      expect(TRIES[name]).toBeGreaterThan(0);
    }
  });

  it('sent within a transaction is there with it, and not without', async () => {
    await db().transaction((tx) => send('join', [join('kept'), join('kept')], {}, tx));
    expect(await jobs('kept')).toHaveLength(2);
    const broken = db().transaction(async (tx) => {
      await send('join', [join('gone')], {}, tx);
      throw new Error('no');
    });
    await expect(broken).rejects.toThrow('no');
    expect(await jobs('gone')).toEqual([]);
  });

  it('keeps its place in the queue', async () => {
    await send('join', [join('later')], { priority: -1 });
    expect((await jobs('later')).map((j) => j.priority)).toEqual([-1]);
  });

  it('by a key is sent once while it waits or is under way, and again once it is over', async () => {
    const key = { singletonKey: 'once:1' };
    await send('join', [join('once')], key);
    await send('join', [join('once')], key);
    await db().transaction((tx) => send('join', [join('once')], key, tx));
    expect(await jobs('once')).toHaveLength(1);
    await send('join', [join('once')], { singletonKey: 'once:2' });
    expect(await jobs('once')).toHaveLength(2);

    await db().execute(`update pgboss.job set state = 'active' where singleton_key = 'once:1'`);
    await send('join', [join('once')], key);
    expect(await jobs('once')).toHaveLength(2);
    await db().execute(`update pgboss.job set state = 'completed' where singleton_key = 'once:1'`);
    await send('join', [join('once')], key);
    expect(await jobs('once')).toHaveLength(3);
  });
});
