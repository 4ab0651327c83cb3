/** News from one process to the pages of another. */
import { expect, it } from 'vitest';
import { hear, type News, tell } from './events';
import { useDatabase } from './testing/database';

useDatabase();

it('are heard by all who listen, and by nobody who has stopped', async () => {
  const heard: News[][] = [[], []];
  let there = (): void => {};
  const ready = new Promise<void>((resolve) => (there = resolve));
  const deaf = heard.map((own) =>
    hear({ onNews: (n) => void own.push(n), onState: (is) => void (is && there()) }),
  );
  await ready;
  await tell({ project: 'a', what: 'clips' });
  await expect.poll(() => heard.map((h) => h.length)).toEqual([1, 1]);
  deaf[0]!();
  await tell({ project: 'b', what: 'looks' });
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
