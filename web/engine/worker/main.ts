/**
 * The engine worker: owns memory, threads and pictures, and computes requested views in order. A
 * newer request replaces an older one, but at least one more picture of the older one is finished,
 * so that companions follow a long drag.
 */
import {
  difference,
  halve,
  inDomain,
  frameKeyOf,
  keysOf,
  marked,
  fieldShown,
  matteShown,
  type ImageNode,
  toCodes,
  toOklab,
  traitsOf,
} from '../../../core';
import { BackgroundQueries, type QueryContext, findHole } from './background-queries';
import { Cancelled } from '../../../core/engine';
import type { BackEndChoice, FromEngine, Pixels, Request, Setup, View } from '../protocol';
import { LooksReceived, type Sent } from '../looks';
import { Baking } from './baking';
import { ServerBakes } from './server-bakes';
import { PictureStore, pngPacking, privateFolder, roomForBaked } from './picture-store';
import { Measuring } from './measuring';
import { glslScreen, type Keeping, type ViewRenderer, simdScreen } from './view-renderer';
import { FrameLoader, type Planned, type Raws } from './frame-loader';

const post = (m: FromEngine, transfer: Transferable[] = []): void =>
  (self as unknown as Worker).postMessage(m, transfer);

let screen: Promise<ViewRenderer> | undefined;
let choice: BackEndChoice | undefined;
let out: Setup['out'] = 'bt709';
let generation: Int32Array | undefined;
const shots = new FrameLoader();
let next: Request | undefined;
let busy = false;
/** Time when each view was last finished; of companions, the oldest comes first. */
const finished = new Map<string, number>();

function setup(m: Setup): void {
  shots.know(m.clips);
  out = m.out;
  generation = m.generation ? new Int32Array(m.generation) : undefined;
  if (choice === m.backEnd) return;
  choice = m.backEnd;
  memory = m.memory;
  screen?.then(
    (s) => s.close(),
    () => undefined,
  );
  screen = chosenScreen(choice);
  screen.catch((e: unknown) => {
    // The next message that sets up tries again.
    choice = undefined;
    report(`the engine could not start: ${inWords(e)}`);
  });
}
const inWords = (e: unknown): string => (e instanceof Error ? e.message : String(e));
/** Tells the page what went wrong. */
const report = (message: string, serial = 0, view = 'hero'): void =>
  post({ kind: 'trouble', serial, view, message });
// What nobody awaits must not end in silence: the page would wait for ever.
self.addEventListener('unhandledrejection', (e) => report(inWords(e.reason)));
self.addEventListener('messageerror', () => report('a message of the page could not be read'));
let memory = 0;

/** The chosen back end, or simd if that is not available. */
async function chosenScreen(wanted: BackEndChoice, trouble?: string): Promise<ViewRenderer> {
  const glsl = wanted === 'simd' ? undefined : glslScreen(memory, wanted === 'automatic');
  const made = typeof glsl === 'object' ? glsl : await simdScreen(memory);
  const why = trouble ?? (wanted === 'glsl' && typeof glsl === 'string' ? glsl : null);
  post({ kind: 'ready', backEnd: made.backEnd, threads: made.threads, why });
  return made;
}

const measuring = new Measuring();

/** The code values of a view, and which pictures to keep for its next change. */
interface Shown {
  readonly codes: ImageNode;
  readonly keeping: Keeping;
}
/** Keys of everything each view was last made from. */
const lastKeys = new Map<string, ReadonlySet<string>>();

/**
 * The pictures to keep: those that the view's last change left unchanged. Everything above runs in
 * as few kernels as possible. All layers' results if layers are shown one by one.
 */
function keepingOf(view: View, scopes: boolean, codes: ImageNode): Keeping {
  const now = keysOf(codes),
    last = lastKeys.get(view.id);
  lastKeys.set(view.id, now);
  return !last || scopes || view.layer !== undefined
    ? true
    : new Set([...now].filter((key) => last.has(key)));
}

function shownBy(view: View, scopes: boolean, raw: Raws, other: Raws | undefined): Shown {
  const planned = shots.plan(view, view.width, view.height, raw);
  if (isHero(view))
    measuring.hero = { ...planned, layers: view.look?.layers.map((l) => l.key) ?? [], out };
  const codes = pictureOf(view, planned, other);
  return { codes, keeping: keepingOf(view, scopes, codes) };
}

function pictureOf(
  view: View,
  { bedrock, result, strata, mattes, onward }: Planned,
  other?: Raws,
): ImageNode {
  if (view.against && other)
    return difference(
      toCodes(result, out),
      toCodes(shots.plan(view.against, view.width, view.height, other).result, out),
      view.against.gain,
    );
  if (view.layer !== undefined) {
    let small = strata.get(view.layer) ?? bedrock;
    while (small.height > 100) small = halve(small);
    return toCodes(small, out);
  }
  if (view.field && onward) return fieldShown(toCodes(bedrock, out), onward, view.field);
  const matte = view.matte && mattes.get(view.matte.key);
  if (matte) return matteShown(toCodes(bedrock, out), matte, view.matte!.how);
  return view.marks ? marked(toCodes(result, out)) : toCodes(result, out);
}
/** The Oklab picture of a view. */
const labOf = (view: View, raw: Raws): ImageNode =>
  toOklab(inDomain(shots.plan(view, view.width, view.height, raw).result, 'light'));

/** Facts about the latest picture of each view. */
const latest = new Map<string, Omit<Pixels, 'bitmap'>>();

function send(facts: Omit<Pixels, 'bitmap'>, bitmap: ImageBitmap): void {
  latest.set(facts.view, facts);
  post({ ...facts, bitmap }, [bitmap]);
}

/** The worker's path identifies the build. */
const pictures = Promise.all([
  privateFolder(self.location.pathname.replace(/\W/g, '-')),
  roomForBaked(),
]).then(([folder, room]) => new PictureStore(folder, pngPacking(), room));

const elsewhere = new ServerBakes();

/** Shows a finished picture if one is available. */
async function showKept(request: Request, view: View): Promise<boolean> {
  const began = performance.now();
  const image = (await ahead.find(view))?.image;
  const on = await screen;
  if (!image || !on) return false;
  const { backEnd } = on;
  const milliseconds = performance.now() - began;
  const facts = {
    kind: 'pixels',
    serial: request.serial,
    view: view.id,
    clip: view.clip,
    frame: view.frame,
    exact: view.from === 'exact',
  } as const;
  send(
    {
      ...facts,
      width: image.width,
      height: image.height,
      backEnd,
      milliseconds,
      computed: 0,
      found: 1,
    },
    on.put(view.id, image),
  );
  return true;
}

let heroShown: string | undefined;
/**
 * Whether looking for a finished picture is worthwhile: while playing or scrubbing, not while
 * dragging. Only workers keep exact ones.
 */
function mayBeAtHand({ ahead, scopes }: Request, { frame, from }: View): boolean {
  const shown = `${frame} ${from}`,
    moved = heroShown !== shown;
  heroShown = shown;
  return (from !== 'exact' || elsewhere.any) && !scopes && (ahead !== undefined || moved);
}

/** Time (ms) from which on a hero is shown at half its size first. */
const SLOW = 100;
let heroTook = 0;

/** The hero at half its size, if the same frame was slow the last time. */
async function showQuick(request: Request, view: View, raw: Raws, on: ViewRenderer): Promise<void> {
  const plain = !view.against && view.layer === undefined && !request.scopes && !request.ahead;
  if (!plain || heroTook < SLOW) return;
  const began = performance.now();
  const small = { ...view, width: view.width >> 1, height: view.height >> 1 };
  const codes = pictureOf(small, shots.plan(small, small.width, small.height, raw));
  const bitmap = await drawn(on, 'hero:quick', { codes, keeping: true }, () => false);
  if (!bitmap) return;
  const { clip, frame, id } = view;
  const { computed, found } = on.tally;
  const facts = { kind: 'pixels', serial: request.serial, view: id, clip, frame } as const;
  const { width, height } = bitmap;
  const milliseconds = performance.now() - began;
  const quick = { exact: false, quick: true, backEnd: on.backEnd, milliseconds, computed, found };
  post({ ...facts, width, height, bitmap, ...quick }, [bitmap]);
}

async function show(request: Request, view: View): Promise<void> {
  try {
    if (isHero(view) && mayBeAtHand(request, view) && (await showKept(request, view))) return;
    const raw = await shots.raws(view),
      other = view.against && (await shots.raws(view.against));
    if (!raw || !screen) return;
    if (isHero(view)) await showQuick(request, view, raw, await screen);
    // The quick one may have lost its GPU.
    const on = await screen;
    const began = performance.now();
    // An exact frame may take long, so it stops as soon as the page asks for something else.
    const stop =
      view.from === 'exact' && generation
        ? () => Atomics.load(generation!, 0) > request.serial && !isHero(view)
        : () => false;
    const shown = shownBy(view, isHero(view) && request.scopes !== undefined, raw, other);
    const bitmap = await drawn(on, view.id, shown, stop);
    if (!bitmap) return await show(request, view);
    if (request.ahead && isHero(view)) {
      const image = await on.pixelsOf(view.id);
      if (image) (await pictures).keep(frameKeyOf(on.backEnd, view, shown.codes), image);
    }
    finished.set(view.id, performance.now());
    if (isHero(view)) heroTook = performance.now() - began;
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
        traits: view.traits
          ? traitsOf(
              on.computer.planes(on.computer.compute(labOf(view, raw), { keepCheckpoints: true })),
            )
          : undefined,
      },
      bitmap,
    );
  } catch (e) {
    if (!(e instanceof Cancelled)) report(inWords(e), request.serial, view.id);
  }
}

/** Draws a view. If the GPU is lost, simd takes over and the picture must be drawn again. */
async function drawn(
  on: ViewRenderer,
  view: string,
  { codes, keeping }: Shown,
  stop: () => boolean,
): Promise<ImageBitmap | undefined> {
  try {
    return await on.draw(view, codes, keeping, stop);
  } catch (e) {
    if (e instanceof Cancelled || on.backEnd === 'simd') throw e;
    on.close();
    screen = chosenScreen('simd', (e as Error).message);
    return undefined;
  }
}

/** Posts measurements of the hero. A failure (no memory) is reported and stops nothing else. */
async function measure(
  take: (c: ViewRenderer['computer']) => FromEngine | undefined,
): Promise<void> {
  try {
    const made = screen && take((await screen).computer);
    if (made) post(made);
  } catch (e) {
    report(inWords(e));
  }
}

const isHero = (v: View): boolean => v.id === 'hero';
const breath = new MessageChannel();
let waiting: (() => void)[] = [];
breath.port1.onmessage = () => {
  const all = waiting;
  waiting = [];
  all.forEach((f) => f());
};
/** Lets waiting messages in. */
const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    waiting.push(resolve);
    breath.port2.postMessage(0);
  });

/** Resolves when everything visible is shown, for work that nobody waits for. */
async function inQuiet(): Promise<void> {
  await breathe();
  while (busy) await working;
}
const queryContext: QueryContext = { shots, screen: () => screen, out: () => out, post, inQuiet };
const queries = new BackgroundQueries(queryContext);
const ahead = new Baking({
  shots,
  screen: () => screen,
  pictures,
  elsewhere,
  codesOf: (view, raws) => pictureOf(view, shots.plan(view, view.width, view.height, raws)),
  post,
  inQuiet,
  newest: () => (generation ? Atomics.load(generation, 0) : 0),
});

/** Prepares the next frames of a playing hero, while nothing newer is requested. */
async function makeReady({ views, ahead: frames = [] }: Request): Promise<void> {
  const hero = views.find(isHero);
  for (const frame of hero ? frames : []) {
    await breathe();
    if (next) return;
    await ahead.prepare({ ...hero!, frame }).catch(() => {});
  }
}

let working: Promise<void> = Promise.resolve();
async function work(): Promise<void> {
  busy = true;
  try {
    await screen;
    await workThrough();
  } catch (e) {
    report(inWords(e), next?.serial);
    next = undefined;
  } finally {
    busy = false;
  }
}
async function workThrough(): Promise<void> {
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
    if (!next) await makeReady(request);
    while (!next && (await screen)?.prepare()) await breathe();
  }
}
/** Order of views: invisible ones last, exact ones after quick ones, then the oldest first. */
const rank = (v: View): number =>
  (v.later ? 2e12 : 0) + (v.from === 'exact' ? 1e12 : 0) + (finished.get(v.id) ?? 0);

async function again(view: string): Promise<void> {
  const facts = latest.get(view);
  const bitmap = await (await screen)?.again(view);
  if (facts && bitmap) send(facts, bitmap);
}

const looks = new LooksReceived();
self.onmessage = (e: MessageEvent<Sent>) => {
  const m = looks.received(e.data);
  if (m.kind === 'setup') return setup(m);
  if (m.kind === 'cut') return shots.knowCut(m.cut);
  if (m.kind === 'probe') return void measure((c) => measuring.probe(c, m));
  if (m.kind === 'survey') return queries.survey(m);
  if (m.kind === 'ask') return queries.ask(m);
  if (m.kind === 'hole') return void findHole(m, queryContext);
  if (m.kind === 'again') return void again(m.view);
  if (m.kind === 'at-hand') return void ahead.atHand(m);
  if (m.kind === 'bake') return void ahead.bake(m);
  if (m.kind === 'stop-baking') return ahead.stop();
  if (m.kind === 'clear-baked') return void ahead.clear();
  next = m;
  if (!busy) working = work();
};
