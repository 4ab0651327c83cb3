/** Pins that a trace moves: evaluated at each frame, the same as a fixed place there. */
import { describe, expect, it } from 'vitest';
import type { ClipFacts, ClipPins } from '../clip';
import type { RawFrame } from '../image';
import { edit, emptyLook, type LookDocument, type PinSetting } from '../look';
import { matteOf } from '../mattes';
import { stepOf } from '../steps';
import { grayFrame } from '../testing';
import type { Retime } from '../time';
import { type Mark, trackByHand } from '../trace';
import { clipFrame, gather, type GatherSource, needs, plan } from '.';

const TRACE = '7d444840-9dc0-41d1-b245-5ffdce74fad2',
  OTHER = '8d444840-9dc0-41d1-b245-5ffdce74fad2';
const FRAMES = 20,
  W = 32,
  H = 18;
const byHand = (...marks: Mark[]) => trackByHand({ marks, cuts: [] }, FRAMES);
const track = byHand({ frame: 0, x: 0.1, y: 0.2 }, { frame: 10, x: 0.6, y: 0.7 });
const second = byHand({ frame: 0, x: 0.8, y: 0.8 });
const raw = (at: number): RawFrame =>
  grayFrame(`raw ${at}`, { width: W, height: H }, new Uint8Array(W * H).fill(80));
const facts = (pins: ClipPins, more: Partial<ClipFacts> = {}): ClipFacts => ({
  ...{ encoding: 'srgb', fit: 'fill', balance: null, pixelAspect: 1 },
  ...{ content: 'clip', rate: [25, 1], frames: FRAMES, pins },
  ...more,
});
/** A gradient whose middle is a pin, and what trails it. */
function lookOn(many = false, back = false, once?: PinSetting['once']): LookDocument {
  const gradient = edit.newStep(stepOf('radial-gradient')!, []);
  const on: PinSetting = { pin: 'sun', ...(once && { once }) };
  const steps = [{ ...gradient, parameters: { ...gradient.parameters, centre: on } }];
  const look = edit.addPin(emptyLook('Traced', 3), {
    key: 'sun',
    label: 'Sun',
    kind: 'point',
    many,
  });
  const trail = edit.newStep(stepOf('trail')!, []);
  return edit.addLayer(look, edit.newLayer('Top', 'clip', [], back ? [...steps, trail] : steps));
}
async function planned(look: LookDocument, clip: ClipFacts, frame: number) {
  const source: GatherSource = {
    frame: raw,
    part: () => undefined,
    whole: () => undefined,
    tracks: () => ({ [TRACE]: track, [OTHER]: second }),
    pins: [],
  };
  const { sources } = await gather([look], clip, frame, source);
  return plan(look, clipFrame(sources, clip, frame, { width: W, height: H, look })).result.key;
}
const place = (frame: number): ClipPins => {
  const [x, y] = track.places[frame]!;
  return { sun: [{ x: x!, y: y! }] };
};
const TRACED: ClipPins = { sun: [{ trace: TRACE }] };

describe('a pin that takes a trace', () => {
  it('is at each frame what a fixed place there would be, to the bit', async () => {
    for (const frame of [0, 3, 9, 15])
      expect(await planned(lookOn(), facts(TRACED), frame)).toBe(
        await planned(lookOn(), facts(place(frame)), frame),
      );
    expect(await planned(lookOn(), facts(TRACED), 3)).not.toBe(
      await planned(lookOn(), facts(place(4)), 3),
    );
  });

  it('is taken once, at an instant of the clip, where it would tremble', async () => {
    for (const [once, frame] of [
      ['start', 0],
      ['middle', FRAMES / 2],
      ['end', FRAMES - 1],
    ] as const) {
      const look = lookOn(false, false, once);
      for (const now of [0, 7, 15])
        expect(await planned(look, facts(TRACED), now)).toBe(
          await planned(lookOn(), facts(place(frame)), now),
        );
      // A fixed place is the same with it as without.
      expect(await planned(look, facts(place(4)), 7)).toBe(
        await planned(lookOn(), facts(place(4)), 7),
      );
    }
  });

  it('decides mattes and placements as a fixed place does', async () => {
    const centre: PinSetting = { pin: 'sun', shape: [0.5, 0.5, 0.2, 0.3, 10] };
    const look = edit.addPin(emptyLook('Mattes', 3), {
      ...{ key: 'sun', label: 'Sun', kind: 'point' as const, many: false },
    });
    const layer = edit.newLayer('Top', 'clip', [], [edit.newStep(stepOf('radial-gradient')!, [])]);
    const parameter = matteOf('ellipse')!.parameters.find((q) => q.kind === 'ellipse')!.id;
    const plain = edit.addLayer(look, layer);
    for (const made of [
      edit.addMatte(plain, { layer: layer.key }, matteOf('ellipse')!, {
        parameters: { [parameter]: centre },
      }),
      edit.setPlacement(edit.placeLayer(plain, layer.key, true), layer.key, 'position', {
        pin: 'sun',
      }),
    ])
      for (const frame of [2, 7])
        expect(await planned(made, facts(TRACED), frame)).toBe(
          await planned(made, facts(place(frame)), frame),
        );
  });

  it('lies at its own place on every frame that a trail looks back at', async () => {
    const back = lookOn(false, true);
    expect(needs(back, facts(TRACED), 12).frames.length).toBeGreaterThan(1);
    expect(await planned(back, facts(TRACED), 12)).not.toBe(
      await planned(back, facts(place(12)), 12),
    );
  });

  it('repeats what it is bound to for each of several, fixed ones among them', async () => {
    const both: ClipPins = { sun: [{ trace: TRACE }, { trace: OTHER }] };
    const [x, y] = second.places[0] as [number, number];
    const fixed: ClipPins = { sun: [...place(5)['sun']!, { x, y }] };
    const mixed: ClipPins = { sun: [{ trace: TRACE }, { x, y }] };
    const keys = await Promise.all(
      [both, fixed, mixed].map((pins) => planned(lookOn(true), facts(pins), 5)),
    );
    expect(new Set(keys).size).toBe(1);
  });

  it('is in the middle until its track is made, and where there is none', async () => {
    const gone: ClipPins = { sun: [{ trace: TRACE.replace('7d', '6d') }] };
    expect(await planned(lookOn(), facts(gone), 5)).toBe(
      await planned(lookOn(), facts({ sun: [{ x: 0.5, y: 0.5 }] }), 5),
    );
  });

  it('is not there in a shot in which it was not marked: what hangs on it does not act', async () => {
    const shots = trackByHand({ marks: [{ frame: 2, x: 0.3, y: 0.3 }], cuts: [10] }, FRAMES);
    const source = (tracks: GatherSource['tracks']): GatherSource => ({
      ...{ frame: raw, part: () => undefined, whole: () => undefined, pins: [] },
      tracks: tracks!,
    });
    const planOn = async (look: LookDocument, clip: ClipFacts, frame: number) => {
      const { sources } = await gather(
        [look],
        clip,
        frame,
        source(() => ({ [TRACE]: shots })),
      );
      return plan(look, clipFrame(sources, clip, frame, { width: W, height: H, look })).result.key;
    };
    const look = lookOn(),
      without = edit.changeStep(look, 'top', look.layers[0]!.steps[0]!.key, { on: false });
    const clip = facts(TRACED, { cuts: [10] });
    expect(await planOn(look, clip, 15)).toBe(await planOn(without, clip, 15));
    expect(await planOn(look, clip, 5)).not.toBe(await planOn(without, clip, 5));
    expect(await planOn(look, clip, 5)).toBe(
      await planned(look, facts({ sun: [{ x: 0.3, y: 0.3 }] }, { cuts: [10] }), 5),
    );
  });

  it('goes with the footage under a retime, also between its frames', async () => {
    const retime: Retime = {
      ...{ backwards: false, between: 'mix' },
      places: [{ frame: 0, speed: 50, to: 'at-once' }],
    };
    const clip = (pins: ClipPins) => facts(pins, { retime });
    // The clip's frame 6 is the footage's frame 3, its frame 7 half a frame on.
    expect(await planned(lookOn(), clip(TRACED), 6)).toBe(
      await planned(lookOn(), clip(place(3)), 6),
    );
    // Taken at the clip's end it is the footage's last place, wherever the clip is.
    const last = lookOn(false, false, 'end');
    expect(await planned(last, clip(TRACED), 6)).toBe(
      await planned(lookOn(), clip(place(FRAMES - 1)), 6),
    );
    const [a, b] = [track.places[3]!, track.places[4]!];
    const between: ClipPins = { sun: [{ x: (a[0]! + b[0]!) / 2, y: (a[1]! + b[1]!) / 2 }] };
    expect(await planned(lookOn(), clip(TRACED), 7)).toBe(
      await planned(lookOn(), clip(between), 7),
    );
  });
});
