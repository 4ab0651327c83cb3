import { describe, expect, it } from 'vitest';
import { asPinned, type Beyond, footageFrame, type FootagePin } from '../clip';
import type { FrameFormat, Reframe } from '../image';
import { clipFrame } from '.';

const CLIP = { rate: [25, 1], frames: 10, pins: { strike: [{ frame: 4 }] } } as const;

describe('footage beside a clip', () => {
  const frames = (beyond: Beyond | undefined, start = 0, speed = 1, n = 9) =>
    Array.from({ length: n }, (_, f) =>
      footageFrame({ hash: 'a', start, speed, ...(beyond && { beyond }) }, f, CLIP, {
        rate: [25, 1],
        frames: 4,
      }),
    );
  it('begins again, goes back and forth, holds, or ends', () => {
    expect(frames(undefined)).toEqual([0, 1, 2, 3, 0, 1, 2, 3, 0]);
    expect(frames('to-and-fro')).toEqual([0, 1, 2, 3, 2, 1, 0, 1, 2]);
    expect(frames('hold')).toEqual([0, 1, 2, 3, 3, 3, 3, 3, 3]);
    expect(frames('end')).toEqual([0, 1, 2, 3, null, null, null, null, null]);
  });
  it('begins where it is told to, before its first frame too', () => {
    expect(frames('end', -2, 1, 5)).toEqual([null, null, 0, 1, 2]);
    expect(frames('hold', -2, 1, 5)).toEqual([0, 0, 0, 1, 2]);
    expect(frames('again', 3, 1, 3)).toEqual([3, 0, 1]);
  });
  it('counts in its own rate and at its speed, halves up', () => {
    expect(frames('again', 0, 0.5, 5)).toEqual([0, 1, 1, 2, 2]);
    expect(
      [0, 1, 2].map((f) =>
        footageFrame({ hash: 'a', start: 0, speed: 1 }, f, CLIP, { rate: [50, 1], frames: 100 }),
      ),
    ).toEqual([0, 2, 4]);
  });
  it('is counted from the clip’s last frame or from a cue, the middle where that is not set', () => {
    const at = (
      from: 'end' | { readonly cue: string },
      rate: readonly [number, number] = [25, 1],
    ) =>
      Array.from({ length: 10 }, (_, f) =>
        footageFrame({ hash: 'a', start: 0, speed: 1, beyond: 'end', at: from }, f, CLIP, {
          rate,
          frames: 3,
        }),
      );
    const none = (n: number) => Array<null>(n).fill(null);
    expect(at('end')).toEqual([...none(9), 0]);
    expect(at({ cue: 'strike' })).toEqual([...none(4), 0, 1, 2, ...none(3)]);
    expect(at({ cue: 'other' })).toEqual([...none(5), 0, 1, 2, ...none(2)]);
    expect(at({ cue: 'strike' }, [50, 1]).slice(3, 6)).toEqual([null, 0, 2]);
  });
  it('lies as it lies as a clip, unless the clip beside it says how', () => {
    const format: FrameFormat = {
      width: 64,
      height: 36,
      layout: 'rgb',
      chroma: [1, 1],
      depth: 8,
      alpha: false,
      matrix: 'bt709',
      full: true,
    };
    const raw = (key: string) => ({
      format,
      key,
      planes: [0, 1, 2].map((p) =>
        Uint8Array.from({ length: 64 * 36 }, (_, i) => (i * (p + 3)) % 251),
      ),
    });
    const plain = { encoding: 'srgb', fit: 'fit', pixelAspect: 1, balance: null } as const;
    const key = (reframe: Reframe | null, pin: Partial<FootagePin>): string => {
      const beside = asPinned({ ...plain, reframe }, { hash: 'b', start: 0, speed: 1, ...pin });
      const sources = new Map([
        [0, { own: raw('a:0'), others: { second: { raw: raw('b:0'), clip: beside } } }],
      ]);
      return clipFrame(sources, { ...plain, content: 'a', rate: [25, 1], frames: 1 }, 0, {
        width: 32,
        height: 18,
      }).footage!['second']!.key;
    };
    const [left, near] = [
      { x: 0.3, y: 0.5, closer: 100 },
      { x: 0.6, y: 0.4, closer: 150 },
    ];
    expect(key(null, { reframe: near })).toBe(key(near, {}));
    expect(key(left, { reframe: near })).toBe(key(near, {}));
    expect(key(left, { fit: 'fill', reframe: near })).not.toBe(key(left, { fit: 'fill' }));
    // Footage of another size without a setting of its own is centred.
    expect(key(left, { fit: 'fit' })).toBe(key(null, {}));
    expect(key(left, {})).not.toBe(key(null, {}));
  });
});
