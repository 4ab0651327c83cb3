/**
 * A layer whose source is another look: the same pixels as that look alone, with its dials, time
 * and pins.
 */
import { afterAll, describe, expect, it } from 'vitest';
import { Engine } from '../engine';
import { inDomain } from '../image';
import {
  changesBetween,
  edit,
  emptyLook,
  LOOK_SCHEMA,
  liesWithin,
  type LookDocument,
  pieceOf,
  readLook,
  SHIPPED,
  shippedLook,
  upToDate,
  withPiece,
} from '../look';
import { stepOf } from '../steps';
import { leafOf, randomPlanes } from '../testing';
import type { ClipTime } from '../time';
import { asksFor, type ClipFrame, looksElsewhere, plan, requirements } from '.';

const W = 48,
  H = 27,
  FRAMES = 40,
  FRAME = 21;
const TIME: ClipTime = {
  frames: FRAMES,
  rate: [25, 1],
  cues: { hit: [17], strike: [17], breathe: [17] },
};
const bedrocks = Array.from({ length: FRAMES }, (_, f) =>
  leafOf(
    randomPlanes(3, W, H, 100 + f).map((p) => p.map((v) => Math.abs(v) / 3)),
    W,
    H,
    'light',
    `frame ${f}`,
  ),
);
const at = (frame: number): ClipFrame | undefined => {
  const bedrock = bedrocks[frame];
  return (
    bedrock && {
      bedrock,
      content: 'clip',
      frame,
      time: TIME,
      at,
      places: { point: [[0.4, 0.5]] },
      whole: undefined,
    }
  );
};
const engine = new Engine({ limit: 1 << 28, helpers: 0 });
afterAll(() => engine.close());
const pixels = (look: LookDocument, dials = {}, frame = FRAME): Float32Array[] => {
  const image = engine.compute(inDomain(plan(look, at(frame)!, dials).result, 'light'));
  return Array.from({ length: image.planes }, (_, p) => engine.memory.plane(image, p).slice());
};

/** A look whose only layer has another look as its source. */
const around = (inner: LookDocument, name = 'Around'): LookDocument => {
  const host = edit.addLayer(
    { ...emptyLook(name), bedrock: inner.bedrock, fills: inner.fills ?? false },
    edit.newLayer('Agreed', 'clip', []),
  );
  return edit.beginWithLook(host, 'agreed', inner, { look: inner.name, version: 1 });
};
const constant = (value: number) => ({ value });
const stepped = (
  name: string,
  step: string,
  parameters: Record<string, number | string>,
): LookDocument =>
  edit.addLayer(
    emptyLook(name, 5),
    edit.newLayer(
      'Top',
      'below',
      [],
      [
        {
          ...edit.newStep(stepOf(step)!, []),
          parameters: Object.fromEntries(
            Object.entries(parameters).map(([k, value]) => [k, { value }]),
          ),
        },
      ],
    ),
  );

describe('a look within a look', () => {
  it.each(SHIPPED.map((s) => [s.id, s.look] as const))(
    '%s alone on a layer is the look itself, bit for bit',
    (_, look) => {
      const host = around(look);
      expect(readLook(host)).toHaveProperty('look');
      expect(looksElsewhere(host)).toBe(looksElsewhere(look));
      expect(asksFor('motion', host)).toBe(
        look.retime
          ? asksFor('motion', { ...look, retime: undefined } as never)
          : asksFor('motion', look),
      );
      const [a, b] = [pixels(host), pixels(look)];
      expect(a).toHaveLength(b.length);
      a.forEach((p, i) =>
        expect(Buffer.from(p.buffer).equals(Buffer.from(b[i]!.buffer))).toBe(true),
      );
    },
  );

  it('stands where the layer sets its dials, which dials of the look around it drive and movers move', () => {
    const soft = shippedLook('soft-lens')!;
    const host = around(soft);
    const set = edit.setInnerDial(host, 'agreed', 'bloom', constant(90));
    expect(pixels(set)).toEqual(pixels(soft, { bloom: 90 }));
    const dialled: LookDocument = {
      ...edit.setInnerDial(host, 'agreed', 'strength', { dial: 'how-much', from: 0, to: 100 }),
      dials: [
        ...host.dials,
        { key: 'how-much', label: 'How much', kind: 'number', min: 0, max: 10, value: 5 },
      ],
    };
    expect(readLook(dialled)).toHaveProperty('look');
    expect(pixels(dialled)).toEqual(pixels(soft, { strength: 50 }));
    expect(pixels(dialled, { 'how-much': 0 })).toEqual(pixels(emptyLook('Nothing')));
    const moved: LookDocument = {
      ...host,
      movers: [
        {
          key: 'k',
          name: 'Keys',
          on: true,
          kind: 'keys',
          parameters: {},
          keys: [
            { at: { from: 'start' }, value: 0 },
            { at: { from: 'start', offset: constant(20), unit: 'clip-frames' }, value: 100 },
          ],
          targets: [{ path: 'agreed/+look/strength', how: 'replace' }],
        },
      ],
    };
    expect(readLook(moved)).toHaveProperty('look');
    expect(pixels(moved, {}, 5)).toEqual(pixels(soft, { strength: 25 }, 5));
  });

  it('is seen at another frame with that frame’s values, trails and all', () => {
    const trail = stepped('Trail', 'trail', { count: 4, spacing: 2, fade: 60 });
    const host = around(trail);
    const later = edit.setLayerTime(
      edit.timeLayer(host, 'agreed', true),
      'agreed',
      'offset',
      constant(-6),
    );
    const unit = edit.setLayerTime(later, 'agreed', 'unit', { value: 'clip-frames' } as never);
    const ready = readLook(unit);
    expect(ready).toHaveProperty('look');
    expect(pixels(unit)).toEqual(pixels(trail, {}, FRAME - 6));
    const clip = { content: 'c', frames: FRAMES, rate: [25, 1] as const };
    expect(requirements(unit, clip, FRAME)).toEqual([
      ...requirements(trail, clip, FRAME - 6),
      FRAME,
    ]);
  });

  it('laid on what is below treats that as its clip', () => {
    const brighter = stepped('Brighter', 'exposure', { stops: 1 });
    const twice = edit.beginWithLook(
      edit.addLayer(
        stepped('Twice', 'exposure', { stops: 0.5 }),
        edit.newLayer('Over', 'clip', ['top']),
      ),
      'over',
      brighter,
    );
    const [below, clip] = [pixels(edit.setOver(twice, 'over', 'below'))[0]!, pixels(twice)[0]!];
    const plain = pixels(emptyLook('Nothing'))[0]!;
    plain.forEach((v, i) => {
      expect(below[i]).toBeCloseTo(v * 2 ** 1.5, 4);
      expect(clip[i]).toBeCloseTo(v * 2, 4);
    });
  });

  it('asks through the look around it for what it asks for, under another key where that is taken by another kind', () => {
    const lamp = shippedLook('contour-lamp')!;
    const pin = lamp.pins!.find((p) => p.kind === 'cue')!;
    expect(around(lamp).pins).toEqual(lamp.pins);
    const taken = edit.addLayer(
      edit.addPin(emptyLook('Taken'), { key: pin.key, label: 'Line', kind: 'line', many: false }),
      edit.newLayer('Agreed', 'clip', []),
    );
    const host = edit.beginWithLook(taken, 'agreed', lamp);
    expect(readLook(host)).toHaveProperty('look');
    expect(host.pins!.filter((p) => p.kind === 'cue').map((p) => p.key)).toEqual([`${pin.key}-2`]);
    // A pin that the inner look asks for cannot be removed from the outer one.
    expect(edit.removePin(host, `${pin.key}-2`)).toBe(host);
    const { pins: _, ...lacking } = around(lamp);
    expect(JSON.stringify(readLook(lacking))).toContain(
      'which the look around it does not ask for',
    );
  });

  it('is taken up in another version; what that one lacks is set no more', () => {
    const soft = shippedLook('soft-lens')!;
    const host = edit.setInnerDial(
      edit.setInnerDial(around(soft), 'agreed', 'bloom', constant(90)),
      'agreed',
      'age',
      constant(20),
    );
    const next = { ...soft, dials: soft.dials.filter((d) => d.key !== 'age'), layers: [] };
    const after = edit.takenUp(host, host.looks![0]!.key, next, { look: 'soft', version: 2 });
    expect(readLook(after)).toHaveProperty('look');
    expect(after.layers[0]!.dials).toEqual({ bloom: constant(90) });
    expect(changesBetween(host, after)).toContain(`look ${soft.name} within v1 → v2`);
    // Clamped to a range that has become narrower.
    const narrow = {
      ...soft,
      dials: soft.dials.map((d) => (d.key === 'bloom' ? { ...d, max: 60 } : d)),
    };
    const held = edit.takenUp(host, host.looks![0]!.key, narrow, { look: 'soft', version: 3 });
    expect(readLook(held)).toHaveProperty('look');
    expect(held.layers[0]!.dials).toMatchObject({ bloom: constant(60) });
  });

  it('takes what moved its dials along when it goes, and keeps the pins that clips have set for it', () => {
    const soft = shippedLook('soft-lens')!;
    const moved = edit.addMover(around(soft), 'wave', 'agreed/+look/age');
    expect(readLook(moved)).toHaveProperty('look');
    const without = edit.takenUp(
      moved,
      moved.looks![0]!.key,
      { ...soft, dials: soft.dials.filter((d) => d.key !== 'age'), layers: [] },
      { look: 'soft', version: 2 },
    );
    expect(readLook(without)).toHaveProperty('look');
    expect(without.movers).toBeUndefined();
    const gone = edit.withoutIdleLooks(
      edit.withoutFrom(edit.changeLayer(moved, 'agreed', { source: 'clip' }), 'agreed'),
    );
    expect(readLook(gone)).toHaveProperty('look');
    expect([gone.movers, gone.looks]).toEqual([undefined, undefined]);

    const lamp = shippedLook('contour-lamp')!,
      { key } = lamp.pins!.find((p) => p.kind === 'cue')!;
    const taken = edit.addLayer(
      edit.addPin(emptyLook('Taken'), { key, label: 'Line', kind: 'line', many: false }),
      edit.newLayer('Agreed', 'clip', []),
    );
    const host = edit.beginWithLook(taken, 'agreed', lamp, { look: 'lamp', version: 1 });
    const newer = edit.takenUp(
      host,
      host.looks![0]!.key,
      { ...lamp, seed: 9 },
      { look: 'lamp', version: 2 },
    );
    expect(readLook(newer)).toHaveProperty('look');
    expect(newer.pins).toEqual(host.pins);
  });

  it('goes along in pieces, and goes when no layer begins with it', () => {
    const host = around(shippedLook('contour-lamp')!);
    const piece = pieceOf(host, 'agreed')!;
    expect(readLook(piece)).toHaveProperty('look');
    const other = withPiece(shippedLook('silt')!, piece);
    expect(readLook(other)).toHaveProperty('look');
    expect(other.looks).toHaveLength(1);
    expect(withPiece(other, piece).looks).toHaveLength(1);
    expect(edit.removeLayer(host, 'agreed').looks).toBeUndefined();
  });

  it('cannot lead back to itself, nor lie too deep; older documents within are brought up to date', () => {
    const soft = shippedLook('soft-lens')!;
    expect(liesWithin(around(around(soft)), soft.name)).toBe(true);
    expect(liesWithin(soft, soft.name)).toBe(false);
    const deep = around(around(around(around(soft))));
    expect(JSON.stringify(readLook(deep))).toContain('not deeper');
    expect(readLook(around(around(around(soft))))).toHaveProperty('look');
    const old = { ...around(soft), looks: [{ key: 'o', document: { ...soft, schema: 2 } }] };
    expect(upToDate(old).looks[0]!.document.schema).toBe(LOOK_SCHEMA);
    const broken = {
      ...around(soft),
      looks: [{ key: 'soft-lens', document: { ...soft, dials: [] } }],
    };
    expect(JSON.stringify(readLook(broken))).toContain('looks[0].document.dials');
  });
});
