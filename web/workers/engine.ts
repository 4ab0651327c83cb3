/**
 * The engine worker: owns memory, pool and pictures; computes the views it is asked for in order. A newer request
 * replaces the older; of the older one at least one more picture is finished first, so that companions follow a long drag.
 */
import { fitInto, frameToLight, halve, keep, packedForPage, plan, type Picturing, type RawFrame, toCodes } from '../../core';
import { Measuring } from './measuring';
import { Engine, Memory, Stale } from '../../core/engine';
import type { EngineClip, FromEngine, Pixels, Request, Setup, ToEngine, View } from '../engine/protocol';
import { Frames } from './frames';

const post = (m: FromEngine, transfer: Transferable[] = []): void => (self as unknown as Worker).postMessage(m, transfer);

let engine: Engine | undefined;
let out: Setup['out'] = 'bt709';
let generation: Int32Array | undefined;
const clips = new Map<string, EngineClip>();
const frames = new Frames();
let next: Request | undefined;
let busy = false;
/** When each view was last finished: of companions, the stalest goes first. */
const finished = new Map<string, number>();

/** Settled once every helper is there: a thread that waits for one that has not begun would keep it from beginning. */
let helpers: Promise<unknown> = Promise.resolve();

const helper = (memory: WebAssembly.Memory): Promise<void> =>
  new Promise((resolve) => {
    const thread = new Worker(new URL('./helper.ts', import.meta.url), { type: 'module' });
    thread.onmessage = () => resolve();
    thread.postMessage(memory);
  });

function setup(m: Setup): void {
  m.clips.forEach((c) => clips.set(c.id, c));
  out = m.out;
  generation = m.generation ? new Int32Array(m.generation) : undefined;
  if (engine) return;
  const memory = new Memory(m.memory);
  const threads = self.crossOriginIsolated ? Math.max(1, Math.min(8, navigator.hardwareConcurrency || 2)) : 1;
  helpers = Promise.all(Array.from({ length: threads - 1 }, () => helper(memory.wasm)));
  engine = new Engine({ limit: m.memory, helpers: threads - 1, memory });
  post({ kind: 'ready', threads });
}

const measuring = new Measuring();

/** The picture of a view as packed bytes. */
function pictureOf(view: View, clip: EngineClip, raw: RawFrame): Picturing {
  const bedrock = keep(fitInto(frameToLight(raw, clip.encoding), view.width, view.height, clip.fit, aspectOf(clip, raw)));
  if (!view.look) return packedForPage(toCodes(bedrock, out));
  const { result, strata } = plan(view.look, { bedrock, content: clip.hash, frame: view.frame });
  if (isHero(view)) measuring.hero = { bedrock, result, out };
  if (view.layer === undefined) return packedForPage(toCodes(result, out));
  let small = strata.get(view.layer) ?? bedrock;
  while (small.height > 100) small = halve(small);
  return packedForPage(toCodes(small, out));
}
/** A proxy keeps the shape of the footage's pixels but for rounding to even sizes. */
const aspectOf = (clip: EngineClip, raw: RawFrame): number =>
  (clip.format.width * clip.pixelAspect * raw.format.height) / (clip.format.height * raw.format.width);

/** The latest picture of a view; its memory is used again. */
interface Shown {
  readonly pixels: ImageData;
  facts?: Omit<Pixels, 'bitmap'>;
}
const latest = new Map<string, Shown>();

function latestOf(view: string, width: number, height: number): Shown {
  const known = latest.get(view);
  if (known?.pixels.width === width && known.pixels.height === height) return known;
  const made: Shown = { pixels: new ImageData(width, height) };
  latest.set(view, made);
  return made;
}

async function send({ pixels, facts }: Shown): Promise<void> {
  if (!facts) return;
  const bitmap = await createImageBitmap(pixels);
  post({ ...facts, bitmap }, [bitmap]);
}

async function show(request: Request, view: View): Promise<void> {
  const clip = clips.get(view.clip);
  if (!clip || !engine) return;
  try {
    const raw = frames.ready(clip, view.frame, view.from) ?? (await frames.get(clip, view.frame, view.from));
    const began = performance.now();
    // The exact frame may take long: it stops as soon as the page moves on.
    const stop = view.from === 'exact' && generation ? () => Atomics.load(generation!, 0) > request.serial && !isHero(view) : () => false;
    const image = engine.compute(pictureOf(view, clip, raw), { keepMarked: true, stop });
    const shown = latestOf(view.id, image.width, image.height);
    for (let y = 0; y < image.height; y++)
      shown.pixels.data.set(new Uint8Array(engine.memory.wasm.buffer, image.address + y * image.stride, image.width * 4), y * image.width * 4);
    finished.set(view.id, performance.now());
    shown.facts = {
      kind: 'pixels',
      serial: request.serial,
      view: view.id,
      clip: view.clip,
      frame: view.frame,
      width: image.width,
      height: image.height,
      exact: view.from === 'exact',
      milliseconds: performance.now() - began,
      computed: engine.tally.computed,
      found: engine.tally.found,
    };
    await send(shown);
  } catch (e) {
    if (!(e instanceof Stale)) post({ kind: 'trouble', serial: request.serial, view: view.id, message: (e as Error).message });
  }
}

/** Posts what was measured of the hero; what cannot be measured (no memory for it) is told and stops nothing else. */
function measure(take: (e: Engine) => FromEngine | undefined): void {
  try {
    const made = engine && take(engine);
    if (made) post(made);
  } catch (e) {
    post({ kind: 'trouble', serial: 0, view: 'hero', message: (e as Error).message });
  }
}

const isHero = (v: View): boolean => v.id === 'hero';
const breath = new MessageChannel();
let breathed = (): void => {};
breath.port1.onmessage = () => breathed();
/** Lets messages that wait come in. */
const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    breathed = resolve;
    breath.port2.postMessage(0);
  });

async function work(): Promise<void> {
  busy = true;
  await helpers;
  while (next) {
    const request = next;
    next = undefined;
    const [hero, others] = [request.views.filter(isHero), request.views.filter((v) => !isHero(v))];
    others.sort((a, b) => rank(a) - rank(b));
    let done = 0;
    for (const view of [...hero, ...others]) {
      await show(request, view);
      await breathe();
      const { scopes } = request;
      if (isHero(view) && scopes) measure((e) => measuring.scopes(e, scopes));
      if (!isHero(view)) done++;
      if (next && (done > 0 || others.length === 0)) break;
    }
    if (!next) post({ kind: 'done', serial: request.serial });
    while (!next && engine?.memory.warm(2 ** 20)) await breathe();
  }
  busy = false;
}
/** Exact pictures come after quick ones; among equals the stalest first. */
const rank = (v: View): number => (v.from === 'exact' ? 1e12 : 0) + (finished.get(v.id) ?? 0);

self.onmessage = (e: MessageEvent<ToEngine>) => {
  const m = e.data;
  if (m.kind === 'setup') return setup(m);
  if (m.kind === 'probe') {
    return measure((e) => measuring.probe(e, m));
  }
  if (m.kind === 'again') {
    const shown = latest.get(m.view);
    if (shown) void send(shown);
    return;
  }
  next = m;
  if (!busy) void work();
};
