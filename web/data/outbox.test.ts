/** Edits that the server does not have yet, across visits. */
import { beforeEach, expect, it, vi } from 'vitest';
import { storageOf } from './storage-of';

const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  Object.assign(globalThis, { localStorage: storageOf(kept) });
  vi.resetModules();
});
const edits = (note: string) => [{ clip: 'c', was: { note: '' }, to: { note } }];
/** The module as a visit loads it. */
const visit = () => import('./outbox');

it('stay until they are said to be done, and are found by the next visit, oldest first', async () => {
  const { keepEdits } = await visit();
  const done = keepEdits('p', edits('one'));
  keepEdits('p', edits('two'));
  keepEdits('p', edits('three'));
  keepEdits('another', edits('four'));
  done();
  vi.resetModules();
  const { leftEdits } = await visit();
  expect((await leftEdits('p')).map((l) => l.edits)).toEqual([edits('two'), edits('three')]);
});

it('are each forgotten by themselves: a visit that ends between two loses none', async () => {
  const { keepEdits } = await visit();
  keepEdits('p', edits('one'));
  keepEdits('p', edits('two'));
  vi.resetModules();
  const [first] = await (await visit()).leftEdits('p');
  first!.forget();
  vi.resetModules();
  expect((await (await visit()).leftEdits('p')).map((l) => l.edits)).toEqual([edits('two')]);
});
