/** What is gathered for a frame: frames, parts of assets, other footage, and what is missing. */
import { describe, expect, it } from 'vitest';
import { type AssetId, FRAME_ASSETS, WHOLE_ASSETS } from '../assets';
import type { RawFrame } from '../image';
import { edit, emptyLook, type LookDocument } from '../look';
import { stepOf, STEPS } from '../steps';
import { grayFrame } from '../testing';
import { asksFor, gather, type GatherSource } from '.';

const FRAMES = 30;
const clip = { content: 'clip', frames: FRAMES, rate: [25, 1] as const, pins: {} };
const withStep = (id: string, values: Record<string, unknown>): LookDocument => {
  const step = edit.newStep(stepOf(id)!, []);
  const parameters = Object.fromEntries(
    Object.entries(values).map(([k, value]) => [k, { value }]),
  ) as (typeof step)['parameters'];
  return edit.addLayer(
    emptyLook('Gathers', 3),
    edit.newLayer('Top', 'clip', [], [{ ...step, parameters }]),
  );
};
const raw = (at: number): RawFrame =>
  grayFrame(`raw ${at}`, { width: 4, height: 4 }, new Uint8Array(16));
/** A source that writes down what it is asked for, in order. */
function noting(parts: (at: number) => boolean = () => true) {
  const asked: string[] = [];
  const source: GatherSource = {
    frame(at) {
      asked.push(`frame ${at}`);
      return raw(at);
    },
    part(asset, at) {
      asked.push(`${asset} ${at}`);
      return parts(at) ? { width: 2, height: 2, pair: () => undefined as never } : undefined;
    },
    whole(asset, _, at) {
      asked.push(`${asset} for ${at}`);
      return Array.from({ length: FRAMES }, () => 100);
    },
    pins: [],
    prepare: ({ frames }) => void asked.push(`soon ${frames.join(' ')}`),
  };
  return { asked, source };
}

describe('gathering', () => {
  it('asks for the frame alone where a look needs no other', async () => {
    const { asked, source } = noting();
    const { sources } = await gather([null], clip, 7, source);
    expect(asked).toEqual(['soon 7', 'frame 7']);
    expect([...sources.keys()]).toEqual([7]);
  });

  it('asks for parts of the frames that need them, and says which are missing', async () => {
    const blur = withStep('motion-blur', { angle: 180 });
    const { asked, source } = noting();
    const found = await gather([blur], clip, 7, source);
    expect(asked).toEqual(['soon 7', 'frame 7', 'motion 7']);
    expect(found.sources.get(7)!.parts!.motion).toMatchObject({ width: 2 });
    expect(found.missing).toEqual([]);
    expect((await gather([blur], clip, 7, noting(() => false).source)).missing).toEqual(['motion']);
  });

  it('finds what is of the whole footage first, because frames depend on it', async () => {
    const wake = withStep('trail', { unit: 'way', spacing: 200, count: 3 });
    const { asked, source } = noting();
    const found = await gather([wake], clip, 20, source);
    expect(asked[0]).toBe('speeds for 20');
    expect(found.frames).toEqual([16, 18, 20]);
    for (const { found: whole } of found.sources.values()) expect(whole!.speeds![0]).toBe(100);
  });

  it('serves several looks and what is wanted besides at once', async () => {
    const { asked, source } = noting();
    const looks = [withStep('trail', { count: 2, spacing: 4 }), null];
    const found = await gather(looks, clip, 20, source, { also: { motion: [16] } });
    expect(found.frames).toEqual([16, 20]);
    expect(asked).toContain('motion 16');
  });

  it('asks for other footage at the frame that goes with each, and nothing after its end', async () => {
    const { source } = noting();
    const pin = { hash: 'other', start: 0, speed: 1, beyond: 'end' as const };
    const facts = { rate: [25, 1] as const, frames: 21 };
    const shown = () => ({
      ...{ encoding: 'srgb' as const, fit: 'fit' as const },
      ...{ balance: null, pixelAspect: 1 },
    });
    const pins = [{ key: 'paper', pin, facts, frame: raw, shown }];
    const look = withStep('trail', { count: 2, spacing: 4 });
    const found = await gather([look], clip, 24, { ...source, pins });
    expect([...found.beside.get('paper')!]).toEqual([20]);
    expect(found.sources.get(20)!.others['paper']!.raw.key).toBe('raw 20');
    expect(found.sources.get(24)!.others['paper']).toBeNull();
  });
});

describe('a kind of asset', () => {
  const kinds = { ...FRAME_ASSETS, ...WHOLE_ASSETS };
  it('has its own name as id, and what it is made from exists', () => {
    for (const [id, kind] of Object.entries(kinds)) expect(kind.id).toBe(id);
    for (const { from } of Object.values(WHOLE_ASSETS)) expect(from in FRAME_ASSETS).toBe(true);
  });

  it('is asked for by a look exactly when a step that uses it says so', () => {
    for (const step of STEPS) {
      const uses = 'build' in step ? (step.uses ?? {}) : {};
      for (const [asset, use] of Object.entries(uses)) {
        const p = step.parameters.find((q) => q.id === use.id)!;
        const other = p.kind === 'choice' && p.options.find((o) => o.id !== use.at)!.id;
        const [on, off] =
          use.at !== undefined ? [use.at, other] : p.kind === 'number' ? [90, 0] : [true, false];
        expect(asksFor(asset as AssetId, withStep(step.id, { [use.id]: on }))).toBe(true);
        expect(asksFor(asset as AssetId, withStep(step.id, { [use.id]: off }))).toBe(false);
      }
    }
  });
});
