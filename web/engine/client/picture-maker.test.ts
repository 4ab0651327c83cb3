/** One engine for all small pictures of a page. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { ProjectView } from '../../data/views';
import type { View } from '../protocol';
import type { EngineClient } from './client';
import { PictureMaker, type Wanted } from './picture-maker';

/** An engine that answers when a test says so. */
class Fake {
  static started: Fake[] = [];
  readonly requests: (readonly View[])[] = [];
  readonly told: [number, string][] = [];
  readonly listeners = new Map<string, (p: { bitmap: ImageBitmap }) => void>();
  closed = false;
  constructor() {
    Fake.started.push(this);
  }
  clips(all: readonly unknown[], scope: string): void {
    this.told.push([all.length, scope]);
  }
  on(view: string, f: (p: { bitmap: ImageBitmap }) => void): () => void {
    this.listeners.set(view, f);
    return () => void this.listeners.delete(view);
  }
  request(views: readonly View[]): number {
    return this.requests.push(views);
  }
  close(): void {
    this.closed = true;
  }
  answer(view: string): void {
    this.listeners.get(view)!({ bitmap: view as unknown as ImageBitmap });
  }
}
const maker = (): PictureMaker =>
  new PictureMaker(
    () => new Fake() as unknown as EngineClient,
    async (bitmap) => bitmap as unknown as Blob,
  );
const project = (id: string): ProjectView =>
  ({ id, clips: [{ id: `${id} clip` }], plates: [] }) as unknown as ProjectView;
const [harbour, other] = [project('harbour'), project('other')];
const wanted = (name: string, of = harbour): Wanted => ({
  ...{ name, project: of, clip: of.clips[0]!.id, frame: 3, look: null, from: 270 },
  ...{ width: 48, height: 27 },
});
const settled = () => vi.advanceTimersByTimeAsync(0);
const names = (views: readonly View[] | undefined) => views?.map((v) => v.id);

beforeEach(() => {
  Fake.started = [];
  vi.useFakeTimers();
});
afterEach(() => void vi.useRealTimers());

describe('small pictures', () => {
  it('of all lists of a page are made by one engine, asked for together', async () => {
    const all = maker();
    for (let i = 0; i < 30; i++) all.make(wanted(`picture ${i}`, project(`p${i}`)), () => {});
    await settled();
    expect(Fake.started).toHaveLength(1);
    expect(Fake.started[0]!.requests.map((r) => r.length)).toEqual([30]);
  });

  it('are given to everybody who wants them, and made once', async () => {
    const all = maker(),
      got: string[] = [];
    all.make(wanted('a'), (image) => got.push(`one ${String(image)}`));
    all.make(wanted('a'), (image) => got.push(`two ${String(image)}`));
    await settled();
    const [engine] = Fake.started;
    expect(names(engine!.requests.at(-1))).toEqual(['a']);
    engine!.answer('a');
    await settled();
    expect(got).toEqual(['one a', 'two a']);
  });

  it('that nobody wants any more are left out, those still wanted stay', async () => {
    const all = maker();
    const first = all.make(wanted('a'), () => {});
    const second = all.make(wanted('a'), () => {});
    all.make(wanted('b'), () => {});
    await settled();
    first();
    await settled();
    const [engine] = Fake.started;
    expect(engine!.requests).toHaveLength(1);
    second();
    await settled();
    expect(names(engine!.requests.at(-1))).toEqual(['b']);
  });

  it('know the clips of each project, sent when they change', async () => {
    const all = maker();
    all.make(wanted('a'), () => {});
    all.make(wanted('b'), () => {});
    all.make(wanted('c', other), () => {});
    all.make(wanted('d', { ...harbour, clips: [...harbour.clips, ...other.clips] }), () => {});
    await settled();
    expect(Fake.started[0]!.told).toEqual([
      [1, 'harbour'],
      [1, 'other'],
      [2, 'harbour'],
    ]);
  });

  it('need no engine after a while without wishes, and start another one later', async () => {
    const all = maker();
    all.make(wanted('a'), () => {});
    await settled();
    Fake.started[0]!.answer('a');
    await vi.advanceTimersByTimeAsync(10_000);
    expect(Fake.started[0]!.closed).toBe(false);
    all.make(wanted('b'), () => {})();
    await vi.advanceTimersByTimeAsync(30_000);
    expect(Fake.started[0]!.closed).toBe(true);
    all.make(wanted('c'), () => {});
    await settled();
    expect(Fake.started).toHaveLength(2);
    expect(Fake.started[1]!.told).toHaveLength(1);
  });
});
