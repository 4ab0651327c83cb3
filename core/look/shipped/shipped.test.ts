import { describe, expect, it } from 'vitest';
import { edit, type LookDocument, SHIPPED, shippedLook } from '..';
import { lookFrame } from '../../clip';
import { Engine } from '../../engine';
import type { ImageNode } from '../../graph';
import { inDomain } from '../../image';
import { type ClipFrame, plan } from '../../plan';
import { A_MINUTE, leafOf, randomPlanes } from '../../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const [W, H] = [192, 108];
const flat = (f: (x: number, y: number) => number | readonly number[]): ImageNode => {
  const planes = [0, 1, 2].map(() => new Float32Array(W * H));
  for (let i = 0; i < W * H; i++) {
    const v = f(i % W, Math.floor(i / W));
    planes.forEach((p, k) => (p[i] = typeof v === 'number' ? v : v[k]!));
  }
  return leafOf(planes, W, H, 'light');
};
const noisy = leafOf(
  randomPlanes(3, W, H, 5).map((p) => p.map((v) => Math.abs(v) / 4)),
  W,
  H,
  'light',
);
const moment = (bedrock: ImageNode, more: Partial<ClipFrame> = {}): ClipFrame => ({
  bedrock,
  content: 'abc',
  frame: 10,
  time: A_MINUTE,
  ...more,
});
const planesOf = (p: ImageNode): Float32Array[] => {
  const image = engine.compute(inDomain(p, 'encoded'));
  return Array.from({ length: image.planes }, (_, i) => engine.memory.plane(image, i).slice());
};
const dialled = (look: LookDocument, values: Record<string, number>): LookDocument =>
  Object.entries(values).reduce((l, [k, v]) => edit.setDial(l, k, v), look);
const ends = (look: LookDocument): LookDocument[] =>
  look.dials.flatMap((d) =>
    d.kind === 'number' ? [d.min!, d.max!].map((v) => edit.setDial(look, d.key, v)) : [],
  );

describe.each(SHIPPED.map((s) => [s.id, s.look] as const))('%s', (_, look) => {
  it('gives finite numbers at both ends of every dial, also from light far beyond white', () => {
    const hot = flat((x) => (x < 20 ? 400 : x < 40 ? -2 : 0.2));
    for (const l of [look, ...ends(look)])
      for (const p of planesOf(plan(l, moment(hot)).result))
        expect(p.every(Number.isFinite)).toBe(true);
  });
  it('is the clip at no strength', () =>
    expect(plan(dialled(look, { strength: 0 }), moment(noisy)).result).toBe(noisy));
});

describe('Brine', () => {
  // Greys on the left, the light of skin on the right.
  const SKIN = [0.42, 0.26, 0.18] as const;
  const shot = flat((x) => (x < W / 2 ? 0.3 : SKIN));
  const patch = (values: Record<string, number>, x: number) => {
    const planes = planesOf(plan(dialled(shippedLook('brine')!, values), moment(shot)).result);
    return planes.slice(0, 3).map((p) => p[54 * W + x]!) as [number, number, number];
  };
  it('makes night of grey, and leaves skin its warmth', () => {
    const [grey, skin] = [patch({}, 48), patch({}, 144)];
    expect(grey[2]).toBeGreaterThan(grey[0] * 1.15);
    expect(skin[0]).toBeGreaterThan(skin[2] * 1.25);
    expect(Math.max(...grey)).toBeLessThan(0.5);
  });
  it('is cold all over without its skin dial, and still at all with nothing dialled in', () => {
    const cold = patch({ skin: 0 }, 144),
      kept = patch({ skin: 100 }, 144);
    expect(cold[0] / cold[2]).toBeLessThan(0.8 * (kept[0] / kept[2]));
    const none = patch({ depth: 0, cold: 0, skin: 0 }, 48);
    expect(Math.max(...none) - Math.min(...none)).toBeLessThan(1e-4);
  });
});

describe('Folded Harbour', () => {
  it('has no empty corner, however it is folded and turned', () => {
    const look = shippedLook('folded-harbour')!;
    for (const turn of [-180, -137, -45, -3, 0, 30, 90, 171])
      for (const fold of [0, 50, 100]) {
        const planes = planesOf(
          plan(dialled(look, { turn, fold }), moment(flat(() => 0.5))).result,
        );
        if (planes[3]) expect([turn, fold, Math.min(...planes[3])]).toEqual([turn, fold, 1]);
        // A flat picture stays flat except for its darkened corners; no black comes in.
        expect(planes[1]![54 * W + 96]!).toBeGreaterThan(0.3);
        expect(Math.min(...planes[1]!)).toBeGreaterThan(0.2);
      }
  });
  it.each([
    [12, 5],
    [1, 1],
    [9, 16],
  ] as const)('has no empty corner in a frame of %i:%i either', (...shape) => {
    const framed = lookFrame(
      { shape: [...shape], lies: 'bars', rounded: 0 },
      { width: W, height: H },
    )!;
    const { width, height } = framed;
    const bedrock = leafOf(
      [0, 1, 2].map(() => new Float32Array(width * height).fill(0.5)),
      width,
      height,
      'light',
    );
    const [, g] = planesOf(
      plan(
        dialled(shippedLook('folded-harbour')!, { turn: 33, fold: 70 }),
        moment(bedrock, { framed }),
      ).result,
    );
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++) {
        const inside =
          x >= framed.x && x < framed.x + width && y >= framed.y && y < framed.y + height;
        if (inside ? g![y * W + x]! < 0.2 : g![y * W + x]! !== 0)
          throw new Error(`${x} ${y}: ${g![y * W + x]}`);
      }
  });
  it('mirrors what it keeps', () => {
    const planes = planesOf(
      plan(
        {
          ...shippedLook('folded-harbour')!,
          layers: shippedLook('folded-harbour')!.layers.slice(0, 1),
        },
        moment(noisy),
      ).result,
    );
    for (const [x, y] of [
      [20, 30],
      [70, 12],
    ] as const)
      expect(planes[0]![y * W + x]).toBeCloseTo(planes[0]![y * W + (W - 1 - x)]!, 2);
  });
});

describe('Two Shores', () => {
  const figure = (x: number, y: number) => Math.abs(x - 96) < 20 && y > 20;
  const second = flat(() => [0.05, 0.2, 0.4]);
  const look = shippedLook('two-shores')!;
  const planes = planesOf(
    plan(
      look,
      moment(
        flat((x, y) => (figure(x, y) ? 0.02 : 0.75)),
        { footage: { second } },
      ),
    ).result,
  );
  it('has the ground near white and shows the other shore through the figure', () => {
    const at = (x: number, y: number) => planes.slice(0, 3).map((p) => p[y * W + x]!);
    at(10, 10).forEach((v) => expect(v).toBeGreaterThan(0.95));
    const [r, g, b] = at(96, 60);
    expect(b!).toBeGreaterThan(g!);
    expect(g!).toBeGreaterThan(r!);
    expect(b! - r!).toBeGreaterThan(0.15);
  });
  it('leaves white beside a portrait clip', () => {
    const side = flat(() => 0.75);
    const bars = plan(
      look,
      moment(
        leafOf(
          [...planesOf(side).map(() => new Float32Array(W * H)), new Float32Array(W * H)],
          W,
          H,
          'light',
        ),
        { footage: { second } },
      ),
    );
    expect(planesOf(bars.result)[0]![0]!).toBeGreaterThan(0.9);
  });
});

describe('Late Gold', () => {
  const look = shippedLook('late-gold')!;
  const grey = flat(() => 0.18);
  it('is warm, and brightest at its sun, wherever that is set', () => {
    for (const [x, y] of [
      [0.25, 0.3],
      [0.8, 0.6],
    ] as const) {
      const [r, , b] = planesOf(plan(look, moment(grey, { places: { sun: [[x, y]] } })).result);
      const there = Math.floor(y * H) * W + Math.floor(x * W);
      expect(r![there]!).toBeGreaterThan(Math.max(r![0]!, r![W - 1]!, r![W * H - 1]!));
      expect(r![54 * W + 96]!).toBeGreaterThan(b![54 * W + 96]!);
    }
  });
  it('has a flare that takes on the grain of the picture', () => {
    const rough = (l: LookDocument) => {
      const [, g] = planesOf(
        plan(
          l,
          moment(
            flat((x, y) => 0.18 * (1 + 0.1 * ((x * 7 + y * 13) % 3) - 0.1)),
            { places: { sun: [[0.5, 0.5]] } },
          ),
        ).result,
      );
      const row = g!.slice(50 * W + 80, 50 * W + 112);
      return row.slice(1).reduce((s, v, i) => s + Math.abs(v - row[i]!), 0);
    };
    const without = edit.setConstant(look, 'sun', 'flare', 'grain', 0);
    expect(rough(look)).toBeGreaterThan(rough(without));
  });
});

describe('Soft Lens', () => {
  it('at half strength lies half way to the clip everywhere: one dial tames it all', () => {
    const look = shippedLook('soft-lens')!;
    const still = edit.changeStep(look, 'frame', 'grain', { on: false });
    const [full, half, none] = [100, 50, 0].map((strength) =>
      planesOf(plan(dialled(still, { strength }), moment(noisy)).result),
    );
    half!
      .slice(0, 3)
      .forEach((p, k) =>
        p.forEach((v, i) => expect(v).toBeCloseTo((full![k]![i]! + none![k]![i]!) / 2, 3)),
      );
  });
  it('closes to wide-screen bars with round corners, black to the last number', () => {
    const [, g] = planesOf(
      plan(dialled(shippedLook('soft-lens')!, { frame: 100 }), moment(flat(() => 0.5))).result,
    );
    expect(g!.slice(0, W).every((v) => v === 0)).toBe(true);
    expect(g![54 * W + 96]!).toBeGreaterThan(0.3);
  });
});

describe('Signal Figure', () => {
  const look = shippedLook('signal-figure')!;
  it('changes the figure and, but for its light about it, nothing else', () => {
    const matte = flat((x, y) => (Math.abs(x - 60) < 10 && Math.abs(y - 54) < 30 ? 1 : 0));
    const [before, after] = [
      planesOf(noisy),
      planesOf(plan(look, moment(noisy, { footage: { figure: matte } })).result),
    ];
    expect(after[0]![54 * W + 160]).toBeCloseTo(before[0]![54 * W + 160]!, 3);
    expect(after[2]![54 * W + 60]! - after[0]![54 * W + 60]!).toBeGreaterThan(0.1);
  });
});
