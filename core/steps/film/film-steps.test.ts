import { describe, expect, it } from 'vitest';
import { lowerSteps, stepOf, type Use } from '..';
import { Engine } from '../../engine';
import { type GaugeId, GAUGES, micronsPerPixel, STOCKS } from '../../film';
import type { ImageNode } from '../../graph';
import { blur, inDomain, shapedBlur, transfer } from '../../image';
import { type Values, withDefaults } from '../../parameters';
import { leafOf, randomPlanes } from '../../testing';
import { filmResponse } from './film-response';
import { ringRadius } from './halation';
import { filmOf, gaussiansOf } from './stage';

const engine = new Engine({ limit: 1 << 30, helpers: 0 });
const use = (id: string, values: Partial<Values>, at: Use['at']): Use => ({
  step: stepOf(id)!,
  values: withDefaults(stepOf(id)!, values),
  mix: 1,
  at,
});
const planesOf = (p: ImageNode): Float32Array[] => {
  const image = engine.compute(p);
  return Array.from({ length: image.planes }, (_, i) => engine.memory.plane(image, i));
};
const atSize = (width: number, height: number, frame = 0): Use['at'] => ({
  frame,
  seconds: frame / 25,
  rate: [25, 1] as const,
  seed: 99,
  width,
  height,
  encoding: 'linear',
});

describe('halation', () => {
  const [W, H] = [961, 541];
  const point = (light: number) => {
    const plane = new Float32Array(W * H);
    plane[270 * W + 480] = light;
    return leafOf([plane, plane, plane], W, H, 'light');
  };
  it.each(Object.keys(GAUGES) as GaugeId[])(
    'of a point on %s is a ring where total reflection puts it, of the energy it states',
    (gauge) => {
      const light = 400,
        level = 0.18 * 2 ** 3;
      const [red, green, blue] = planesOf(
        inDomain(
          lowerSteps(
            [use('halation', { amount: 20, level: 3, green: 30, gauge }, atSize(W, H))],
            point(light),
          ),
          'light',
        ),
      );
      const added = (plane: Float32Array) =>
        plane.reduce((s, v, i) => s + v - (i === 270 * W + 480 ? light : 0), 0);
      // Through the encoded curve and back, light is exact to a few millionths in each pixel.
      expect(added(red!) / (light - level)).toBeCloseTo(0.2, 2);
      expect(added(green!) / added(red!)).toBeCloseTo(0.3, 2);
      expect(blue![270 * W + 300]).toBe(0);
      const row = red!.slice(270 * W + 481, 270 * W + 960);
      const most = row.indexOf(Math.max(...row)) + 1;
      expect(Math.abs((most * micronsPerPixel(gauge, W)) / ringRadius(130) - 1)).toBeLessThan(
        Math.max(0.05, 0.6 / most),
      );
    },
  );
  it('adds nothing where nothing exceeds the level', () => {
    const dim = leafOf(
      randomPlanes(3, 64, 48, 3).map((p) => p.map((v) => (Math.abs(v) / 4.5) * 1.4)),
      64,
      48,
      'light',
    );
    const out = planesOf(
      inDomain(
        lowerSteps([use('halation', { amount: 80, level: 3 }, atSize(64, 48))], dim),
        'light',
      ),
    );
    planesOf(dim).forEach((plane, p) =>
      plane.forEach((v, i) => expect(out[p]![i]!).toBeCloseTo(v, 5)),
    );
  });
  it('lies in the exposure of a film response directly below it, before its curves', () => {
    const at = atSize(W, H);
    const input = point(40);
    const film = lowerSteps([use('film-response', { softness: 0 }, at)], input);
    const both = lowerSteps(
      [use('film-response', { softness: 0 }, at), use('halation', { amount: 40 }, at)],
      input,
    );
    expect(filmOf(both)!.film).toBe(filmOf(film)!.film);
    const [before, after] = [planesOf(film), planesOf(both)];
    // The ring itself stays far below the clipping level, and red rises first.
    const lifted = after.map((p, c) => p[270 * W + 470]! - before[c]![270 * W + 470]!);
    expect(lifted[0]!).toBeGreaterThan(lifted[1]! * 1.5);
    expect(lifted[1]!).toBeGreaterThan(lifted[2]!);
  });
});

describe('the softness of a stock', () => {
  const N = 512;
  it.each([
    ['thirty-five', 1920],
    ['sixteen', 1920],
    ['eight-small', 1920],
    ['eight-large', 3840],
  ] as const)('on %s, %d pixels wide, is each layer’s own at three frequencies', (gauge, width) => {
    const p = micronsPerPixel(gauge, width);
    for (const stock of STOCKS) {
      const layers = stock.sharpness.map((s) => gaussiansOf(s, p));
      for (const cycles of [10, 25, 50]) {
        const f = (cycles / 1000) * p;
        if (f > 0.42) continue;
        // A whole number of waves across the picture.
        const waves = Math.round(f * N),
          exact = waves / N;
        if (waves === 0) continue;
        const wave = Float32Array.from(
          { length: N * 64 },
          (_, i) => 0.5 + 0.4 * Math.cos(2 * Math.PI * exact * ((i % N) + 0.5)),
        );
        const made = planesOf(shapedBlur(leafOf([wave, wave, wave], N, 64, 'none'), layers));
        made.forEach((plane, c) => {
          const row = plane.slice(32 * N + 64, 33 * N - 64),
            phase = row.map((_, i) => 2 * Math.PI * exact * (i + 64.5));
          const span = Math.floor(row.length * exact) / exact;
          let sum = 0;
          for (let i = 0; i < Math.round(span); i++) sum += (row[i]! - 0.5) * Math.cos(phase[i]!);
          const contrast = (2 * sum) / Math.round(span) / 0.4;
          expect(Math.abs(contrast / transfer(layers[c]!, exact) - 1)).toBeLessThan(0.05);
        });
      }
    }
  });
});

describe('gate weave and jump registration', () => {
  const white = leafOf(
    [0, 1, 2].map(() => new Float32Array(160 * 90).fill(1)),
    160,
    90,
    'light',
  );
  it('never uncover an edge, in 200 frames at their strongest', () => {
    for (let frame = 0; frame < 200; frame += 3) {
      const at = atSize(160, 90, frame);
      const uses = [
        use('gate-weave', { across: 40, along: 40, jitter: 70 }, at),
        use('jump-registration', { size: 90, every: 4, splice: true }, at),
      ];
      for (const plane of planesOf(lowerSteps(uses, white)))
        expect(plane.every((v) => v === 1)).toBe(true);
    }
  });
  it('bump at splices: the first frame, where another shot begins, and at cues if asked', () => {
    const [W, H] = [96, 54];
    const dot = new Float32Array(W * H);
    for (let y = -2; y <= 2; y++) for (let x = -2; x <= 2; x++) dot[(27 + y) * W + 48 + x] = 1;
    const picture = leafOf([dot, dot, dot], W, H, 'light');
    // Random jumps at the lowest rate the parameter has.
    const jumps = (values: object, frames: readonly number[]): boolean[] =>
      frames.map((frame) => {
        const at = { ...atSize(W, H, frame), cuts: [20], cues: [30, 40] };
        const [p] = planesOf(
          lowerSteps(
            [use('jump-registration', { size: 160, every: 10_000, back: 3, ...values }, at)],
            picture,
          ),
        );
        const sum = p!.reduce((s, v) => s + v, 0);
        return Math.abs(p!.reduce((s, v, i) => s + v * Math.floor(i / W), 0) / sum - 27) > 0.5;
      });
    const frames = [0, 10, 19, 20, 29, 30, 40, 44];
    expect(jumps({ splice: true }, frames)).toEqual([
      true,
      false,
      false,
      true,
      false,
      false,
      false,
      false,
    ]);
    expect(jumps({ 'splice-cues': true }, frames)).toEqual([
      false,
      false,
      false,
      false,
      false,
      true,
      true,
      false,
    ]);
  });
  it('sway and come back: the picture lies elsewhere from frame to frame, and on the whole where it was', () => {
    const [W, H] = [240, 135];
    const dot = new Float32Array(W * H);
    for (let y = -3; y <= 3; y++) for (let x = -3; x <= 3; x++) dot[(67 + y) * W + 120 + x] = 1;
    const picture = leafOf([dot, dot, dot], W, H, 'light');
    const middles = Array.from({ length: 120 }, (_, frame) => {
      const [p] = planesOf(
        lowerSteps([use('gate-weave', { across: 12, along: 16 }, atSize(W, H, frame))], picture),
      );
      const sum = p!.reduce((s, v) => s + v, 0);
      return p!.reduce((s, v, i) => s + v * (i % W), 0) / sum;
    });
    const mean = middles.reduce((a, b) => a + b, 0) / middles.length;
    expect(Math.abs(mean - 120)).toBeLessThan(0.8);
    expect(Math.max(...middles) - Math.min(...middles)).toBeGreaterThan(0.7);
    expect(Math.max(...middles) - Math.min(...middles)).toBeLessThan((2 * 12 * H) / 1080 + 0.2);
  });
});

describe('dust and scratches', () => {
  const grey = leafOf(
    [0, 1, 2].map(() => new Float32Array(480 * 270).fill(0.5)),
    480,
    270,
    'encoded',
  );
  const changed = (values: Partial<Values>, frame: number): Set<number> => {
    const [plane] = planesOf(
      lowerSteps([use('dust-and-scratches', values, atSize(480, 270, frame))], grey),
    );
    const out = new Set<number>();
    plane!.forEach((v, i) => {
      if (Math.abs(v - 0.5) > 0.02) out.add(i);
    });
    return out;
  };
  it('has dust of a single frame, and scratches that stay for many', () => {
    const [a, b] = [changed({ dust: 40 }, 10), changed({ dust: 40 }, 11)];
    expect(a.size).toBeGreaterThan(50);
    const shared = [...a].filter((i) => b.has(i)).length;
    expect(shared / a.size).toBeLessThan(0.1);
    const columns = (s: Set<number>) => new Set([...s].map((i) => Math.round((i % 480) / 4)));
    const [c, d] = [
      columns(changed({ scratches: 6, life: 80 }, 40)),
      columns(changed({ scratches: 6, life: 80 }, 41)),
    ];
    expect([...c].filter((x) => d.has(x)).length / c.size).toBeGreaterThan(0.6);
  });
  it('is bright, dark or both as it is told', () => {
    const values = (bright: number) => {
      const [plane] = planesOf(
        lowerSteps([use('dust-and-scratches', { dust: 60, bright }, atSize(480, 270, 5))], grey),
      );
      return [
        plane!.reduce((m, v) => Math.min(m, v)),
        plane!.reduce((m, v) => Math.max(m, v)),
      ] as const;
    };
    expect(values(0)[1]).toBeCloseTo(0.5, 3);
    expect(values(100)[0]).toBeCloseTo(0.5, 3);
  });
});

describe('steps of one film', () => {
  const at = atSize(320, 180);
  const input = leafOf(
    randomPlanes(3, 320, 180, 4).map((p) => p.map((v) => Math.abs(v) / 4)),
    320,
    180,
    'light',
  );
  it('are developed once: of a response, halation, a leak, flicker and grain no picture is computed but the last', () => {
    const names = ['film-response', 'halation', 'light-leak', 'density-flicker', 'grain'];
    const values: Record<string, Partial<Values>> = {
      halation: { amount: 20 },
      'light-leak': { amount: 0 },
      'density-flicker': { hand: 0.3, frame: 0.2 },
      grain: { amount: 100 },
    };
    const made = lowerSteps(
      names.map((id) => use(id, values[id] ?? {}, at)),
      input,
    );
    const seen = new Set<ImageNode>();
    const shapes: string[] = [];
    const visit = (n: ImageNode): void => {
      if (seen.has(n)) return;
      seen.add(n);
      if (n.kind === 'operation') {
        shapes.push(n.shape);
        n.inputs.forEach((i) => visit(i.from));
      }
    };
    visit(made);
    expect(shapes.filter((s) => s.startsWith('film-'))).toHaveLength(1);
    expect(filmOf(made)!.name).toBe(
      filmOf(filmResponse.build(inDomain(input, 'encoded'), withDefaults(filmResponse, {}), at))!
        .name,
    );
  });
  it('are each for themselves where something else lies between', () => {
    const made = lowerSteps(
      [
        use('film-response', {}, at),
        use('contrast', { amount: 10 }, at),
        use('grain', { amount: 100 }, at),
      ],
      input,
    );
    expect(filmOf(made)).toBeUndefined();
  });
  it('grain on a picture without film leaves its mean light alone within a hundredth', () => {
    const flat = leafOf(
      [0, 1, 2].map(() => new Float32Array(480 * 270).fill(0.18)),
      480,
      270,
      'light',
    );
    const [plane] = planesOf(
      inDomain(
        lowerSteps(
          [use('grain', { amount: 100, stock: 'night', gauge: 'sixteen' }, atSize(480, 270))],
          flat,
        ),
        'light',
      ),
    );
    expect(plane!.reduce((a, b) => a + b, 0) / plane!.length / 0.18).toBeCloseTo(1, 2);
    expect(new Set(plane!).size).toBeGreaterThan(1000);
  });
});

it('a blur that is one Gaussian for all planes is the blur there was', () => {
  const planes = randomPlanes(3, 120, 90, 8);
  for (const sigma of [1.2, 2.5, 9]) {
    const input = leafOf(planes, 120, 90, 'light');
    const [a, b] = [
      planesOf(
        shapedBlur(
          input,
          [0, 1, 2].map(() => [{ share: 1, sigma }]),
        ),
      ),
      planesOf(blur(input, sigma)),
    ];
    a.forEach((plane, p) =>
      plane.forEach((v, i) => expect(Math.abs(v - b[p]![i]!)).toBeLessThan(0.02)),
    );
  }
});
