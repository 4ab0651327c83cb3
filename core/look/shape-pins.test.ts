/** Pins of ovals and outlines: what they set, what stands in, and mattes drawn by hand. */
import { describe, expect, it } from 'vitest';
import { placesInFrame } from '../clip';
import { stepOf } from '../steps';
import { A_MINUTE } from '../testing';
import {
  answers,
  bindPins,
  edit,
  emptyLook,
  evaluationAt,
  inWords,
  lackingPins,
  type LookDocument,
  type MatteUse,
  pinsOutside,
  readLook,
  resolveLayer,
  type Setting,
} from '.';

const FOLLOWED = { pins: new Set(['it']), fading: new Set<string>() };
const OVAL = { x: 0.5, y: 0.25, rx: 0.1, ry: 0.2, turn: 20 } as const;
const FRAMING = { clip: [1920, 1080], frame: [1920, 1080], fit: 'fit' } as const;
const NODES = [
  [0.125, 0.125, 0, 0, 0, 0],
  [0.625, 0.125, 0, 0, 0, 0],
  [0.625, 0.875, 0, 0, 0, 0],
] as const;

/** A look that asks for a pin, with a gradient, a matte drawn on its layer, and settings of both. */
function asking(
  kind: 'oval' | 'outline' | 'matte' | 'point',
  step: Record<string, Setting>,
  matte: readonly [string, Record<string, Setting>],
): LookDocument {
  const look = edit.addPin(emptyLook('Asks', 1), { key: 'it', label: 'It', kind, many: true });
  const use = edit.newStep(stepOf('radial-gradient')!, []);
  const drawn: MatteUse = {
    ...{ key: 'drawn', matte: matte[0], on: true, combine: 'or', invert: false },
    parameters: {},
  };
  const layer = edit.newLayer(
    'Top',
    'clip',
    [],
    [{ ...use, parameters: { ...use.parameters, ...step } }],
  );
  const own = { ...drawn, parameters: { ...drawn.parameters, ...matte[1] } };
  return edit.addLayer(look, {
    ...layer,
    mattes: [matte[0] === 'file' ? { ...own, from: 'it' } : own],
  });
}
const AT = { ...A_MINUTE, frame: 0, content: 'a', aspect: 16 / 9 };
const resolvedIn = (look: LookDocument) =>
  resolveLayer(look, look.layers[0]!, evaluationAt(look, {}, AT));
const sized = asking(
  'oval',
  {
    centre: { pin: 'it' },
    radius: { pin: 'it', of: 'width', times: 50, without: 333 },
  },
  ['ellipse', { shape: { pin: 'it', shape: [0.5, 0.5, 60, 40, 0], times: 200 } }],
);

describe('an oval pin', () => {
  it('is read with its sizes, and refused where they are none', () => {
    expect(readLook(JSON.parse(JSON.stringify(sized)))).toEqual({ look: sized });
    const wrong = (radius: object) => {
      const read = readLook(
        JSON.parse(JSON.stringify(asking('oval', { radius: radius as Setting }, ['ellipse', {}]))),
      );
      return 'faults' in read ? inWords(read.faults) : 'no fault';
    };
    expect(wrong({ pin: 'it', of: 'depth', without: 1 })).toMatch(/must be one of width, height/);
    expect(wrong({ pin: 'it', of: 'width' })).toMatch(/without/);
    expect(wrong({ pin: 'it', of: 'width', without: 3, times: 1e9 })).toMatch(/number of per cent/);
  });
  it('sets places, shapes by its size, and numbers by a part of it', () => {
    const bound = bindPins(sized, placesInFrame({ it: [OVAL] }, FRAMING));
    const { steps, mattes } = resolvedIn(bound);
    expect(steps[0]!.values['centre']).toEqual([0.5, 0.25]);
    // Half of its width: 2 × 0.1 × 1080 lines.
    expect(steps[0]!.values['radius']).toBeCloseTo(108, 9);
    expect(mattes[0]!.values[0]!['shape']).toEqual([0.5, 0.25, 216, 432, 20]);
  });
  it('stands in the middle with the look’s own sizes until a clip sets it', () => {
    for (const look of [sized, bindPins(sized, {})]) {
      const { steps, mattes } = resolvedIn(look);
      expect(steps[0]!.values['radius']).toBe(333);
      expect(mattes[0]!.values[0]!['shape']).toEqual([0.5, 0.5, 60, 40, 0]);
    }
  });
  it('sets a place by its middle, which is the centre until a clip sets it', () => {
    for (const look of [sized, bindPins(sized, {})])
      expect(resolvedIn(look).steps[0]!.values['centre']).toEqual([0.5, 0.5]);
  });
  it('is answered by a point too, with the look’s own sizes around it', () => {
    const bound = bindPins(sized, placesInFrame({ it: [{ x: 0.2, y: 0.3 }] }, FRAMING));
    const { steps, mattes } = resolvedIn(bound);
    expect(steps[0]!.values['radius']).toBe(333);
    expect(mattes[0]!.values[0]!['shape']).toEqual([0.2, 0.3, 60, 40, 0]);
  });
  it('answers a point pin by its middle', () => {
    const look = asking('point', { centre: { pin: 'it' } }, [
      'ellipse',
      { shape: { pin: 'it', shape: [0.5, 0.5, 60, 40, 0] } },
    ]);
    const { steps, mattes } = resolvedIn(bindPins(look, placesInFrame({ it: [OVAL] }, FRAMING)));
    expect(steps[0]!.values['centre']).toEqual([0.5, 0.25]);
    expect(mattes[0]!.values[0]!['shape']).toEqual([0.5, 0.25, 60, 40, 0]);
  });
  it('repeats for each of several, and holds numbers within their range', () => {
    const wide = { ...OVAL, rx: 5 };
    const bound = bindPins(sized, placesInFrame({ it: [OVAL, wide] }, FRAMING));
    const { steps, mattes } = resolvedIn(bound);
    const { max } = stepOf('radial-gradient')!.parameters.find((p) => p.id === 'radius') as {
      max: number;
    };
    expect(steps.map((s) => s.values['radius'])).toEqual([
      expect.closeTo(108, 9),
      Math.min(max, 5400),
    ]);
    expect(mattes[0]!.values).toHaveLength(2);
  });
  it('is followed: each frame has its own', () => {
    const bound = bindPins(sized, placesInFrame({ it: [OVAL] }, FRAMING), FOLLOWED);
    const at = (x: number, rx: number) =>
      resolveLayer(
        bound,
        bound.layers[0]!,
        evaluationAt(
          bound,
          {},
          {
            ...AT,
            followed: () => ({ places: placesInFrame({ it: [{ ...OVAL, x, rx }] }, FRAMING) }),
          },
        ),
      );
    expect(at(0.3, 0.1).steps[0]!.values).toMatchObject({ centre: [0.3, 0.25] });
    expect(at(0.3, 0.2).steps[0]!.values['radius']).toBeCloseTo(216, 9);
    expect(at(0.7, 0.2).mattes[0]!.values[0]!['shape']).toEqual([0.7, 0.25, 432, 432, 20]);
  });
});

describe('a place that is lost', () => {
  const fading: LookDocument = {
    ...sized,
    pins: sized.pins!.map((p) => ({ ...p, lost: 'fade' as const, over: 6 })),
  };
  /** The layer at a frame on which the first of two ovals is there to a share. */
  const at = (look: LookDocument, share: number) => {
    const places = placesInFrame({ it: [OVAL, OVAL] }, FRAMING);
    const fades = look.pins!.some((p) => p.lost === 'fade');
    const bound = bindPins(look, places, {
      ...FOLLOWED,
      fading: new Set(fades ? ['it'] : []),
    });
    const followed = () => ({ places, present: { it: [share, 1] } });
    return resolveLayer(bound, bound.layers[0]!, evaluationAt(bound, {}, { ...AT, followed }));
  };
  it('takes what hangs on it along, each place by itself', () => {
    const { steps, mattes, opacity } = at(fading, 0.25);
    expect(steps.map((s) => s.mix)).toEqual([0.25, 1]);
    expect(mattes[0]!.values.map((v) => v['strength'])).toEqual([25, 100]);
    expect(opacity).toBe(1);
    expect(at(fading, 1).steps.map((s) => s.mix)).toEqual([1, 1]);
  });
  it('does not fade where it is taken once', () => {
    const centre: Setting = { pin: 'it', once: 'start' };
    const once: LookDocument = {
      ...fading,
      layers: fading.layers.map((l) => ({
        ...l,
        steps: l.steps.map((s) => ({ ...s, parameters: { centre } })),
      })),
    };
    expect(at(once, 0.25).steps.map((s) => s.mix)).toEqual([1, 1]);
  });
  it('is held where the look does not ask otherwise', () => {
    const { steps, mattes } = at(sized, 0.25);
    expect(steps.map((s) => s.mix)).toEqual([1, 1]);
    expect(mattes[0]!.values.map((v) => v['strength'])).toEqual([100, 100]);
  });
  it('is read as the look asks, and in no other way', () => {
    expect(readLook(JSON.parse(JSON.stringify(fading)))).toEqual({ look: fading });
    const pins = [{ ...fading.pins![0]!, lost: 'vanish' }];
    const read = readLook(JSON.parse(JSON.stringify({ ...fading, pins })));
    expect('faults' in read && inWords(read.faults)).toMatch(/lost must be one of/);
  });
  it('takes a layer along that is placed by it', () => {
    const placed: LookDocument = {
      ...fading,
      layers: fading.layers.map((l) => ({ ...l, placement: { position: { pin: 'it' } } })),
    };
    expect(at(placed, 0.5).opacity).toBe(0.5);
  });
});

describe('an outline pin', () => {
  const look = asking('outline', {}, ['path', { path: { pin: 'it' } }]);
  it('sets a drawn path, and is the whole frame until it is set', () => {
    const bound = bindPins(look, placesInFrame({ it: [{ nodes: NODES }] }, FRAMING));
    expect(resolvedIn(bound).mattes[0]!.values[0]!['path']).toEqual(NODES);
    const whole = resolvedIn(bindPins(look, {})).mattes[0]!.values[0]!['path'];
    expect(whole).toHaveLength(4);
    expect(resolvedIn(look).mattes[0]!.values[0]!['path']).toEqual(whole);
  });
  it('is outside the frame where its middle is', () => {
    const moved = NODES.map(([x, y, ...more]) => [x + 0.7, y, ...more] as const);
    expect(pinsOutside(look, { it: [{ nodes: NODES }] }, FRAMING)).toEqual([]);
    expect(pinsOutside(look, { it: [{ nodes: moved }] }, FRAMING)).toHaveLength(1);
  });
});

describe('a matte pin', () => {
  const look = asking('matte', {}, ['file', { grow: { value: 7 } }]);
  it('is answered by footage, a trace, an outline or an oval', () => {
    const lacks = (v: Parameters<typeof answers>[0]) => lackingPins(look, { it: [v] }).length > 0;
    expect(lacks({ hash: 'abcdef12', start: 0, speed: 1 })).toBe(false);
    expect(lacks({ nodes: NODES })).toBe(false);
    expect(lacks(OVAL)).toBe(false);
    expect(lacks({ trace: 'any' })).toBe(false);
    expect(lacks({ x: 0.1, y: 0.1 })).toBe(true);
    expect(lacks({ frame: 3 })).toBe(true);
  });
  it('becomes a shape drawn by hand, with its own growth', () => {
    const [outline] = resolvedIn(
      bindPins(look, placesInFrame({ it: [{ nodes: NODES }] }, FRAMING)),
    ).mattes;
    expect(outline).toMatchObject({ matte: 'path', from: undefined });
    expect(outline!.values[0]).toMatchObject({ path: NODES, grow: 7 });
    const [oval] = resolvedIn(bindPins(look, placesInFrame({ it: [OVAL] }, FRAMING))).mattes;
    expect(oval).toMatchObject({ matte: 'ellipse' });
    expect(oval!.values[0]).toMatchObject({ shape: [0.5, 0.25, 108, 216, 20], grow: 7 });
  });
  it('stays a file until then', () => {
    expect(resolvedIn(bindPins(look, {})).mattes[0]).toMatchObject({ matte: 'file', from: 'it' });
    const point = placesInFrame({ it: [{ trace: 'not made' }] }, FRAMING);
    expect(resolvedIn(bindPins(look, point, FOLLOWED)).mattes[0]).toMatchObject({
      matte: 'file',
    });
  });
});
