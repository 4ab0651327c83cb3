/**
 * The engine worker: owns memory, pool and pictures; computes the views it is asked for in order. A newer request
 * replaces the older; of the older one at least one more picture is finished first, so that companions follow a long drag.
 */
import {
  answered,
  asPinned,
  type ClipFacts,
  type CodePlanes,
  difference,
  footageFrame,
  footagePins,
  goalFigures,
  type GoalFigures,
  halve,
  holeOf,
  type Idle,
  inDomain,
  keep,
  keysOf,
  marked,
  matteShown,
  meanFigures,
  momentOf,
  type OtherFrame,
  type Others,
  plan,
  type Plan,
  type Picturing,
  questions,
  type RawFrame,
  toCodes,
  toOklab,
  traitsOf,
} from '../../core';
import { type Planes, Stale } from '../../core/engine';
import type { Ask, BackEndChoice, EngineClip, FromEngine, HoleAsk, Pixels, Request, Setup, Shot, Survey, ToEngine, View } from '../engine/protocol';
import { Frames } from './frames';
import { Measuring } from './measuring';
import { glslScreen, type Keeping, type Screen, simdScreen } from './screens';

const post = (m: FromEngine, transfer: Transferable[] = []): void => (self as unknown as Worker).postMessage(m, transfer);

let screen: Promise<Screen> | undefined;
let choice: BackEndChoice | undefined;
let out: Setup['out'] = 'bt709';
let generation: Int32Array | undefined;
const clips = new Map<string, EngineClip>();
const frames = new Frames();
let next: Request | undefined;
let busy = false;
/** When each view was last finished: of companions, the stalest goes first. */
const finished = new Map<string, number>();

function setup(m: Setup): void {
  m.clips.forEach((c) => clips.set(c.id, c));
  out = m.out;
  generation = m.generation ? new Int32Array(m.generation) : undefined;
  if (choice === m.backEnd) return;
  choice = m.backEnd;
  memory = m.memory;
  void screen?.then((s) => s.close());
  screen = chosenScreen(choice);
}
let memory = 0;

/** The back end that was chosen, or simd where that one cannot be. */
async function chosenScreen(wanted: BackEndChoice, trouble?: string): Promise<Screen> {
  const glsl = wanted === 'simd' ? undefined : glslScreen(memory, wanted === 'automatic');
  const made = typeof glsl === 'object' ? glsl : await simdScreen(memory);
  const why = trouble ?? (wanted === 'glsl' && typeof glsl === 'string' ? glsl : null);
  post({ kind: 'ready', backEnd: made.backEnd, threads: made.threads, why });
  return made;
}

const measuring = new Measuring();

/** A shot's own frame, and those of its footage pins. */
interface Raws {
  readonly own: RawFrame;
  readonly others: Others;
}

/** How a clip is read from one of its frames. */
const factsOf = (clip: EngineClip, raw: RawFrame, asShot = false): ClipFacts => ({
  encoding: clip.encoding,
  fit: clip.fit,
  reframe: clip.reframe,
  lines: clip.format.height,
  pixelAspect: aspectOf(clip, raw),
  balance: asShot ? null : clip.balance,
  plate: clip.plate,
  pins: clip.pins,
  content: clip.hash,
  rate: clip.rate,
  whole: clip.whole,
});

function momentAt(shot: Shot, width: number, height: number, { own, others }: Raws) {
  const at = momentOf(own, factsOf(clips.get(shot.clip)!, own, shot.asShot), shot.frame, { width, height, look: shot.look }, others);
  return { ...at, bedrock: keep(at.bedrock) };
}

/** The graph of a shot at a size. */
function planOf(shot: Shot, width: number, height: number, raws: Raws): Plan {
  const at = momentAt(shot, width, height, raws);
  const planned = shot.look ? plan(shot.look, at) : undefined;
  const none = new Map<string, Picturing>();
  return planned ?? { bedrock: at.bedrock, result: at.bedrock, strata: none, mattes: none };
}

/** What a view shows, as code values, and what of it stays at hand for its next change. */
interface Shown {
  readonly codes: Picturing;
  readonly keeping: Keeping;
}
/** What each view was made from as it was last shown. */
const lastKeys = new Map<string, ReadonlySet<string>>();

/**
 * What the view's last change left as it was: above it all runs together in as few kernels as it can. Every layer's
 * result where they are looked at one by one.
 */
function keepingOf(view: View, scopes: boolean, codes: Picturing): Keeping {
  const now = keysOf(codes),
    last = lastKeys.get(view.id);
  lastKeys.set(view.id, now);
  return !last || scopes || view.layer !== undefined ? true : new Set([...now].filter((key) => last.has(key)));
}

function shownBy(view: View, scopes: boolean, raw: Raws, other: Raws | undefined): Shown {
  const codes = pictureOf(view, planOf(view, view.width, view.height, raw), other);
  return { codes, keeping: keepingOf(view, scopes, codes) };
}

function pictureOf(view: View, { bedrock, result, strata, mattes }: Plan, other: Raws | undefined): Picturing {
  if (isHero(view)) measuring.hero = { bedrock, result, strata, layers: view.look?.layers.map((l) => l.key) ?? [], out };
  if (view.against && other)
    return difference(toCodes(result, out), toCodes(planOf(view.against, view.width, view.height, other).result, out), view.against.gain);
  if (view.layer !== undefined) {
    let small = strata.get(view.layer) ?? bedrock;
    while (small.height > 100) small = halve(small);
    return toCodes(small, out);
  }
  const matte = view.matte && mattes.get(view.matte.key);
  if (matte) return matteShown(toCodes(bedrock, out), matte, view.matte!.how);
  return view.marks ? marked(toCodes(result, out)) : toCodes(result, out);
}
/** What a view shows, as Oklab. */
const labOf = (view: View, raw: Raws): Picturing => toOklab(inDomain(planOf(view, view.width, view.height, raw).result, 'light'));

/** A proxy keeps the shape of the footage's pixels but for rounding to even sizes. */
const aspectOf = (clip: EngineClip, raw: RawFrame): number =>
  (clip.format.width * clip.pixelAspect * raw.format.height) / (clip.format.height * raw.format.width);

/** What is told of the latest picture of each view. */
const latest = new Map<string, Omit<Pixels, 'bitmap'>>();

function send(facts: Omit<Pixels, 'bitmap'>, bitmap: ImageBitmap): void {
  latest.set(facts.view, facts);
  post({ ...facts, bitmap }, [bitmap]);
}

const frameOf = async (clip: EngineClip, frame: number, from: Shot['from']): Promise<RawFrame> =>
  frames.ready(clip, frame, from) ?? (await frames.get(clip, frame, from));

async function rawOf(shot: Shot): Promise<Raws | undefined> {
  const clip = clips.get(shot.clip);
  if (!clip) return undefined;
  const own = await frameOf(clip, shot.frame, shot.from);
  const others: Record<string, OtherFrame | null> = {};
  for (const [key, pin] of footagePins(shot.look, clip.pins)) {
    const other = [...clips.values()].find((c) => c.hash === pin.hash);
    if (!other) continue;
    const at = footageFrame(pin, shot.frame, clip, other);
    const raw = at === null ? null : await frameOf(other, at, shot.from);
    others[key] = raw && { raw, clip: asPinned(factsOf(other, raw), pin) };
  }
  return { own, others };
}

async function show(request: Request, view: View): Promise<void> {
  try {
    const raw = await rawOf(view),
      other = view.against && (await rawOf(view.against));
    if (!raw || !screen) return;
    const on = await screen;
    const began = performance.now();
    // The exact frame may take long: it stops as soon as the page moves on.
    const stop = view.from === 'exact' && generation ? () => Atomics.load(generation!, 0) > request.serial && !isHero(view) : () => false;
    const bitmap = await drawn(on, view.id, shownBy(view, isHero(view) && request.scopes !== undefined, raw, other), stop);
    if (!bitmap) return await show(request, view);
    finished.set(view.id, performance.now());
    const { computed, found } = on.tally;
    send(
      {
        kind: 'pixels',
        serial: request.serial,
        view: view.id,
        clip: view.clip,
        frame: view.frame,
        width: bitmap.width,
        height: bitmap.height,
        exact: view.from === 'exact',
        backEnd: on.backEnd,
        milliseconds: performance.now() - began,
        computed,
        found,
        traits: view.traits ? traitsOf(on.computer.planes(on.computer.compute(labOf(view, raw), { keepMarked: true }))) : undefined,
      },
      bitmap,
    );
  } catch (e) {
    if (!(e instanceof Stale)) post({ kind: 'trouble', serial: request.serial, view: view.id, message: (e as Error).message });
  }
}

/** Draws; a graphics processor may be taken away at any time, then simd goes on (and this picture is to be drawn again). */
async function drawn(on: Screen, view: string, { codes, keeping }: Shown, stop: () => boolean): Promise<ImageBitmap | undefined> {
  try {
    return await on.draw(view, codes, keeping, stop);
  } catch (e) {
    if (e instanceof Stale || on.backEnd === 'simd') throw e;
    on.close();
    screen = chosenScreen('simd', (e as Error).message);
    return undefined;
  }
}

/** Posts what was measured of the hero; what cannot be measured (no memory for it) is told and stops nothing else. */
async function measure(take: (c: Screen['computer']) => FromEngine | undefined): Promise<void> {
  try {
    const made = screen && take((await screen).computer);
    if (made) post(made);
  } catch (e) {
    post({ kind: 'trouble', serial: 0, view: 'hero', message: (e as Error).message });
  }
}

/** Measures a clip under several looks, a frame at a time so that views can be shown between. */
async function survey({ id, clip, frames: wanted, looks, width, height }: Survey): Promise<void> {
  const all = looks.map((): GoalFigures[] => []);
  try {
    for (const frame of wanted) {
      const raw = await rawOf({ clip, frame, look: looks[0] ?? null, from: 270 });
      if (!raw || !screen) break;
      for (const [i, look] of looks.entries()) {
        const { result } = planOf({ clip, frame, look, from: 270 }, width, height, raw);
        const { computer } = await screen;
        // What a computer lends is gone with its next call.
        const codes = own(computer.planes(computer.compute(keep(toCodes(result, out)), { keepMarked: true })));
        const lab = computer.planes(computer.compute(toOklab(inDomain(result, 'light')), { keepMarked: true }));
        all[i]!.push(goalFigures(codes as CodePlanes, lab));
        await inQuiet();
      }
    }
  } catch (e) {
    post({ kind: 'trouble', serial: 0, view: 'hero', message: (e as Error).message });
  }
  post({ kind: 'surveyed', id, figures: all.flatMap((f) => (f.length > 0 ? [meanFigures(f)] : [])) });
}
/** Finds the hole of footage in its first frame. */
async function findHole({ id, clip }: HoleAsk): Promise<void> {
  let corners: ReturnType<typeof holeOf> = null;
  try {
    const footage = clips.get(clip);
    if (footage?.format.alpha) {
      const { format, planes } = await frameOf(footage, 0, 540);
      const top = 2 ** format.depth - 1;
      corners = holeOf(
        Float32Array.from(planes.at(-1)!, (v) => v / top),
        format.width,
        format.height,
      );
    }
  } catch (e) {
    post({ kind: 'trouble', serial: 0, view: 'hero', message: (e as Error).message });
  }
  post({ kind: 'hole', id, corners });
}
/** Finds what of a look does nothing at a shot; a newer question stands in for one that waits. */
async function answer({ shot, width, height }: Ask): Promise<void> {
  try {
    const raws = await rawOf(shot);
    if (!raws || !screen || !shot.look) return;
    const { computer } = await screen;
    const moment = momentAt(shot, width, height, raws);
    // The clip itself is brought to the small size once for all questions.
    const keepMarked = new Set([moment.bedrock.key]);
    const most = (p: Picturing): number => {
      const planes = computer.planes(computer.compute(p, { keepMarked }));
      let found = 0;
      for (let y = 0; y < planes.height; y++)
        for (const v of planes.planes[0]!.subarray(y * planes.stride, y * planes.stride + planes.width)) found = Math.max(found, Math.abs(v));
      return found;
    };
    const found: Record<string, Idle> = {};
    for (const q of questions(shot.look, moment)) {
      // What is seen goes first, and a newer question is enough.
      await inQuiet();
      if (asked) return;
      const why = answered(q, most);
      if (why) found[q.key] = why;
    }
    post({ kind: 'answered', idle: found });
  } catch (e) {
    if (!(e instanceof Stale)) post({ kind: 'trouble', serial: 0, view: 'hero', message: (e as Error).message });
  }
}

const own = (p: Planes): Planes => ({ ...p, planes: p.planes.map((v) => v.slice()) });

let asked: Ask | undefined;
/** One survey after the other. */
let surveys: Promise<void> = Promise.resolve();
const isHero = (v: View): boolean => v.id === 'hero';
const breath = new MessageChannel();
let waiting: (() => void)[] = [];
breath.port1.onmessage = () => {
  const all = waiting;
  waiting = [];
  all.forEach((f) => f());
};
/** Lets messages that wait come in. */
const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    waiting.push(resolve);
    breath.port2.postMessage(0);
  });

/** What nobody waits for goes on once everything that is seen has been shown. */
async function inQuiet(): Promise<void> {
  await breathe();
  while (busy) await working;
}
let working: Promise<void> = Promise.resolve();
async function work(): Promise<void> {
  busy = true;
  await screen;
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
      if (isHero(view) && scopes) await measure((c) => measuring.scopes(c, scopes));
      if (!isHero(view)) done++;
      if (next && (done > 0 || others.length === 0)) break;
    }
    if (!next) post({ kind: 'done', serial: request.serial });
    while (!next && (await screen)?.prepare()) await breathe();
  }
  busy = false;
}
/** What nobody sees comes last, exact pictures after quick ones; among equals the stalest first. */
const rank = (v: View): number => (v.later ? 2e12 : 0) + (v.from === 'exact' ? 1e12 : 0) + (finished.get(v.id) ?? 0);

async function again(view: string): Promise<void> {
  const facts = latest.get(view);
  const bitmap = await (await screen)?.again(view);
  if (facts && bitmap) send(facts, bitmap);
}

self.onmessage = (e: MessageEvent<ToEngine>) => {
  const m = e.data;
  if (m.kind === 'setup') return setup(m);
  if (m.kind === 'probe') return void measure((c) => measuring.probe(c, m));
  if (m.kind === 'survey') {
    surveys = surveys.then(() => survey(m));
    return;
  }
  if (m.kind === 'ask') {
    asked = m;
    surveys = surveys.then(async () => {
      const latest = asked;
      asked = undefined;
      if (latest) await answer(latest);
    });
    return;
  }
  if (m.kind === 'hole') return void findHole(m);
  if (m.kind === 'again') return void again(m.view);
  next = m;
  if (!busy) working = work();
};
