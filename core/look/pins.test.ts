import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  cueFrame,
  edit,
  emptyLook,
  inWords,
  lackingPins,
  type LookDocument,
  bindPins,
  pinsOutside,
  readLook,
} from '.';
import { placesInFrame } from '../clip';
import { placeInClip, placeInFrame } from '../places';
import { Engine } from '../engine';
import { plan } from '../plan';
import { stepOf } from '../steps';
import { A_MINUTE, bitsThatDiffer, leafOf, randomPlanes } from '../testing';

const asking = edit.addPin(emptyLook('Eyes'), {
  key: 'eyes',
  label: 'Eyes',
  kind: 'point',
  many: true,
});
const lit: LookDocument = edit.setParameter(
  edit.addLayer(asking, {
    ...edit.newLayer('light', 'fill', [], [edit.newStep(stepOf('radial-gradient')!, [])]),
    blend: 'add-light',
  }),
  'light',
  'radial-gradient',
  'centre',
  { pin: 'eyes' },
);
const engine = new Engine({ limit: 1 << 26, helpers: 0 });
const [W, H] = [64, 36];
const bedrock = leafOf(
  randomPlanes(3, W, H, 3).map((p) => p.map(() => 0)),
  W,
  H,
  'light',
);
const lightAt = (
  look: LookDocument,
  points: Record<string, [number, number][]>,
): ((x: number, y: number) => number) => {
  const image = engine.planes(
    engine.compute(
      plan(look, { bedrock, content: 'a', frame: 0, time: A_MINUTE, places: points }).result,
    ),
  );
  const plane = image.planes[0]!.slice();
  return (x, y) => plane[Math.floor(y * H) * image.stride + Math.floor(x * W)]!;
};

describe('pins', () => {
  it('are asked for in a look that can be read, and by no name that is not asked for', () => {
    expect(readLook(JSON.parse(JSON.stringify(lit)))).toEqual({ look: lit });
    const read = readLook(
      JSON.parse(
        JSON.stringify(
          edit.setParameter(lit, 'light', 'radial-gradient', 'centre', { pin: 'ears' }),
        ),
      ),
    );
    expect('faults' in read && inWords(read.faults)).toMatch(
      /names the pin "ears", which the look does not ask for/,
    );
    const wrong = readLook(
      JSON.parse(
        JSON.stringify(
          edit.setParameter(lit, 'light', 'radial-gradient', 'radius', { pin: 'eyes' }),
        ),
      ),
    );
    expect('faults' in wrong && inWords(wrong.faults)).toMatch(/a point pin cannot set a number/);
  });
  it('repeat what is bound to them for each place, with the same settings', () => {
    const small = edit.setConstant(lit, 'light', 'radial-gradient', 'radius', 100);
    const both = lightAt(small, {
      eyes: [
        [0.25, 0.5],
        [0.75, 0.5],
      ],
    });
    expect(both(0.25, 0.5)).toBeGreaterThan(0.8);
    expect(both(0.75, 0.5)).toBeCloseTo(both(0.25, 0.5), 5);
    expect(both(0.5, 0.5)).toBe(0);
    // Where only one of two points reaches, the light is the same as with that point alone.
    expect(lightAt(small, { eyes: [[0.25, 0.5]] })(0.25, 0.5)).toBe(both(0.25, 0.5));
  });
  it('fall back to the centre where a clip has set none', () => {
    const none = lightAt(lit, {});
    expect(none(0.5, 0.5)).toBeGreaterThan(0.8);
    expect(lackingPins(lit, {}).map((p) => p.key)).toEqual(['eyes']);
    expect(lackingPins(lit, { eyes: [{ x: 0.1, y: 0.1 }] })).toEqual([]);
    expect(lackingPins(lit, { eyes: [{ frame: 4 }] }).map((p) => p.key)).toEqual(['eyes']);
  });
  it('give the single reference’s bits for several places', () => {
    const { result } = plan(lit, {
      bedrock,
      content: 'a',
      frame: 0,
      time: A_MINUTE,
      places: {
        eyes: [
          [0.2, 0.3],
          [0.6, 0.7],
          [1.2, -0.1],
        ],
      },
    });
    expect(bitsThatDiffer(engine, result)).toBe(0);
  });
  it('leave a look that asks for none as it is', () => {
    expect(bindPins(emptyLook('None'), { eyes: [[0, 0]] })).toEqual(emptyLook('None'));
  });
  it('stay on the subject however the clip is framed', () => {
    const portrait = { clip: [540, 960], frame: [1920, 1080] } as const;
    // With “fit”, the clip's upper edge is the frame's, but its left edge is not.
    expect(placeInFrame([0, 0], { ...portrait, fit: 'fit' })).toEqual([
      expect.closeTo(0.5 - (540 * 1.125) / 1920 / 2, 9),
      0,
    ]);
    expect(placeInFrame([0, 0], { ...portrait, fit: 'fill' })[0]).toBe(0);
    expect(
      placesInFrame({ a: [{ x: 0.5, y: 0.5 }, { frame: 3 }] }, { ...portrait, fit: 'fit' }),
    ).toEqual({ a: [[0.5, 0.5]] });
    const share = fc.double({ min: -1, max: 2, noNaN: true });
    fc.assert(
      fc.property(share, share, fc.constantFrom('fit' as const, 'fill' as const), (x, y, fit) => {
        const back = placeInClip(placeInFrame([x, y], { ...portrait, fit }), { ...portrait, fit });
        expect(back[0]).toBeCloseTo(x, 9);
        expect(back[1]).toBeCloseTo(y, 9);
      }),
    );
  });
  it('say which of them the frame does not show', () => {
    const portrait = { clip: [540, 960], frame: [1920, 1080] } as const;
    const high = { eyes: [{ x: 0.5, y: 0.05 }] };
    expect(pinsOutside(lit, high, { ...portrait, fit: 'fit' })).toEqual([]);
    expect(pinsOutside(lit, high, { ...portrait, fit: 'fill' }).map((p) => p.key)).toEqual([
      'eyes',
    ]);
  });
  it('are taken off a look, and what they set is the default again', () => {
    const without = edit.removePin(lit, 'eyes');
    expect(without.pins).toBeUndefined();
    expect(without.layers[0]!.steps[0]!.parameters['centre']).toBeUndefined();
    expect('look' in readLook(JSON.parse(JSON.stringify(without)))).toBe(true);
  });
  it('say which frame the cue is, or the middle', () => {
    const cued = edit.addPin(emptyLook('Cue'), {
      key: 'strike',
      label: 'Strike',
      kind: 'cue',
      many: false,
    });
    expect(cueFrame(cued, { pins: { strike: [{ frame: 12 }] }, frames: 80 })).toBe(12);
    expect(cueFrame(cued, { pins: { strike: [{ frame: 120 }] }, frames: 80 })).toBe(79);
    expect([
      cueFrame(cued, { pins: {}, frames: 80 }),
      cueFrame(null, { pins: { strike: [{ frame: 12 }] }, frames: 81 }),
    ]).toEqual([40, 40]);
    const part = { pins: { strike: [{ frame: 12 }] }, frames: 80, inOut: { in: 20, out: 59 } };
    expect(cueFrame(cued, part)).toBe(40);
    expect(cueFrame(cued, { ...part, inOut: { in: 10, out: 59 } })).toBe(12);
  });
});

describe('line pins', () => {
  const asked = edit.addPin(emptyLook('Shore'), {
    key: 'shore',
    label: 'Shore',
    kind: 'line',
    many: false,
  });
  const folded = edit.setParameter(
    edit.addLayer(asked, edit.newLayer('fold', 'below', [], [edit.newStep(stepOf('fold')!, [])])),
    'fold',
    'fold',
    'along',
    { pin: 'shore' },
  );
  const framing = { clip: [9, 16], frame: [16, 9], fit: 'fit' } as const;
  it('set the lines of steps, at the clip’s own place in the frame, level where a clip has none', () => {
    expect(readLook(JSON.parse(JSON.stringify(folded)))).toEqual({ look: folded });
    const lineOf = (points: Parameters<typeof bindPins>[1]) =>
      bindPins(folded, points).layers[0]!.steps[0]!.parameters['along'];
    expect(lineOf({})).toEqual({ value: [0.2, 0.5, 0.8, 0.5] });
    const points = placesInFrame({ shore: [{ x: 0, y: 0.25, x2: 1, y2: 0.75 }] }, framing);
    const half = (9 * 9) / 16 / 16 / 2;
    expect(lineOf(points)).toEqual({
      value: [expect.closeTo(0.5 - half, 6), 0.25, expect.closeTo(0.5 + half, 6), 0.75],
    });
    // A value set for a point pin of the same name is not a line.
    expect(lineOf({ shore: [[0.3, 0.3]] })).toEqual({ value: [0.2, 0.5, 0.8, 0.5] });
  });
  it('are lacking until a clip has one, and lie outside where their middle does', () => {
    expect(lackingPins(folded, {}).map((p) => p.key)).toEqual(['shore']);
    expect(lackingPins(folded, { shore: [{ x: 0.1, y: 0.2 }] })).toHaveLength(1);
    expect(lackingPins(folded, { shore: [{ x: 0.1, y: 0.2, x2: 0.9, y2: 0.4 }] })).toHaveLength(0);
    const wide = { clip: [16, 9], frame: [16, 9], fit: 'fit' } as const;
    expect(
      pinsOutside(folded, { shore: [{ x: -0.3, y: 0.5, x2: 1.2, y2: 0.5 }] }, wide),
    ).toHaveLength(0);
    expect(
      pinsOutside(folded, { shore: [{ x: 1.1, y: 0.5, x2: 1.4, y2: 0.5 }] }, wide),
    ).toHaveLength(1);
  });
  it('cannot set a point, and leave the default when they are asked for no longer', () => {
    const read = readLook(
      JSON.parse(
        JSON.stringify(
          edit.setParameter(lit, 'light', 'radial-gradient', 'centre', { pin: 'shore' }),
        ),
      ),
    );
    expect('faults' in read).toBe(true);
    const wrong = edit.addPin(lit, { key: 'shore', label: 'Shore', kind: 'line', many: false });
    const faults = readLook(
      JSON.parse(
        JSON.stringify(
          edit.setParameter(wrong, 'light', 'radial-gradient', 'centre', { pin: 'shore' }),
        ),
      ),
    );
    expect('faults' in faults && inWords(faults.faults)).toMatch(/a line pin cannot set a point/);
    const left = edit.removePin(folded, 'shore');
    expect(left.layers[0]!.steps[0]!.parameters['along']).toBeUndefined();
    expect('look' in readLook(JSON.parse(JSON.stringify(left)))).toBe(true);
  });
});
