/** What two frames share when the footage stands still. */
import { describe, expect, it } from 'vitest';
import { keysOf } from '../graph';
import { inDomain, leaf } from '../image';
import { edit, emptyLook, type LookDocument, shippedLook } from '../look';
import { stepOf } from '../steps';
import { type ClipFrame, plan } from '.';

const [W, H] = [64, 36];
const still = leaf(
  [0, 1, 2].map(() => new Float32Array(W * H)),
  W,
  H,
  'light',
  'still',
);
const at = (frame: number): ClipFrame => ({
  bedrock: still,
  content: 'clip',
  frame,
  time: { frames: 100, rate: [25, 1], cues: {} },
  at,
});
const keysAt = (look: LookDocument, frame: number): Set<string> =>
  keysOf(inDomain(plan(look, at(frame)).result, 'encoded'));
/** The number of nodes a frame needs that the frame before did not have. */
const fresh = (look: LookDocument): number => {
  const before = keysAt(look, 20);
  return [...keysAt(look, 21)].filter((key) => !before.has(key)).length;
};
const withStep = (id: string, parameters: Record<string, number>): LookDocument => {
  const values = Object.fromEntries(Object.entries(parameters).map(([k, value]) => [k, { value }]));
  return edit.addLayer(
    emptyLook('One step'),
    edit.newLayer('Top', 'below', [], [{ ...edit.newStep(stepOf(id)!, []), parameters: values }]),
  );
};

describe('frames of a picture that stands still', () => {
  it.each(['silt', 'late-gold', 'brine', 'two-shores', 'stone-skin'])(
    'are one under %s, which changes with nothing',
    (id) => {
      expect(fresh(shippedLook(id)!)).toBe(0);
    },
  );

  it('differ under Soft Lens by its grain and what is made from it', () => {
    expect(keysAt(shippedLook('soft-lens')!, 20).size).toBeGreaterThan(25);
    expect(fresh(shippedLook('soft-lens')!)).toBeLessThanOrEqual(4);
  });

  it('differ under a step of single pixels only where its pixels read the frame', () => {
    expect(fresh(withStep('exposure', { stops: 1 }))).toBe(0);
    const noise = withStep('noise', { cover: 50 });
    expect(fresh(noise)).toBe(0);
    // Its pixels read the seed.
    const other = keysAt({ ...noise, seed: noise.seed + 1 }, 20);
    expect([...keysAt(noise, 20)].filter((key) => !other.has(key))).not.toEqual([]);
  });
});
