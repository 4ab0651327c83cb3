/** What each request class accepts and refuses, read from a request by `body`. */
import { describe, expect, it } from 'vitest';
import { DECISION_IDS, mayBeNone } from '../../core';
import { body, Problem } from './answer';
import {
  ClipEdits,
  FramesToBake,
  KeptNames,
  AssetFrom,
  NewDelivery,
  NewImport,
  NewInspections,
  NewLook,
  NewGaps,
  NewProgressive,
  NewProject,
  NewReference,
  NewTrace,
  NewVersion,
  ProjectPart,
  SplitBefore,
  TracePart,
  VersionPart,
} from './requests';

const ID = '0b6f1c9e-52a4-4f0c-9d1e-6a7b8c9d0e1f';
const read = <T extends object>(Kind: new () => T, value: unknown): Promise<T> =>
  body(new Request('http://127.0.0.1/', { method: 'POST', body: JSON.stringify(value) }), Kind);
/** The error for a refused request; undefined if it is accepted. */
const refusal = (Kind: new () => object, value: unknown): Promise<string | undefined> =>
  read(Kind, value).then(
    () => undefined,
    (e: unknown) => {
      if (!(e instanceof Problem)) throw e;
      expect(e.status).toBe(422);
      return e.message;
    },
  );

const project = { name: 'Night', width: 1920, height: 1080, rateNum: 25, rateDen: 1 };
const delivery = { clips: [ID], format: 'mp4', width: 1920, height: 1080 };
const trace = { name: 'Face', follow: true, marks: [{ frame: 0, x: 0.5, y: 0.5 }] };
const oval = { x: 0.5, y: 0.5, rx: 0.1, ry: 0.2, turn: -4 };
const baking = { document: {}, first: 0, last: 9, width: 960, height: 540, keeps: 'page' };
const reference = { name: 'Grey', clip: ID, frame: 0, version: null, document: {}, picture: '' };
const version = { document: {}, basedOn: 1, follow: [ID], stay: [] };

describe('what is right is taken as it is', () => {
  it.each<[string, new () => object, object]>([
    ['a project', NewProject, project],
    ['a project at 24000/1001', NewProject, { ...project, rateNum: 24000, rateDen: 1001 }],
    ['a new name', ProjectPart, { name: 'Day' }],
    ['a removal', ProjectPart, { removed: true }],
    ['nothing to change', ProjectPart, {}],
    ['a version out of sight', VersionPart, { removed: true }],
    ['an import', NewImport, { name: 'gulls.mp4', files: ['gulls.mp4'] }],
    ['fields to part', NewProgressive, { each: 2 }],
    ['black for missing pictures', NewGaps, { gaps: 'black' }],
    ['motion to measure', AssetFrom, { from: 40 }],
    ['a trace of an oval', NewTrace, { ...trace, kind: 'oval', marks: [{ frame: 3, ...oval }] }],
    ['a mark that was moved', TracePart, { marks: [{ frame: 3, x: 0.1, y: 1.02 }] }],
    ['frames to bake', FramesToBake, baking],
    ['names of frames', KeptNames, { names: ['a', 'b'] }],
    ['cuts to split at', SplitBefore, { frames: [12, 40] }],
    ['a reference', NewReference, reference],
    ['a look', NewLook, { document: {} }],
    ['a version', NewVersion, version],
    ['a delivery', NewDelivery, delivery],
    [
      'a small delivery with coverage',
      NewDelivery,
      { ...delivery, coverage: true, effort: 'small' },
    ],
    ['inspections', NewInspections, { clips: [ID], again: false }],
  ])('%s', async (_, Kind, value) => {
    expect({ ...(await read(Kind, value)) }).toEqual(value);
  });
});

describe('what is wrong is said in words', () => {
  it.each<[string, new () => object, object, RegExp]>([
    ['a project without a name', NewProject, { ...project, name: '' }, /a project needs a name/],
    [
      'a frame of no pixels',
      NewProject,
      { ...project, width: 0 },
      /width must not be less than 16/,
    ],
    ['a frame too large', NewProject, { ...project, height: 9000 }, /height.*8192/],
    ['a rate of nothing', NewProject, { ...project, rateDen: 0 }, /rateDen.*1/],
    ['half a pixel', NewProject, { ...project, width: 1920.5 }, /width must be an integer/],
    ['what nobody asked for', NewProject, { ...project, owner: 'me' }, /owner should not exist/],
    ['an empty name', ProjectPart, { name: '' }, /a project needs a name/],
    ['neither out nor back', VersionPart, {}, /removed must be a boolean/],
    ['an import of nothing', NewImport, { name: 'x', files: [] }, /no files were chosen/],
    ['gaps that are to be refused afterwards', NewGaps, { gaps: 'refuse' }, /gaps must be one of/],
    ['three frames of two fields', NewProgressive, { each: 3 }, /each must be one of/],
    ['motion from before', AssetFrom, { from: -1 }, /from must not be less than 0/],
    ['a trace without a mark', NewTrace, { ...trace, marks: [] }, /a trace needs a mark/],
    ['a trace of a star', NewTrace, { ...trace, kind: 'star' }, /kind must be one of/],
    [
      'a mark of no place',
      TracePart,
      { marks: [{ frame: 3, x: 0.1 }] },
      /a mark is a frame with a point/,
    ],
    ['a mark between frames', TracePart, { marks: [{ frame: 0.5, x: 0, y: 0 }] }, /a mark is/],
    ['frames kept in another way', FramesToBake, { ...baking, keeps: 'gif' }, /keeps must be one/],
    ['a picture a pixel wide', FramesToBake, { ...baking, width: 1 }, /width.*2/],
    ['names that are numbers', KeptNames, { names: [3] }, /string/],
    ['no cut at all', SplitBefore, { frames: [] }, /frames must contain at least 1/],
    ['a cut between frames', SplitBefore, { frames: [1.5] }, /integer/],
    ['a reference without a name', NewReference, { ...reference, name: '' }, /needs a name/],
    [
      'a reference to no clip',
      NewReference,
      { ...reference, clip: 'gulls' },
      /clip must be a UUID/,
    ],
    ['a look in words', NewLook, { document: 'Silt' }, /document must be an object/],
    ['a version of nobody', NewVersion, { ...version, follow: ['me'] }, /follow must be a UUID/],
    ['a delivery of nothing', NewDelivery, { ...delivery, clips: [] }, /choose at least one clip/],
    ['a delivery as a song', NewDelivery, { ...delivery, format: 'wav' }, /format must be one of/],
    ['a delivery at full tilt', NewDelivery, { ...delivery, effort: 'all' }, /effort must be one/],
    ['inspections of nothing', NewInspections, { clips: [], again: true }, /at least one clip/],
  ])('%s', async (_, Kind, value, words) => {
    expect(await refusal(Kind, value)).toMatch(words);
  });
});

/** The error for a clip edit with the given new values. */
const changing = (to: object): Promise<string | undefined> =>
  refusal(ClipEdits, { clips: [{ clip: ID, was: {}, to }] });
const balance = { slope: [1, 1, 1], offset: [0, 0, 0], power: [1, 1, 1], saturation: 1 };
const place = { frame: 0, speed: 100, to: 'smooth' };
const retime = { places: [place], backwards: false, between: 'nearest' };

describe('a change of a clip', () => {
  it.each<[string, object]>([
    ['of its name', { name: 'gulls' }],
    ['of its encoding', { encoding: 'acescct' }],
    ['of how its samples are read', { sampling: { matrix: 'bt709', siting: 'left' } }],
    ['back to what its tags say', { sampling: null }],
    ['of its look', { version: ID, follows: true }],
    ['that takes its look off', { version: null }],
    [
      'of trims: numbers, colours, switches',
      { trims: { [ID]: { a: 1, b: [0, 0.5, 1], c: true } } },
    ],
    ['of pins', { pins: { strike: [{ frame: 28 }], lamp: [{ x: 0.5, y: 0.5 }] } }],
    ['of its balance', { balance }],
    ['that takes its balance off', { balance: null }],
    ['of a plate’s ends', { plate: { black: 0.02, white: 0.98 } }],
    ['of how it lies', { reframe: { x: 0.4, y: 0.5, closer: 120 }, fit: 'fill' }],
    ['of its stretch', { inOut: { in: 10, out: 10 } }],
    ['of its cuts', { cutsSaid: { 120: 'cut', 240: 'none' } }],
    ['of its speed', { retime }],
    ['of what is meant', { accepted: { clipped: { reason: 'a lamp', worst: 0.2 } } }],
    ['of where it stands', { status: 'agreed', note: 'for Tuesday', scene: 'deck', role: 'plate' }],
  ])('%s is taken', async (_, to) => {
    expect(await changing(to)).toBeUndefined();
  });

  it.each<[string, object, RegExp]>([
    ['to no name', { name: '' }, /a clip needs a name/],
    ['to an encoding nobody has', { encoding: 'vhs' }, /encoding must be one of/],
    ['to a look by its name', { version: 'Silt' }, /version must be a UUID/],
    ['of trims in words', { trims: { [ID]: { a: 'much' } } }, /trims must be, by look and by dial/],
    ['of trims beyond number', { trims: { [ID]: { a: [0, 1] } } }, /trims must be/],
    ['of pins that are none', { pins: { lamp: [{ x: 9, y: 0 }] } }, /pins must be, by name/],
    [
      'of more pins than there may be',
      { pins: { lamp: Array.from({ length: 65 }, () => ({ x: 0, y: 0 })) } },
      /pins must be/,
    ],
    ['to half a balance', { balance: { slope: [1, 1, 1] } }, /offset must be an array/],
    ['to a balance of four colours', { balance: { ...balance, slope: [1, 1, 1, 1] } }, /slope/],
    ['to a plate without white', { plate: { black: 0.5 } }, /white/],
    ['to lie nowhere', { reframe: { x: 0.5, y: 3, closer: 100 } }, /y must not be greater than 2/],
    ['to end before it begins', { inOut: { in: 11, out: 10 } }, /in lies before its out/],
    ['of cuts that may be', { cutsSaid: { 120: 'maybe' } }, /a cut is a frame of the footage/],
    ['of a cut at no frame', { cutsSaid: { soon: 'cut' } }, /a cut is a frame of the footage/],
    ['to no places of speed', { retime: { ...retime, places: [] } }, /places must contain/],
    [
      'to places that overtake each other',
      { retime: { ...retime, places: [{ ...place, frame: 5 }, place] } },
      /stand in order/,
    ],
    ['to a standstill', { retime: { ...retime, places: [{ ...place, speed: 0 }] } }, /per cent/],
    ['that accepts for no reason', { accepted: { clipped: { reason: '', worst: 1 } } }, /reason/],
    ['that accepts what nothing flags', { accepted: { ugly: { reason: 'x', worst: 1 } } }, /flag/],
    ['to a state of its own', { status: 'done' }, /status must be one of/],
    ['of what it is not', { hash: 'abc' }, /hash should not exist/],
  ])('%s is refused', async (_, to, words) => {
    expect(await changing(to)).toMatch(words);
  });

  it.each(DECISION_IDS)('of its %s to none is taken if there may be none', async (id) => {
    const refused = await changing({ [id]: null });
    expect([id, refused === undefined]).toEqual([id, mayBeNone(id)]);
  });

  it('of its chance is a whole number, and the frames that it counts on from', async () => {
    expect(await changing({ chance: { number: 3, from: 20 } })).toBeUndefined();
    expect(await changing({ chance: { number: -1, from: 0 } })).toMatch(/number/);
    expect(await changing({ chance: { number: 0.5, from: 0 } })).toMatch(/number/);
    expect(await changing({ chance: { number: 1 } })).toMatch(/from/);
  });

  it('names at least one clip, by its id', async () => {
    expect(await refusal(ClipEdits, { clips: [] })).toMatch(/choose at least one clip/);
    expect(await refusal(ClipEdits, { clips: [{ clip: 'gulls', was: {}, to: {} }] })).toMatch(
      /clip must be a UUID/,
    );
    expect(await refusal(ClipEdits, { clips: [{ clip: ID, to: {} }] })).toMatch(/was/);
  });
});
