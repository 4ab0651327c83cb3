/** Decisions about clips: each declared once, and one key of what pictures depend on. */
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { describe, expect, it } from 'vitest';
import { pinned } from '../clip';
import type { LookDocument } from '../look';
import {
  canonical,
  type ClipDecisions,
  decided,
  DECISION_IDS,
  DECISIONS,
  decisionsOf,
  mayBeNone,
  pictureOf,
  shownOf,
  subjectKey,
} from './index';

/** Another valid value of each decision. */
const OTHER: ClipDecisions = {
  name: 'kelp',
  encoding: 'acescct',
  sampling: { matrix: 'bt601' },
  fit: 'fill',
  reframe: { x: 0.4, y: 0.5, closer: 120 },
  balance: {
    slope: [1, 1, 1],
    offset: [0.1, 0, 0],
    power: [1, 1, 1],
    saturation: 1,
    on: 'clip',
    hold: true,
  },
  role: 'plate',
  plate: { black: 0.1, white: 0.9 },
  inOut: { in: 4, out: 9 },
  cutsSaid: { 7: 'cut' },
  retime: { places: [{ frame: 0, speed: 50, to: 'smooth' }], backwards: false, between: 'motion' },
  chance: { number: 3, from: 0 },
  pins: { hit: [{ frame: 12 }] },
  version: '7d444840-9dc0-41d1-b245-5ffdce74fad2',
  trims: { look: { warm: 3 } },
  follows: false,
  accepted: { crushed: { reason: 'wanted', worst: 0.2 } },
  status: 'agreed',
  note: 'seen',
  scene: 'pier',
};
const keyOf = (some: Partial<ClipDecisions>, more: object = {}): string =>
  subjectKey({
    hash: 'ab',
    decisions: decided(some),
    cuts: [],
    look: null,
    footage: () => undefined,
    method: 1,
    ...more,
  });

describe('every decision', () => {
  it.each(DECISION_IDS)('%s takes its own values and refuses those of another kind', (id) => {
    class Part {}
    DECISIONS[id].checks.forEach((check) => check(Part.prototype, id));
    const fits = (value: unknown): boolean =>
      validateSync(plainToInstance(Part, { [id]: value }), { whitelist: true }).length === 0;
    expect(fits(OTHER[id])).toBe(true);
    if (!mayBeNone(id) && id !== 'name') expect(fits(DECISIONS[id].usual)).toBe(true);
    expect(fits(7)).toBe(false);
    expect(fits([7])).toBe(false);
  });

  it('is in the key of pictures if and only if it changes the picture', () => {
    for (const id of DECISION_IDS) {
      const differs = keyOf({ [id]: OTHER[id] }) !== keyOf({});
      expect([id, differs]).toEqual([id, ['picture', 'clip'].includes(DECISIONS[id].changes)]);
    }
  });

  it('is carried by what shows it and by nothing else', () => {
    expect(Object.keys(pictureOf(OTHER)).every((id) => id in shownOf(OTHER))).toBe(true);
    expect(shownOf(OTHER)).not.toHaveProperty('note');
    expect(decisionsOf({ ...OTHER, id: 'x' } as ClipDecisions)).toEqual(OTHER);
    expect(decided({ note: 'seen' })).toMatchObject({ note: 'seen', fit: 'fit', pins: {} });
  });
});

describe('the key of a subject', () => {
  it('stays where the names of a value stand in another order', () => {
    const { places, backwards, between } = OTHER.retime!;
    expect(keyOf({ retime: { between, backwards, places } })).toBe(keyOf({ retime: OTHER.retime }));
    expect(canonical({ b: [1, { d: 2, c: 3 }], a: null })).toBe('{"a":null,"b":[1,{"c":3,"d":2}]}');
  });

  it('stays when a decision is added that nobody has made yet', () => {
    const { scene: _, plate: __, ...older } = decided({ fit: 'fill' });
    expect(keyOf({}, { decisions: older })).toBe(keyOf({ fit: 'fill' }));
  });

  it('changes with footage, cuts, look and method', () => {
    const keys = [{}, { hash: 'cd' }, { cuts: [4] }, { look: ['v', null] }, { method: 2 }].map(
      (more) => keyOf({}, more),
    );
    expect(new Set(keys).size).toBe(keys.length);
  });

  it('changes with the settings of the footage that its pins name, of a plate before a clip', () => {
    const pins = { second: [{ hash: 'cd', start: 0, speed: 1 }] };
    const other = (some: Partial<ClipDecisions>, more = {}) => ({
      hash: 'cd',
      ...pictureOf(decided(some)),
      ...more,
    });
    const key = (...footage: ReturnType<typeof other>[]) =>
      keyOf({ pins }, { footage: (hash: string) => pinned(hash, footage) });
    const plain = key(other({}));
    expect(key(other({ encoding: 'pq' }))).not.toBe(plain);
    expect(key(other({ note: 'seen' }))).toBe(plain);
    expect(key(other({ role: 'plate' }), other({}))).toBe(key(other({}), other({ role: 'plate' })));
    expect(key(other({ role: 'plate' }, { measured: { black: 0.1, white: 1 } }))).not.toBe(
      key(other({ role: 'plate' })),
    );
    expect(keyOf({ pins }, { footage: () => undefined })).not.toBe(plain);
    // A look that does not ask for the pin does not read it.
    const look = { pins: [], layers: [] } as unknown as LookDocument;
    const asked = (some: Partial<ClipDecisions>) =>
      keyOf({ pins }, { footage: () => other(some), asks: look });
    expect(asked({ encoding: 'pq' })).toBe(asked({}));
  });
});
