/** Events from one process to the pages of another. */
import { expect, it } from 'vitest';
import { subscribe, type AppEvent, notify } from '.';
import { useDatabase } from '../testing/database';

useDatabase();

it('are heard by all who listen, and by nobody who has stopped', async () => {
  const heard: AppEvent[][] = [[], []];
  let there = (): void => {};
  const ready = new Promise<void>((resolve) => (there = resolve));
  const deaf = heard.map((own) =>
    subscribe({ onEvent: (n) => void own.push(n), onState: (is) => void (is && there()) }),
  );
  await ready;
  await notify({ project: 'a', what: 'clips' });
  await expect.poll(() => heard.map((h) => h.length)).toEqual([1, 1]);
  deaf[0]!();
  await notify({ project: 'b', what: 'looks' });
  await expect.poll(() => heard[1]!.length).toBe(2);
  expect(heard).toEqual([
    [{ project: 'a', what: 'clips' }],
    [
      { project: 'a', what: 'clips' },
      { project: 'b', what: 'looks' },
    ],
  ]);
  deaf[1]!();
});
