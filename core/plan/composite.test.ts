import { describe, expect, it } from 'vitest';
import { plan } from '.';
import { place, PLACEMENT } from '../compositing';
import { Engine } from '../engine';
import type { ImageNode } from '../graph';
import { blur, inDomain } from '../image';
import { edit, emptyLook, type Layer, type LookDocument, readLook, type Setting } from '../look';
import { matteOf } from '../mattes';
import { type ParameterValue, withDefaults } from '../parameters';
import { stepOf } from '../steps';
import { A_MINUTE, bitsThatDiffer, leafOf, randomPlanes } from '../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const [W, H] = [96, 54];
const positive = (planes: number, seed: number): ImageNode =>
  leafOf(
    randomPlanes(planes, W, H, seed).map((p) => p.map((v) => Math.abs(v) / 4)),
    W,
    H,
    'light',
  );
const clip = { bedrock: positive(3, 11), content: 'abc', frame: 3, time: A_MINUTE };
const plane = (p: ImageNode, n = 0): Float32Array =>
  engine.memory.plane(engine.compute(inDomain(p, 'light')), n).slice();
const constants = (v: Record<string, ParameterValue>): Record<string, Setting> =>
  Object.fromEntries(Object.entries(v).map(([k, value]) => [k, { value }]));
const layerOf = (key: string, more: Partial<Layer> = {}): Layer => ({
  ...edit.newLayer(key, 'clip', []),
  ...more,
});
const lookOf = (...layers: Layer[]): LookDocument => ({ ...emptyLook('Test'), layers });
const brighter = { ...edit.newStep(stepOf('exposure')!, []), parameters: constants({ stops: 1 }) };
const ellipse = {
  key: 'e',
  matte: 'ellipse',
  on: true,
  combine: 'or' as const,
  invert: false,
  parameters: constants({ shape: [0.5, 0.5, 200, 200, 0] }),
};
const at = (x: number, y: number) => y * W + x;

describe('mattes of layers and steps', () => {
  it('a layer changes the picture inside its matte alone', () => {
    const before = plane(clip.bedrock),
      after = plane(
        plan(lookOf(layerOf('a', { steps: [brighter], mattes: [ellipse] })), clip).result,
      );
    expect(after[at(2, 2)]).toBeCloseTo(before[at(2, 2)]!, 5);
    expect(after[at(48, 27)]).toBeCloseTo(before[at(48, 27)]! * 2, 5);
  });
  it("a step's matte gives the same picture as a layer's of the same step", () => {
    const ofLayer = plan(
      lookOf(layerOf('a', { steps: [brighter], mattes: [ellipse], blend: 'normal' })),
      clip,
    ).result;
    const ofStep = plan(
      lookOf(layerOf('a', { steps: [{ ...brighter, mattes: [ellipse] }] })),
      clip,
    ).result;
    // Only where the matte is 0 or 1: at its edge one mixes light and the other encoded values.
    const [a, b] = [plane(ofLayer), plane(ofStep)];
    for (const [x, y] of [
      [2, 2],
      [48, 27],
      [52, 30],
      [90, 50],
    ] as const)
      expect(a[at(x, y)]).toBeCloseTo(b[at(x, y)]!, 5);
  });
  it('are told by their owner, for showing', () => {
    const { mattes } = plan(
      lookOf(
        layerOf('a', {
          steps: [{ ...brighter, mattes: [ellipse] }],
          mattes: [{ ...ellipse, invert: true }],
        }),
      ),
      clip,
    );
    const [step, layer] = [plane(mattes.get('a/exposure')!), plane(mattes.get('a')!)];
    step.forEach((v, i) => expect(v + layer[i]!).toBeCloseTo(1, 6));
  });
  it("follow a pin's places, all of them", () => {
    const look = {
      ...lookOf(
        layerOf('a', {
          steps: [brighter],
          mattes: [
            {
              ...ellipse,
              parameters: { shape: { pin: 'eyes', shape: [0, 0, 60, 60, 0] as const } },
            },
          ],
        }),
      ),
      pins: [{ key: 'eyes', label: 'Eyes', kind: 'point' as const, many: true }],
    };
    expect('look' in readLook(look)).toBe(true);
    const cover = plane(
      plan(look, {
        ...clip,
        places: {
          eyes: [
            [0.25, 0.5],
            [0.75, 0.5],
          ],
        },
      }).mattes.get('a')!,
    );
    expect([cover[at(24, 27)], cover[at(48, 27)], cover[at(72, 27)]]).toEqual([1, 0, 1]);
    expect(plane(plan(look, clip).mattes.get('a')!)[at(48, 27)]).toBe(1);
  });
  it("may be another layer's coverage", () => {
    const hole = layerOf('hole', {
      source: 'fill',
      steps: [edit.newStep(stepOf('plain-colour')!, [])],
      mattes: [ellipse],
      opacity: { value: 0.001 },
    });
    const by = {
      key: 'l',
      matte: 'layer',
      on: true,
      combine: 'or' as const,
      invert: false,
      from: 'hole',
      parameters: constants({ by: 'coverage' }),
    };
    const cover = plane(
      plan(lookOf(hole, layerOf('a', { steps: [brighter], mattes: [by] })), clip).mattes.get('a')!,
    );
    expect([cover[at(48, 27)], cover[at(2, 2)]]).toEqual([1, 0]);
  });
});

describe('coverage', () => {
  it('never darkens the edge of a bright subject on clear when it is blurred', () => {
    const inside = (x: number, y: number) => ((x - 48) ** 2 + (y - 27) ** 2 < 200 ? 1 : 0);
    const cover = Float32Array.from({ length: W * H }, (_, i) => inside(i % W, Math.floor(i / W)));
    const subject = leafOf(
      [cover.map((a) => a * 0.9), cover.map((a) => a * 0.8), cover.map((a) => a * 0.7), cover],
      W,
      H,
      'light',
    );
    const soft = blur(subject, 5);
    const [r, a] = [plane(soft), plane(soft, 3)];
    let edges = 0;
    a.forEach((c, i) => {
      if (c < 1e-3) return;
      if (c < 0.9) edges++;
      expect(r[i]! / c).toBeCloseTo(0.9, 3);
    });
    expect(edges).toBeGreaterThan(200);
  });
});

describe('sources', () => {
  it('another layer’s picture is that before it is laid down', () => {
    const a = layerOf('a', { steps: [brighter], opacity: { value: 30 } });
    const [x, y] = [
      plane(plan(lookOf(a, layerOf('b', { source: 'layer', from: 'a' })), clip).result),
      plane(plan(lookOf(layerOf('a', { steps: [brighter] })), clip).result),
    ];
    x.forEach((v, i) => expect(v).toBeCloseTo(y[i]!, 5));
  });
  it('a group used by two layers is computed once', () => {
    const inner = { ...edit.newStep(stepOf('blur')!, []), parameters: constants({ radius: 40 }) };
    const look = (uses: number): LookDocument => ({
      ...lookOf(
        ...Array.from({ length: uses }, (_, i) =>
          layerOf(`use-${i}`, {
            source: 'group',
            from: 'g',
            blend: 'screen',
            opacity: { value: 40 + i },
          }),
        ),
      ),
      groups: [{ key: 'g', name: 'Soft', layers: [layerOf('inner', { steps: [inner] })] }],
    });
    expect('look' in readLook(look(2))).toBe(true);
    const count = (l: LookDocument) => {
      const bench = new Engine({ limit: 1 << 28, helpers: 0 });
      bench.compute(plan(l, clip).result, { keepCheckpoints: true });
      return bench.tally.computed;
    };
    expect(count(look(2)) - count(look(1))).toBe(1);
    expect(plan(look(2), clip).result.key).not.toBe(
      plan(edit.changeLayer(look(2), 'inner', { on: false }), clip).result.key,
    );
  });
  it('a group made from itself is refused, and cannot hang', () => {
    const look: LookDocument = {
      ...lookOf(layerOf('a', { source: 'group', from: 'g' })),
      groups: [{ key: 'g', name: 'G', layers: [layerOf('b', { source: 'group', from: 'g' })] }],
    };
    expect(readLook(look)).toMatchObject({
      faults: [
        { path: 'groups[0]', message: expect.stringContaining('made from itself') as string },
      ],
    });
    expect(plan(look, clip).result).toBeDefined();
  });
  it('footage that a clip has not set is the clip', () => {
    const look = {
      ...lookOf(layerOf('a', { source: 'footage', from: 'second' })),
      pins: [{ key: 'second', label: 'Second', kind: 'footage' as const, many: false }],
    };
    expect('look' in readLook(look)).toBe(true);
    expect(plan(look, clip).result.key).toBe(plan(lookOf(layerOf('a')), clip).result.key);
    const other = positive(3, 29);
    expect(plane(plan(look, { ...clip, footage: { second: other } }).result)).toEqual(plane(other));
  });
  it('grouping a layer changes no pixel', () => {
    const look = lookOf(
      layerOf('a', {
        steps: [brighter],
        mattes: [ellipse],
        blend: 'screen',
        opacity: { value: 60 },
      }),
    );
    const [x, y] = [
      plane(plan(look, clip).result),
      plane(plan(edit.groupLayer(look, 'a'), clip).result),
    ];
    x.forEach((v, i) => expect(y[i]).toBeCloseTo(v, 4));
    expect(
      edit.removeLayer(edit.groupLayer(look, 'a'), edit.groupLayer(look, 'a').layers[0]!.key)
        .groups,
    ).toBeUndefined();
  });
});

describe('placement', () => {
  const at2 = (v: Record<string, ParameterValue>) => withDefaults({ parameters: PLACEMENT }, v);
  const source = positive(3, 41),
    covered = positive(4, 43);
  it('at its own values returns the picture itself', () =>
    expect(place(source, at2({}))).toBe(source));
  it('moves by whole pixels without changing one', () => {
    const moved = place(source, at2({ position: [0.5 + 10 / W, 0.5 + 4 / H] }));
    const [a, b, cover] = [plane(source), plane(moved), plane(moved, 3)];
    expect(b[at(40, 20)]).toBeCloseTo(a[at(30, 16)]!, 4);
    expect([cover[at(5, 20)], cover[at(40, 2)], cover[at(40, 20)]]).toEqual([0, 0, 1]);
  });
  it('turned four times by a quarter in a square frame is the picture again, and half a turn mirrors both ways', () => {
    const half = plane(place(source, at2({ turn: 180 })));
    const a = plane(source);
    expect(half[at(10, 10)]).toBeCloseTo(a[at(W - 11, H - 11)]!, 4);
  });
  it('by corners gives what position and size give', () => {
    const box = at2({
      'by-corners': true,
      'upper-left': [0.25, 0.25],
      'upper-right': [0.75, 0.25],
      'lower-right': [0.75, 0.75],
      'lower-left': [0.25, 0.75],
    });
    const [a, b] = [
      plane(place(source, box)),
      plane(place(source, at2({ 'scale-x': 50, 'scale-y': 50 }))),
    ];
    for (const [x, y] of [
      [30, 20],
      [48, 27],
      [60, 35],
    ] as const)
      expect(a[at(x, y)]).toBeCloseTo(b[at(x, y)]!, 3);
  });
  it.each(['clamp', 'repeat', 'mirror'] as const)(
    'beyond its edge by %s leaves nothing uncovered',
    (edge) => {
      const moved = place(
        source,
        at2({ position: [0.8, 0.2], 'scale-x': 40, 'scale-y': 40, turn: 20, edge }),
      );
      expect(moved.planes).toBe(3);
      expect(Math.min(...plane(place(covered, at2({ edge: 'clamp' }))))).toBeGreaterThanOrEqual(0);
    },
  );
  it('follows the middle of what a key finds in the picture', () => {
    const lamp = (x0: number, y0: number): ImageNode => {
      const light = new Float32Array(W * H).fill(0.02);
      for (let y = y0; y < y0 + 6; y++) light.fill(0.9, y * W + x0, y * W + x0 + 8);
      return leafOf([light, light, light], W, H, 'light');
    };
    const key = {
      key: 'key',
      matte: 'luma-key',
      on: true,
      combine: 'or',
      invert: false,
      parameters: { low: { value: 60 } },
    } as const;
    const solid = {
      ...edit.newStep(stepOf('plain-colour')!, []),
      parameters: { colour: { value: [0, 1, 0] } },
    };
    const look = lookOf(
      layerOf('lit', { mattes: [key] }),
      layerOf('mark', {
        source: 'fill',
        steps: [solid],
        placement: {
          position: { centre: 'lit/key' },
          'scale-x': { value: 4 },
          'scale-y': { value: 4 },
        },
      } as never),
    );
    expect('look' in readLook(look)).toBe(true);
    const greens = (bedrock: ImageNode): [number, number, number] => {
      const { result } = plan(look, { ...clip, bedrock });
      expect(bitsThatDiffer(engine, result)).toBe(0);
      const [g, r] = [plane(result, 1), plane(result, 0)];
      let [n, sx, sy] = [0, 0, 0];
      g.forEach((v, i) => {
        const own = Math.max(0, v - r[i]!);
        n += own;
        sx += own * (i % W);
        sy += own * Math.floor(i / W);
      });
      return [n, sx / n + 0.5, sy / n + 0.5];
    };
    for (const [x, y] of [
      [10, 8],
      [61, 31],
    ] as const) {
      const [n, cx, cy] = greens(lamp(x, y));
      expect(n).toBeGreaterThan(3);
      expect(Math.abs(cx - (x + 4))).toBeLessThan(0.2);
      expect(Math.abs(cy - (y + 3))).toBeLessThan(0.2);
    }
    // Where the key finds nothing, the centre of the frame.
    const [, cx, cy] = greens(
      leafOf(
        [0.02, 0.02, 0.02].map((v) => new Float32Array(W * H).fill(v)),
        W,
        H,
        'light',
      ),
    );
    expect([Math.abs(cx - W / 2) < 0.2, Math.abs(cy - H / 2) < 0.2]).toEqual([true, true]);
  });
  it('covers the frame wherever it is moved and however it is turned', () => {
    for (const v of [
      { turn: 17 },
      { position: [0.7, 0.4], turn: -40 },
      { position: [0.3, 0.5] },
      { turn: 90, 'scale-x': 60 },
      { anchor: [0.3, 0.6], turn: 30 },
    ] as const) {
      const cover = plane(place(source, at2({ ...v, cover: true } as never)), 3);
      expect([JSON.stringify(v), Math.min(...cover)]).toEqual([JSON.stringify(v), 1]);
    }
  });
  it.each(['clear', 'clamp', 'repeat', 'mirror'] as const)(
    "gives the single reference's bits, %s",
    (edge) => {
      for (const from of [source, covered])
        for (const v of [
          { turn: 33, 'scale-x': 40, 'scale-y': -130 },
          { 'by-corners': true, 'upper-left': [0.2, 0.1], 'lower-left': [-0.3, 1.2] },
          { 'scale-x': 7, 'scale-y': 9 },
        ])
          expect(bitsThatDiffer(engine, place(from, at2({ ...v, edge } as never)))).toBe(0);
    },
  );
});

it('a matte needs no more than a key its kind has', () => {
  const look = edit.addMatte(lookOf(layerOf('a')), { layer: 'a' }, matteOf('luma-key')!);
  expect('look' in readLook(look)).toBe(true);
  const wrong = edit.setMatteParameter(look, { layer: 'a' }, 'luma-key', 'lows', { value: 3 });
  expect(readLook(wrong)).toMatchObject({
    faults: [{ path: 'layers[0].mattes[0].parameters.lows' }],
  });
  expect(edit.removeMatte(look, { layer: 'a' }, 'luma-key').layers[0]!.mattes).toBeUndefined();
});

describe('what a look adds stays within what the clip covers', () => {
  // A clip that covers the middle third, half of one column on each side, and nothing else.
  const covered = (x: number) => (x >= 32 && x < 64 ? 1 : x === 31 || x === 64 ? 0.5 : 0);
  const cover = Float32Array.from({ length: W * H }, (_, i) => covered(i % W));
  const fitted = leafOf(
    [0.2, 0.3, 0.4].map((v) => cover.map((a) => a * v)).concat([cover]),
    W,
    H,
    'light',
  );
  const moment = { ...clip, bedrock: fitted };
  const shines = [
    {
      ...edit.newStep(stepOf('plain-colour')!, []),
      parameters: constants({ colour: [1, 0.8, 0.5] }),
    },
    {
      ...edit.newStep(stepOf('glow')!, []),
      parameters: constants({ amount: 100, threshold: 0, radius: 200 }),
    },
  ];

  it.each(['normal', 'screen', 'add-light'] as const)(
    'a light laid down in %s ends where the clip ends',
    (blend) => {
      const look = lookOf(
        layerOf('a', { source: 'fill', blend, steps: [shines[0]!] }),
        layerOf('b', { source: 'below', blend, steps: [shines[1]!] }),
      );
      const { result, strata } = plan(look, moment);
      for (const p of [result, ...strata.values()]) {
        expect(plane(p, 3)).toEqual(cover);
        for (const n of [0, 1, 2])
          plane(p, n).forEach((v, i) => cover[i] === 0 && expect(v).toBe(0));
      }
      expect(plane(result)[at(48, 20)]).toBeGreaterThan(0.2);
    },
  );

  it('a layer that repeats the clip over itself does not count its coverage twice', () => {
    const { result } = plan(lookOf(layerOf('a', { steps: [brighter] })), moment);
    expect(plane(result, 3)).toEqual(cover);
  });

  it('unless the look fills the frame', () => {
    const look = { ...lookOf(layerOf('a', { source: 'fill', steps: [shines[0]!] })), fills: true };
    expect(plane(plan(look, moment).result)[at(3, 3)]).toBeCloseTo(1, 5);
  });

  it('and costs nothing where the clip covers everything', () => {
    const look = lookOf(layerOf('a', { steps: [brighter] }));
    expect(plan(look, clip).result.key).toBe(plan({ ...look, fills: true }, clip).result.key);
  });
});

describe('a step that looks at a layer', () => {
  const bent = {
    ...edit.newStep(stepOf('refract')!, []),
    from: 'spot',
    parameters: constants({ amount: 80, by: 'layer', smooth: 30 }),
  };
  const spot = layerOf('spot', {
    source: 'fill',
    steps: [
      {
        ...edit.newStep(stepOf('plain-colour')!, []),
        parameters: constants({ colour: [1, 1, 1] }),
      },
    ],
    mattes: [ellipse],
  });
  const look = (opacity: number): LookDocument =>
    lookOf({ ...spot, opacity: { value: opacity } }, layerOf('top', { steps: [bent] }));

  it('is bent by it, also where it is laid down at nothing, and only where it has an edge', () => {
    const before = plane(clip.bedrock),
      after = plane(plan(look(0), clip).result);
    expect(after[at(2, 2)]).toBe(before[at(2, 2)]);
    const moved = before.filter((v, i) => Math.abs(v - after[i]!) > 1e-3).length;
    expect(moved).toBeGreaterThan(80);
    // The step bends the layer's own picture, whatever the layer's opacity.
    expect(plan(look(0), clip).strata.get('top')!.key).toBe(
      plan(look(60), clip).strata.get('top')!.key,
    );
  });
  it('is left alone by none, and by one that lies above', () => {
    const none = lookOf(layerOf('top', { steps: [{ ...bent, from: 'nowhere' }] }));
    expect(plan(none, clip).result.key).toBe(plan(lookOf(layerOf('top')), clip).result.key);
    const above = lookOf(layerOf('top', { steps: [bent] }), spot);
    expect(plan(above, clip).strata.get('top')!.key).toBe(
      plan(lookOf(layerOf('top')), clip).strata.get('top')!.key,
    );
  });
  it('loses the word when the layer goes, and is refused a layer that is not there', () => {
    const after = edit.removeLayer(look(100), 'spot');
    expect(after.layers[0]!.steps[0]).not.toHaveProperty('from');
    expect(readLook(look(100))).toHaveProperty('look');
    const read = readLook({ ...look(100), layers: [look(100).layers[1]] });
    expect(JSON.stringify(read)).toContain('must be the key of another layer');
  });
});

describe('the clip before its look', () => {
  const shot = positive(3, 21),
    recorded = positive(3, 22);
  const before = (how: 'shot' | 'recorded') => (how === 'shot' ? shot : recorded);
  it('is the source of layers that ask for it', () => {
    for (const source of ['shot', 'recorded'] as const)
      expect(plane(plan(lookOf(layerOf('a', { source })), { ...clip, before }).result)).toEqual(
        plane(before(source)),
      );
    expect(plan(lookOf(layerOf('a', { source: 'shot' })), clip).strata.get('a')!.key).toBe(
      plan(lookOf(layerOf('a')), clip).strata.get('a')!.key,
    );
  });
});

describe('copies of a placed layer', () => {
  const small = { ...ellipse, parameters: constants({ shape: [0.3, 0.4, 60, 60, 0] }) };
  const placed = (placement: Record<string, Setting>, key = 'a'): Layer =>
    layerOf(key, { steps: [brighter], mattes: [small], placement });
  const set = { 'copy-across': { value: 200 }, 'copy-down': { value: 90 } };
  it('lie as three layers would that are each moved on, the last at the back', () => {
    const copies = plane(plan(lookOf(placed({ copies: { value: 3 }, ...set })), clip).result);
    const moved = (k: number): Layer =>
      placed({ position: { value: [0.5 + (200 * k) / 1920, 0.5 + (90 * k) / 1080] } }, `l${k}`);
    const layers = plane(plan(lookOf(moved(2), moved(1), moved(0)), clip).result);
    copies.forEach((v, i) => expect(v).toBeCloseTo(layers[i]!, 4));
    expect(plane(plan(lookOf(placed({ copies: { value: 1 }, ...set })), clip).result)).toEqual(
      plane(plan(lookOf(placed({})), clip).result),
    );
  });
  it('are fainter by shares, and go later where movers lead the first', () => {
    const dry = {
      ...lookOf(placed({ copies: { value: 2 }, 'copy-fade': { value: 100 }, ...set })),
    };
    expect(plane(plan(dry, clip).result)).toEqual(plane(plan(lookOf(placed({})), clip).result));
    const key = (f: number, x: number) => ({
      at: { from: 'start' as const, offset: { value: f }, unit: 'clip-frames' as const },
      value: [x, 0.5],
    });
    const keys = {
      key: 'k',
      name: 'Keys',
      on: true,
      kind: 'keys',
      parameters: {},
      keys: [key(0, 0.5), key(40, 0.9)],
      targets: [{ path: 'a/+placement/position', how: 'replace' as const }],
    };
    const at = (frame: number, ...layers: Layer[]) =>
      plane(plan({ ...lookOf(...layers), movers: [keys] as never }, { ...clip, frame }).result);
    const late = at(20, placed({ copies: { value: 2 }, 'copy-delay': { value: 10 } }));
    // The second copy lies where the first lay ten frames earlier.
    const still = placed({ position: { value: [0.6, 0.5] } }, 'b');
    at(20, still, placed({})).forEach((v, i) => expect(late[i]).toBeCloseTo(v, 4));
  });
});
