/** Figures as text, sizes of thumbnails, and proposed balances. */
import { afterAll, describe, expect, it } from 'vitest';
import { type ClipStatistics, emptyLook, sampleOfLight, SHIPPED, statisticsOf } from '../../core';
import { Engine } from '../../core/engine';
import { leafOf } from '../../core/testing';
import type { ClipView } from '../data/views';
import { FIRST_WISH, isMeasured, type Proposal, proposals, referenceIn } from './balance-proposals';
import { bareLook } from './bare-look';
import { restingFrame, sized } from './views';
import { bytes, clipFacts, ENCODING_CHOICES, encodingLabel, seconds } from './words';

describe('words', () => {
  it.each([
    [0, '1 kB'],
    [499, '1 kB'],
    [1500, '2 kB'],
    [999_499, '999 kB'],
    [1_250_000, '1.3 MB'],
    [2_000_000_000, '2.0 GB'],
  ])('%d bytes are %s', (n, words) => {
    expect(bytes(n)).toBe(words);
  });

  it.each([
    [50, [25, 1], '2.0 s'],
    [1, [24000, 1001], '0.0 s'],
    [1200, [24000, 1001], '50.0 s'],
  ] as const)('%d frames at %j are %s', (frames, rate, words) => {
    expect(seconds(frames, rate)).toBe(words);
  });

  it('tell a clip by its size, its rate and its length; a still by what it is', () => {
    const clip = {
      kind: 'video',
      format: { width: 1920, height: 1080 },
      rate: [25, 1],
      frames: 80,
      inOut: null,
      retime: null,
      pins: {},
    } as unknown as ClipView;
    expect(clipFacts(clip)).toMatch(/^1920×1080 · .*25.* · 3\.2 s$/);
    expect(clipFacts({ ...clip, inOut: { in: 0, out: 24 } })).toMatch(/1\.0 s$/);
    expect(clipFacts({ ...clip, kind: 'still' })).toMatch(/still$/);
  });

  it('name every encoding there is, each by a name of its own', () => {
    const labels = ENCODING_CHOICES.map((e) => e.label);
    expect(new Set(labels).size).toBe(labels.length);
    for (const { id, label } of ENCODING_CHOICES) expect(encodingLabel(id)).toBe(label);
  });
});

describe('small pictures', () => {
  it.each([
    [{ width: 1920, height: 1080 }, 540, [960, 540]],
    [{ width: 1920, height: 1080 }, 2160, [1920, 1080]],
    [{ width: 1080, height: 1920 }, 270, [152, 270]],
    [{ width: 1440, height: 1080 }, 135, [180, 135]],
  ])('of %j with %d lines are %j', (project, lines, size) => {
    expect(sized(project, lines)).toEqual(size);
  });

  it('show the frame in the middle of what a clip shows', () => {
    const clip = { frames: 81, rate: [25, 1] as const, retime: null, pins: {} };
    expect(restingFrame(clip)).toBe(40);
    expect(restingFrame({ ...clip, frames: 1 })).toBe(0);
    const slow = { places: [{ frame: 0, speed: 50, to: 'smooth' as const }] };
    const at = restingFrame({
      ...clip,
      retime: { ...slow, backwards: false, between: 'nearest' },
    });
    expect(Math.abs(at - 81)).toBeLessThanOrEqual(1);
  });

  it('of what was before lie and last as under the look, and are the same look each time', () => {
    const { look } = SHIPPED.find(({ look }) => look.retime !== undefined)!;
    const bare = bareLook(look)!;
    expect(bare.layers).toEqual([]);
    expect(bare.retime).toEqual(look.retime);
    expect(bareLook(look)).toBe(bare);
    expect(bareLook(emptyLook('Plain'))).toBeNull();
    expect(bareLook(null)).toBeNull();
    expect(bareLook(look, ['frame'])).toEqual(look.frame === undefined ? null : expect.anything());
  });
});

describe('balances that are proposed', () => {
  const engine = new Engine({ limit: 2 ** 26, helpers: 0 });
  afterAll(() => engine.close());
  /** Statistics of a grey wedge under a camera's error: its light times a factor per colour. */
  const wedge = (red: number, green: number, blue: number): ClipStatistics => {
    const steps = Float32Array.from({ length: 64 }, (_, i) => 0.02 + (0.5 * i) / 64);
    const planes = [red, green, blue].map((gain) => steps.map((v) => v * gain));
    return statisticsOf([sampleOfLight(engine, leafOf(planes, 8, 8, 'light'), 1)]);
  };
  const clip = (id: string, statistics: ClipStatistics | null): ClipView =>
    ({ id, name: id, statistics, encoding: 'bt709', balance: null }) as unknown as ClipView;

  it('are none where nothing is measured, or the reference is not', () => {
    const bare = clip('a', null);
    expect(isMeasured(bare)).toBe(false);
    expect(proposals([bare], new Set(['a']), FIRST_WISH)).toEqual([]);
    expect(referenceIn({ ...FIRST_WISH, to: 'reference:7' })).toBe('7');
    expect(referenceIn(FIRST_WISH)).toBeNull();
    const measured = clip('b', wedge(1, 1, 1));
    expect(proposals([measured], new Set(['b']), { ...FIRST_WISH, to: 'reference:7' })).toEqual([]);
  });

  it('bring a warm clip and a dark one towards another, which stays as it is', () => {
    const clips = [
      clip('right', wedge(1, 1, 1)),
      clip('warm', wedge(1.3, 1, 0.75)),
      clip('dark', wedge(0.5, 0.5, 0.5)),
    ];
    const all = proposals(clips, new Set(['right', 'warm', 'dark']), {
      ...FIRST_WISH,
      to: 'right',
    });
    expect(all.map((p) => p.clip.id)).toEqual(['right', 'warm', 'dark']);
    const [right, warm, dark] = all as [Proposal, Proposal, Proposal];
    expect(right.balance).toBeNull();
    expect(Math.abs(warm.then.red)).toBeLessThan(Math.abs(warm.now.red));
    expect(Math.abs(warm.then.blue)).toBeLessThan(Math.abs(warm.now.blue));
    const away = (p: Proposal, which: 'now' | 'then'): number =>
      Math.abs(p[which].middle - right.now.middle);
    expect(away(dark, 'then')).toBeLessThan(away(dark, 'now'));
  });

  it('are for the chosen alone, and say the same of a reference as of a clip like it', () => {
    const [a, b] = [clip('a', wedge(1, 1, 1)), clip('b', wedge(0.6, 0.7, 0.8))];
    const byClip = proposals([a, b], new Set(['b']), { ...FIRST_WISH, to: 'a' });
    const byReference = proposals(
      [b],
      new Set(['b']),
      { ...FIRST_WISH, to: 'reference:7' },
      a.statistics!,
    );
    expect(byClip.map((p) => p.balance)).toEqual(byReference.map((p) => p.balance));
  });
});
