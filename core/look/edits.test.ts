/** Random sequences of the Bench's edits: the result is always a look that can be saved. */
import { describe, expect, it } from 'vitest';
import {
  allLayers,
  edit,
  type LookDocument,
  pieceOf,
  readLook,
  resolve,
  SHIPPED,
  withPiece,
} from '.';
import { PLACEMENT } from '../compositing';
import { Engine } from '../engine';
import { toCodes } from '../image';
import { MATTES } from '../mattes';
import { plan } from '../plan';
import { stepOf, STEPS } from '../steps';
import { A_MINUTE, bitsThatDiffer, leafOf, randomFrom, randomPlanes } from '../testing';

const [W, H] = [32, 18];
const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const bedrock = leafOf(
  randomPlanes(3, W, H, 3).map((p) => p.map((v) => Math.abs(v) / 4)),
  W,
  H,
  'light',
);

type Random = () => number;
const one = <T>(random: Random, of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
const keyOf = (random: Random, look: LookDocument): string | undefined =>
  one(random, allLayers(look))?.key;

type Act = (look: LookDocument, random: Random) => LookDocument;
/** An edit of an existing layer; without a layer it does nothing. */
const onLayer =
  (act: (look: LookDocument, key: string, random: Random) => LookDocument): Act =>
  (look, random) => {
    const key = keyOf(random, look);
    return key === undefined ? look : act(look, key, random);
  };
const onStep = (
  act: (look: LookDocument, layer: string, step: string, random: Random) => LookDocument,
): Act =>
  onLayer((look, layer, random) => {
    const step = one(random, edit.layerOf(look, layer)!.steps);
    return step ? act(look, layer, step.key, random) : look;
  });
const ACTS: Record<string, Act> = {
  'add a layer': (look) => edit.addLayer(look, edit.newLayer('layer', 'below', [])),
  'add a step': onLayer((look, layer, random) =>
    edit.addStep(look, layer, edit.newStep(one(random, STEPS), [])),
  ),
  'duplicate a layer': onLayer((look, layer) => edit.duplicateLayer(look, layer)),
  'duplicate a step': onStep((look, layer, step) =>
    edit.addStep(
      look,
      layer,
      edit.layerOf(look, layer)!.steps.find((s) => s.key === step)!,
    ),
  ),
  'remove a layer': onLayer((look, layer) => edit.removeLayer(look, layer)),
  'remove a step': onStep((look, layer, step) => edit.removeStep(look, layer, step)),
  'move a layer': onLayer((look, layer, random) =>
    edit.moveLayer(look, layer, Math.floor(random() * 3)),
  ),
  'move a step': onStep((look, layer, step, random) =>
    edit.moveStep(look, layer, step, Math.floor(random() * 3)),
  ),
  'group a layer': onLayer((look, layer) =>
    allLayers(look).length < 24 ? edit.groupLayer(look, layer) : look,
  ),
  'switch a layer': onLayer((look, layer) =>
    edit.changeLayer(look, layer, { on: !edit.layerOf(look, layer)!.on }),
  ),
  'place a layer': onLayer((look, layer, random) => edit.placeLayer(look, layer, random() < 0.7)),
  'set a placement': onLayer((look, layer, random) => {
    const p = one(random, PLACEMENT);
    return edit.setPlacement(edit.placeLayer(look, layer, true), layer, p.id, { value: p.default });
  }),
  'add a matte': onLayer((look, layer, random) =>
    edit.addMatte(
      look,
      { layer },
      one(
        random,
        MATTES.filter((m) => !m.names),
      ),
      {},
    ),
  ),
  'add a dial': (look) =>
    look.dials.length < 24
      ? edit.addDial(look, {
          key: 'push',
          label: 'Push',
          kind: 'number',
          min: 0,
          max: 1,
          unit: '',
          value: 0.5,
        })
      : look,
  'take a dial off': (look, random) => {
    const dial = one(
      random,
      look.dials.filter((d) => d.key !== 'strength'),
    );
    return dial ? edit.removeDial(look, dial.key, (s) => resolve(look, s, {})) : look;
  },
  'turn a dial': (look, random) => {
    const dial = one(
      random,
      look.dials.filter((d) => d.kind === 'number'),
    )!;
    return edit.setDial(look, dial.key, dial.min! + random() * (dial.max! - dial.min!));
  },
  'ask for a pin': (look) =>
    (look.pins?.length ?? 0) < 12
      ? edit.addPin(look, { key: 'spot', label: 'Spot', kind: 'point', many: false })
      : look,
  'ask for no pin': (look, random) =>
    look.pins?.length ? edit.removePin(look, one(random, look.pins).key) : look,
  'bind a step to a dial': onStep((look, layer, step, random) => {
    const use = edit.layerOf(look, layer)!.steps.find((s) => s.key === step)!;
    const p = one(
      random,
      STEPS.find((s) => s.id === use.step)!.parameters.filter((q) => q.kind === 'number'),
    );
    const dial = one(
      random,
      look.dials.filter((d) => d.kind === 'number' && d.key !== 'strength'),
    );
    return p && dial && p.kind === 'number'
      ? edit.setParameter(look, layer, step, p.id, { dial: dial.key, from: p.min, to: p.max })
      : look;
  }),
  'lay a piece on': onLayer((look, layer) => {
    const piece = allLayers(look).length < 24 ? pieceOf(look, layer) : undefined;
    return piece ? withPiece(look, piece) : look;
  }),
};

describe.each(SHIPPED.map((s) => [s.id, s.look] as const))('from %s', (_, shipped) => {
  it.each([1, 2, 3, 4])('a walk of sixty acts (%i)', (seed) => {
    const random = randomFrom(seed * 104729 + shipped.name.length);
    for (let i = 0; i < 16; i++) random();
    let look: LookDocument = shipped;
    const done: string[] = [];
    for (let i = 0; i < 60; i++) {
      const [name, act]: [string, Act] = one(random, Object.entries(ACTS));
      const before = JSON.stringify(look);
      const next = act(look, random);
      done.push(name);
      // Edits do not change the look they are given; undo relies on that.
      expect(JSON.stringify(look), done.join(', ')).toBe(before);
      const read = readLook(JSON.parse(JSON.stringify(next)));
      expect('faults' in read ? [done.slice(-6), read.faults] : []).toEqual([]);
      const keys = allLayers(next).map((l) => l.key);
      expect(new Set(keys).size, done.join(', ')).toBe(keys.length);
      for (const l of allLayers(next))
        expect(new Set(l.steps.map((s) => s.key)).size).toBe(l.steps.length);
      look = next;
    }
    // The result can be rendered.
    const codes = toCodes(
      plan(look, { bedrock, content: 'abc', frame: 3, time: A_MINUTE }).result,
      'srgb',
    );
    // A tape's raster is too large for the reference engine, so here it is only computed.
    const onTape = allLayers(look).some((l) =>
      l.steps.some((s) => stepOf(s.step)!.family === 'tape'),
    );
    if (onTape)
      expect(engine.memory.plane(engine.compute(codes), 0).every(Number.isFinite)).toBe(true);
    else expect(bitsThatDiffer(engine, codes)).toBe(0);
  });
});
