/** Random looks over everything a document can hold, and what must hold for each of them. */
import { describe, expect, it } from 'vitest';
import { edit, emptyLook, type Layer, type LookDocument, readLook, resolve, type Setting } from '.';
import { BLEND_IDS, PLACEMENT } from '../compositing';
import { Engine } from '../engine';
import { keysOf, type ImageNode } from '../graph';
import { toCodes } from '../image';
import { COMBINATIONS, MATTES } from '../mattes';
import { type ClipFrame, plan } from '../plan';
import { STEPS } from '../steps';
import { A_MINUTE, anyValues, bitsThatDiffer, leafOf, randomFrom, randomPlanes } from '../testing';

const [W, H] = [48, 27];
const SEEDS = Array.from({ length: 48 }, (_, i) => i + 1);
const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const positive = (seed: number): ImageNode =>
  leafOf(
    randomPlanes(3, W, H, seed).map((p) => p.map((v) => Math.abs(v) / 4)),
    W,
    H,
    'light',
    `clip-${seed}`,
  );
const moment: ClipFrame = {
  bedrock: positive(1),
  content: 'abc',
  frame: 7,
  time: A_MINUTE,
  footage: { second: positive(2), matte: positive(3) },
};

type Random = () => number;
const one = <T>(random: Random, of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
const settings = (
  of: { readonly parameters: Parameters<typeof anyValues>[0]['parameters'] },
  random: Random,
): Record<string, Setting> =>
  Object.fromEntries(
    Object.entries(anyValues(of, Math.floor(random() * 1e9))).flatMap(
      ([id, value]): [string, Setting][] => {
        const p = of.parameters.find((q) => q.id === id)!;
        if (p.kind === 'number' && random() < 0.25) {
          const [from, to] = p.soft ?? [p.min, p.max];
          return [[id, { dial: 'push', from, to }]];
        }
        return random() < 0.6 ? [[id, { value }]] : [];
      },
    ),
  );

function randomLayer(look: LookDocument, random: Random): Layer {
  const below = look.layers.map((l) => l.key);
  const source = one(random, [
    'clip',
    'clip',
    'below',
    'fill',
    'footage',
    ...(below.length > 0 ? ['layer' as const] : []),
  ] as const);
  const fills = STEPS.filter((s) => s.family === 'fill'),
    // Tape's raster is too large for the reference engine; tape.test.ts compares it there.
    others = STEPS.filter((s) => s.family !== 'fill' && s.family !== 'tape');
  const chosen = Array.from({ length: Math.floor(random() * 3) }, () => one(random, others));
  const steps = [...(source === 'fill' ? [one(random, fills)] : []), ...chosen].reduce<
    Layer['steps']
  >((all, step) => {
    const use = edit.newStep(
      step,
      all.map((u) => u.key),
    );
    const mix: Setting =
      random() < 0.3
        ? { dial: 'push', from: 0, to: 100 }
        : { value: random() < 0.5 ? 100 : Math.round(random() * 100) };
    return [...all, { ...use, mix, on: random() < 0.9, parameters: settings(step, random) }];
  }, []);
  const kinds = MATTES.filter((m) => m.names !== 'layer' || below.length > 0);
  const mattes = Array.from(
    { length: random() < 0.4 ? 1 + Math.floor(random() * 2) : 0 },
    (_, i) => {
      const kind = one(random, kinds);
      const from =
        kind.names === 'layer' ? one(random, below) : kind.names === 'pin' ? 'matte' : undefined;
      return {
        key: `m-${i}`,
        matte: kind.id,
        on: true,
        combine: one(random, COMBINATIONS),
        invert: random() < 0.3,
        ...(from !== undefined && { from }),
        parameters: settings(kind, random),
      };
    },
  );
  const from =
    source === 'layer' ? one(random, below) : source === 'footage' ? 'second' : undefined;
  return {
    ...edit.newLayer(`layer ${below.length}`, source, below, steps),
    blend: one(random, BLEND_IDS),
    opacity: { value: random() < 0.5 ? 100 : Math.round(random() * 100) },
    ...(from !== undefined && { from }),
    ...(mattes.length > 0 && { mattes }),
    ...(random() < 0.25 && { placement: settings({ parameters: PLACEMENT }, random) }),
  };
}
function randomLook(seed: number): LookDocument {
  const random = randomFrom(seed * 7919);
  for (let i = 0; i < 8; i++) random();
  let look: LookDocument = {
    ...emptyLook(`Random ${seed}`),
    seed,
    pins: [
      { key: 'second', label: 'Second', kind: 'footage', many: false },
      { key: 'matte', label: 'Matte', kind: 'matte', many: false },
    ],
  };
  look = {
    ...look,
    dials: [
      ...look.dials,
      { key: 'push', label: 'Push', kind: 'number', min: 0, max: 100, unit: '%', value: 50 },
    ],
  };
  const layers = 1 + Math.floor(random() * 4);
  for (let i = 0; i < layers; i++)
    look = { ...look, layers: [...look.layers, randomLayer(look, random)] };
  return look;
}
const result = (look: LookDocument): ImageNode => plan(look, moment).result;
const planesOf = (e: Engine, p: ImageNode, how = {}): Float32Array[] => {
  const image = e.compute(p, how);
  return Array.from({ length: image.planes }, (_, i) => e.memory.plane(image, i).slice());
};

describe.each(SEEDS)('the look of seed %i', (seed) => {
  const look = randomLook(seed);

  it('is a document that is read as it was written', () => {
    const read = readLook(JSON.parse(JSON.stringify(look)));
    expect('faults' in read ? read.faults : []).toEqual([]);
    expect(read).toMatchObject({ look });
  });

  it('gives the single reference’s bits, however it is cut into kernels', () => {
    const codes = toCodes(result(look), 'srgb');
    expect(bitsThatDiffer(engine, codes)).toBe(0);
    expect(bitsThatDiffer(engine, codes, true)).toBe(0);
    for (const plane of planesOf(engine, codes)) expect(plane.findIndex(Number.isNaN)).toBe(-1);
  });

  it('gives the same while its dial is dragged there and back as from nothing', () => {
    const dragged = new Engine({ limit: 1 << 27, helpers: 0 });
    let last: ReadonlySet<string> | undefined;
    for (const at of [50, 60, 0, 100, 60]) {
      const codes = toCodes(result(edit.setDial(look, 'push', at)), 'srgb');
      const now = keysOf(codes);
      const keepCheckpoints = last ? new Set([...now].filter((key) => last!.has(key))) : true;
      last = now;
      const fresh = planesOf(engine, codes);
      planesOf(dragged, codes, { keepCheckpoints }).forEach((p, i) =>
        expect(Buffer.from(p.buffer).equals(Buffer.from(fresh[i]!.buffer))).toBe(true),
      );
    }
  });

  it('has no layer or step that is named and not there once something is taken away', () => {
    for (const { key } of look.layers) {
      const read = readLook(JSON.parse(JSON.stringify(edit.removeLayer(look, key))));
      expect('faults' in read ? [key, read.faults] : []).toEqual([]);
    }
    const undialled = edit.removeDial(look, 'push', (s) => resolve(look, s, {}));
    expect('faults' in readLook(JSON.parse(JSON.stringify(undialled)))).toBe(false);
    expect(planesOf(engine, toCodes(result(undialled), 'srgb'))).toEqual(
      planesOf(engine, toCodes(result(look), 'srgb')),
    );
  });
});

it('among them is every kind of matte, every source, most blend modes and most steps', () => {
  const all = SEEDS.flatMap((seed) => randomLook(seed).layers);
  const steps = new Set(all.flatMap((l) => l.steps.map((s) => s.step)));
  expect(new Set(all.flatMap((l) => (l.mattes ?? []).map((m) => m.matte))).size).toBe(
    MATTES.length,
  );
  expect(new Set(all.map((l) => l.source)).size).toBe(5);
  expect(new Set(all.map((l) => l.blend)).size).toBeGreaterThan(BLEND_IDS.length * 0.8);
  expect(steps.size).toBeGreaterThan(STEPS.filter((s) => s.family !== 'tape').length * 0.7);
});
