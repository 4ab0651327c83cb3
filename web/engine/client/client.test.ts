import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { SHIPPED } from '../../../core';
import type { ClipView } from '../../data/views';
import { EngineClient } from './client';
import { LooksReceived, type Sent } from '../looks';
import type { FromEngine, Pixels, ToEngine, View } from '../protocol';

/** A fake engine worker: records its messages and answers what a test says. */
class Silent {
  static latest: Silent;
  readonly told: ToEngine[] = [];
  onmessage: ((e: { data: FromEngine }) => void) | null = null;
  onerror: ((e: { message: string }) => void) | null = null;
  ended = false;
  constructor() {
    Silent.latest = this;
  }
  private readonly looks = new LooksReceived();
  postMessage(m: Sent): void {
    this.told.push(this.looks.received(m));
  }
  terminate(): void {
    this.ended = true;
  }
  say(m: FromEngine): void {
    this.onmessage!({ data: m });
  }
  of<K extends ToEngine['kind']>(kind: K): Extract<ToEngine, { kind: K }>[] {
    return this.told.filter((m): m is Extract<ToEngine, { kind: K }> => m.kind === kind);
  }
}

const { look } = SHIPPED[0]!;
const viewOf = (id: string, more: Partial<View> = {}): View =>
  ({ id, clip: 'a', frame: 3, width: 96, height: 54, look, from: 540, ...more }) as View;
const closed: string[] = [];
const pictureOf = (view: string, serial: number, more: Partial<Pixels> = {}): Pixels =>
  ({
    kind: 'pixels',
    serial,
    view,
    clip: 'a',
    frame: 3,
    width: 96,
    height: 54,
    exact: false,
    backEnd: 'simd',
    milliseconds: 7,
    computed: 4,
    found: 1,
    bitmap: { close: () => closed.push(view) } as unknown as ImageBitmap,
    ...more,
  }) as Pixels;

const kept = new Map<string, string>();
beforeEach(() => {
  closed.length = 0;
  kept.clear();
  vi.useFakeTimers();
  vi.stubGlobal('Worker', Silent);
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => void kept.set(k, v),
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe("the engine's page side", () => {
  it('numbers its requests, and lets the engine see by shared memory that it moved on', () => {
    const client = new EngineClient('bt709');
    client.clips([]);
    expect(client.request([viewOf('hero')])).toBe(1);
    expect(client.request([viewOf('hero', { frame: 4 })])).toBe(2);
    expect(Silent.latest.of('request').map((r) => r.serial)).toEqual([1, 2]);
    expect(new Int32Array(Silent.latest.of('setup')[0]!.generation!)[0]).toBe(2);
    client.close();
    expect(Silent.latest.ended).toBe(true);
  });

  it('hands pictures to those who show them, and closes what nobody shows', () => {
    const client = new EngineClient('bt709');
    const seen: number[] = [];
    const stop = client.on('hero', (p) => seen.push(p.serial));
    Silent.latest.say(pictureOf('hero', 1));
    Silent.latest.say(pictureOf('companion:b', 1));
    expect([seen, closed]).toEqual([[1], ['companion:b']]);
    stop();
    Silent.latest.say(pictureOf('hero', 2));
    expect([seen, closed]).toEqual([[1], ['companion:b', 'hero']]);
  });

  it('asks once more for the latest picture of a view that is shown anew, and only of one that was computed', () => {
    const client = new EngineClient('bt709');
    client.on('hero', () => {});
    expect(Silent.latest.of('again')).toEqual([]);
    Silent.latest.say(pictureOf('hero', 1));
    client.on('hero', () => {});
    expect(Silent.latest.of('again')).toEqual([{ kind: 'again', view: 'hero' }]);
  });

  it('tells how long the hero took, but not of a hero that was at hand', () => {
    const client = new EngineClient('bt709');
    client.request([viewOf('hero')]);
    Silent.latest.say(pictureOf('hero', 1, { milliseconds: 31 }));
    expect(client.status.milliseconds).toBe(31);
    // The same view again: its picture does not count as the time a change takes.
    client.request([viewOf('hero'), viewOf('companion:b')]);
    Silent.latest.say(pictureOf('hero', 2, { milliseconds: 1, computed: 0, found: 1 }));
    expect(client.status.milliseconds).toBe(31);
    client.request([viewOf('hero', { frame: 9 })]);
    Silent.latest.say(pictureOf('hero', 3, { milliseconds: 12 }));
    expect(client.status.milliseconds).toBe(12);
    Silent.latest.say(pictureOf('companion:b', 3, { milliseconds: 5 }));
    expect(client.status.milliseconds).toBe(12);
  });

  it('says what went wrong until a picture comes again, and when the engine itself stopped', () => {
    const client = new EngineClient('bt709');
    const told: (string | null)[] = [];
    client.onStatus(() => told.push(client.status.trouble));
    client.request([viewOf('hero')]);
    Silent.latest.say({
      kind: 'trouble',
      serial: 1,
      view: 'hero',
      message: 'the exact frame could not be fetched',
    });
    Silent.latest.say(pictureOf('hero', 1));
    Silent.latest.onerror!({ message: 'out of memory' });
    expect(told).toEqual([
      'the exact frame could not be fetched',
      null,
      'the engine stopped (out of memory): it was started anew',
    ]);
  });

  it('starts an engine that ended anew with clips and views, three times; no question stays open', async () => {
    const client = new EngineClient('bt709');
    client.clips([
      {
        id: 'a',
        hash: 'a',
        role: 'clip',
        statistics: null,
        assets: {},
        traces: [],
      } as unknown as ClipView,
    ]);
    client.request([viewOf('hero')]);
    const asked = [
      client.survey({ clip: 'a', frames: [0], looks: [], width: 8, height: 8 }),
      client.hole('a'),
    ];
    const first = Silent.latest;
    first.onerror!({ message: 'gone' });
    expect(await Promise.all(asked)).toEqual([[], null]);
    expect(first.ended).toBe(true);
    expect(Silent.latest).not.toBe(first);
    expect(Silent.latest.of('setup')[0]!.clips.map((c) => c.id)).toEqual(['a']);
    expect(Silent.latest.of('request')[0]!.views.map((v) => v.id)).toEqual(['hero']);
    for (let n = 0; n < 3; n++) Silent.latest.onerror!({ message: 'gone' });
    expect(client.status.trouble).toBe('the engine stopped (gone): reload the page');
  });

  it('gives a pick its own answer, not that of a hover before it', () => {
    const client = new EngineClient('bt709');
    const heard: string[] = [];
    const region = { x0: 0, y0: 0, x1: 1, y1: 1 };
    client.probe(region, () => heard.push('hover'));
    client.probe(region, () => heard.push('pick'));
    const [hover, pick] = Silent.latest.of('probe');
    const probed = {
      kind: 'probed',
      light: [0, 0, 0],
      encoded: [0, 0, 0],
      codes: [0, 0, 0],
    } as const;
    Silent.latest.say({ ...probed, id: hover!.id });
    expect(heard).toEqual(['hover']);
    Silent.latest.say({ ...probed, id: pick!.id });
    Silent.latest.say({ ...probed, id: pick!.id });
    expect(heard).toEqual(['hover', 'pick']);
  });

  it('marks a view as old once its picture is late, until the wanted one comes', () => {
    const client = new EngineClient('bt709');
    client.request([viewOf('companion:b')]);
    Silent.latest.say(pictureOf('companion:b', 1));
    let heard = 0;
    client.onAges(() => heard++);
    client.request([viewOf('companion:b', { look: { ...look, seed: 2 } })]);
    expect(client.isOld('companion:b')).toBe(false);
    vi.advanceTimersByTime(430);
    expect(client.isOld('companion:b')).toBe(true);
    expect(heard).toBeGreaterThan(0);
    Silent.latest.say(pictureOf('companion:b', 1)); // of the request before: still old
    expect(client.isOld('companion:b')).toBe(true);
    Silent.latest.say(pictureOf('companion:b', 2));
    expect(client.isOld('companion:b')).toBe(false);
    // A view that differs only in when it is drawn is the same view.
    client.request(
      [viewOf('companion:b', { look: { ...look, seed: 2 }, later: true })].map((v) => ({
        ...v,
        look: v.look,
      })),
    );
    vi.advanceTimersByTime(430);
    expect(client.isOld('never-asked')).toBe(false);
  });

  it('says that a view is busy from its request until its picture, whatever it showed before', () => {
    const client = new EngineClient('bt709');
    const changed = { ...look, seed: 3 },
      heard: boolean[] = [];
    client.onAges(() => heard.push(client.isBusy('hero')));
    expect(client.isBusy('hero')).toBe(false);
    client.request([viewOf('hero')]);
    Silent.latest.say(pictureOf('hero', 1));
    client.request([viewOf('hero', { look: changed })]);
    Silent.latest.say(pictureOf('hero', 1));
    expect(client.isBusy('hero')).toBe(true);
    Silent.latest.say(pictureOf('hero', 2));
    expect(heard).toEqual([true, false, true, true, false]);
    // The same view is on screen already.
    client.request([viewOf('hero', { look: changed })]);
    expect(client.isBusy('hero')).toBe(false);
  });

  it('keeps the choice of what computes, and asks for what is seen again when it changes', () => {
    const client = new EngineClient('bt709');
    client.clips([]);
    client.request([viewOf('hero')]);
    Silent.latest.say({ kind: 'ready', backEnd: 'simd', threads: 2, why: null });
    expect(client.status.ready?.backEnd).toBe('simd');
    client.backEnd = 'glsl';
    expect(client.status.ready).toBeNull();
    expect(Silent.latest.of('setup').map((s) => s.backEnd)).toEqual(['automatic', 'glsl']);
    expect(Silent.latest.of('request').map((r) => r.views.map((v) => v.id))).toEqual([
      ['hero'],
      ['hero'],
    ]);
    expect(new EngineClient('bt709').backEnd).toBe('glsl');
    kept.set('wabisabi-back-end', 'abacus');
    expect(new EngineClient('bt709').backEnd).toBe('automatic');
  });

  it('answers each survey and each hole to who asked for it, whatever the order', async () => {
    const client = new EngineClient('bt709');
    const wanted = { clip: 'a', frames: [0], looks: [look], width: 96, height: 54 };
    const [first, second] = [client.survey(wanted), client.survey({ ...wanted, clip: 'b' })];
    const hole = client.hole('a');
    const [a, b] = Silent.latest.of('survey');
    const figures = (bright: number) => [{ bright }] as never;
    Silent.latest.say({ kind: 'surveyed', id: b!.id, figures: figures(2) });
    Silent.latest.say({ kind: 'surveyed', id: a!.id, figures: figures(1) });
    Silent.latest.say({ kind: 'hole', id: Silent.latest.of('hole')[0]!.id, corners: null });
    expect(await first).toEqual([{ bright: 1 }]);
    expect(await second).toEqual([{ bright: 2 }]);
    expect(await hole).toBeNull();
  });

  it('tells of clips that are new or changed, and of the others no more', () => {
    const client = new EngineClient('bt709');
    const [a, b] = ['a', 'b'].map((id) => ({
      id,
      hash: id,
      role: 'clip',
      statistics: null,
      assets: {},
      traces: [],
    })) as unknown as [ClipView, ClipView];
    client.clips([a, b]);
    const moved = { ...b, fit: 'fill' as const };
    client.clips([a, moved]);
    client.clips([a, moved]);
    // A clip that changed back has changed too.
    client.clips([a, b]);
    expect(
      Silent.latest.of('setup').map((s) => s.clips.map((c) => `${c.id} ${c.fit ?? 'fit'}`)),
    ).toEqual([['a fit', 'b fit'], ['b fill'], [], ['b fit']]);
  });

  it('gives of each clip what the engine needs: a plate its own points or those that were found, a clip none', () => {
    const client = new EngineClient('bt709');
    const clip = {
      id: 'a',
      hash: 'h',
      statistics: { tones: {}, magenta: 0, warmth: 0, plate: { black: 0.1, white: 0.9 } },
      plate: null,
      assets: { motion: { state: 'running', progress: 0.5, error: null } },
      traces: [
        { id: 't', of: 'track', state: 'done' },
        { id: 'u', of: 'other', state: 'waiting' },
      ],
    };
    client.clips([
      { ...clip, role: 'clip' },
      { ...clip, id: 'b', role: 'plate' },
      { ...clip, id: 'c', role: 'plate', plate: { black: 0, white: 1 } },
    ] as never);
    expect(Silent.latest.of('setup')[0]!.clips.map((c) => c.plate)).toEqual([
      null,
      { black: 0.1, white: 0.9 },
      { black: 0, white: 1 },
    ]);
    // And what is made of its assets, and the tracks that are.
    const [first] = Silent.latest.of('setup')[0]!.clips;
    expect([first!.made, first!.tracks]).toEqual([{ motion: 0.5 }, { t: 'track' }]);
  });
});
