/** The page's side of the engine: sends requests and distributes pictures. */
import { byAsset, type EncodingId, type GoalFigures, type Region, shownOf } from '../../../core';
import type { ClipView } from '../../data/views';
import { LooksSent } from '../looks';
import type {
  Answered,
  AtHandFound,
  ForKiln,
  BackEndChoice,
  BakingAt,
  Corners,
  EngineClip,
  EngineCut,
  FromEngine,
  Pixels,
  Probe,
  Probed,
  Ready,
  ScopesMade,
  ScopesWanted,
  Shot,
  Survey,
  ToEngine,
  View,
} from '../protocol';

/** Whether two views show the same; `later` does not matter. */
const sameView = (a: View, b: View): boolean =>
  (Object.keys({ ...a, ...b }) as (keyof View)[]).every((k) => k === 'later' || a[k] === b[k]);

const CHOICE = 'wabisabi-back-end';
function keptChoice(): BackEndChoice {
  const kept = globalThis.localStorage?.getItem(CHOICE);
  return kept === 'simd' || kept === 'glsl' ? kept : 'automatic';
}
function keepChoice(choice: BackEndChoice): void {
  try {
    localStorage.setItem(CHOICE, choice);
  } catch {
    /* without storage only the choice is lost */
  }
}

/** Age in ms from which an outdated picture is marked. */
const TIMEOUT_MS = 400;

/** Times that an ended worker is started anew. */
const MOST_RESTARTS = 3;

/** Questions that wait for their answers, which come in order; some are never answered. */
class Pending<T> {
  private last = 0;
  private readonly waiting = new Map<number, (answer: T) => void>();
  add(hear: (answer: T) => void): number {
    this.waiting.set(++this.last, hear);
    return this.last;
  }
  answer(id: number, answer: T): void {
    const hear = this.waiting.get(id);
    // Older ones were overtaken.
    for (const known of this.waiting.keys()) if (known <= id) this.waiting.delete(known);
    hear?.(answer);
  }
}

/** Receives pictures of a view. */
export type Listener = (p: Pixels) => void;
/** State of the engine. */
export interface Status {
  readonly ready: Ready | null;
  readonly milliseconds: number;
  readonly computed: number;
  readonly found: number;
  readonly trouble: string | null;
}

/** One engine per page, with its worker. */
export class EngineClient {
  private worker = this.started();
  /** How often the worker ended by itself and was started anew. */
  private restarts = 0;
  private readonly generation =
    typeof SharedArrayBuffer === 'undefined' ? null : new SharedArrayBuffer(4);
  private readonly listeners = new Map<string, Set<Listener>>();
  private readonly computed = new Set<string>();
  private readonly idle = new Set<(serial: number) => void>();
  private readonly watchers = new Set<() => void>();
  private readonly scopeListeners = new Set<(s: ScopesMade) => void>();
  private readonly asking = new Pending<Answered['idle']>();
  private readonly probing = new Pending<Probed>();
  private readonly surveying = new Map<number, (f: readonly GoalFigures[]) => void>();
  private readonly seekingHoles = new Map<number, (corners: Corners | null) => void>();
  private baking: { readonly id: number; readonly hear: (b: BakingAt) => void } | undefined;
  private atHandAsked: { readonly id: number; readonly hear: (a: AtHandFound) => void } | undefined;
  private questions = 0;
  private serial = 0;
  private hero: View | undefined;
  private readonly looks = new LooksSent();
  /** Clips as last sent to the worker. */
  private readonly told = new Map<string, { readonly clip: ClipView; readonly scope: string }>();
  private knownCut: EngineCut | undefined;
  private choice = keptChoice();
  private latest: { readonly views: readonly View[]; readonly scopes: ScopesWanted | undefined } = {
    views: [],
    scopes: undefined,
  };
  /**
   * Per view: the request that first asked for its current content, the time of that, and the
   * request of its latest picture.
   */
  private readonly ages = new Map<
    string,
    { wanted: View; since: number; at: number; shown: number }
  >();
  private readonly ageWatchers = new Set<() => void>();
  /** The request that first asked for the current hero. */
  private heroSince = 0;
  status: Status = { ready: null, milliseconds: 0, computed: 0, found: 0, trouble: null };

  constructor(
    private readonly out: EncodingId,
    private readonly memory = 320 * 2 ** 20,
  ) {}

  private started(): Worker {
    const worker = new Worker(new URL('../worker/main.ts', import.meta.url), { type: 'module' });
    worker.onerror = (e) => this.stopped(e.message || 'it could not be loaded');
    worker.onmessageerror = () => this.stopped('a message could not be read');
    worker.onmessage = (e: MessageEvent<FromEngine>) => this.take(e.data);
    return worker;
  }
  /** Ends all questions, and starts the worker anew: with all clips and the latest views. */
  private stopped(why: string): void {
    const anew = this.restarts++ < MOST_RESTARTS;
    const next = anew ? 'it was started anew' : 'reload the page';
    const trouble = `the engine stopped (${why}): ${next}`;
    this.worker.terminate();
    this.surveying.forEach((f) => f([]));
    this.seekingHoles.forEach((f) => f(null));
    for (const all of [this.surveying, this.seekingHoles]) all.clear();
    this.baking?.hear({ kind: 'baking', id: 0, done: 0, of: 0, ended: 'stopped', trouble });
    this.baking = undefined;
    this.computed.clear();
    this.say({ ...this.status, ready: null, trouble });
    if (!anew) return;
    this.worker = this.started();
    this.looks.clear();
    const known = [...this.told.values()];
    this.told.clear();
    for (const scope of new Set(known.map((t) => t.scope)))
      this.clips(
        known.filter((t) => t.scope === scope).map((t) => t.clip),
        scope,
      );
    if (this.knownCut) this.cut(this.knownCut);
    if (this.latest.views.length > 0) this.request(this.latest.views, this.latest.scopes);
  }

  /**
   * Sends new and changed clips to the worker. Pins name footage among the clips of the same
   * `scope` (a project's id), where one engine serves several projects.
   */
  clips(clips: readonly ClipView[], scope = ''): void {
    const news = clips.filter((c) => this.told.get(c.id)?.clip !== c);
    news.forEach((c) => this.told.set(c.id, { clip: c, scope }));
    const facts = news.map(({ statistics, assets, traces, ...c }) => ({
      ...shownOf(c),
      scope,
      plate: c.role === 'plate' ? (c.plate ?? statistics?.plate ?? null) : null,
      id: c.id,
      hash: c.hash,
      format: c.format,
      proxyMatrix: c.proxyMatrix,
      pixelAspect: c.pixelAspect,
      frames: c.frames,
      cuts: c.cuts,
      rate: c.rate,
      slots: c.slots,
      proxies: c.proxies,
      whole: statistics && {
        tones: statistics.tones,
        magenta: statistics.magenta,
        warmth: statistics.warmth,
      },
      tracks: Object.fromEntries(traces.filter((t) => t.state === 'done').map((t) => [t.id, t.of])),
      made: byAsset((a) => assets[a]?.progress ?? 0),
    }));
    this.setup(facts);
  }
  /** Makes a cut known; views name it by its id. */
  cut(cut: EngineCut): void {
    this.knownCut = cut;
    this.post({ kind: 'cut', cut });
  }
  /**
   * The chosen back end, stored for the next visit. After a change everything must be requested
   * again.
   */
  get backEnd(): BackEndChoice {
    return this.choice;
  }
  set backEnd(choice: BackEndChoice) {
    this.choice = choice;
    keepChoice(choice);
    this.say({ ...this.status, ready: null });
    this.setup();
    const { views, scopes } = this.latest;
    this.request(views, scopes);
  }
  private post(m: ToEngine): void {
    this.worker.postMessage(this.looks.sent(m));
  }
  private setup(clips: readonly EngineClip[] = []): void {
    this.post({
      kind: 'setup',
      clips,
      out: this.out,
      generation: this.generation,
      memory: this.memory,
      backEnd: this.choice,
    });
  }

  /** Requests views; returns the request's number. */
  request(views: readonly View[], scopes?: ScopesWanted, ahead?: readonly number[]): number {
    this.serial++;
    this.latest = { views, scopes };
    const hero = views.find((v) => v.id === 'hero');
    // A repeated request for the same hero is answered from the cache; its time says nothing.
    if (!hero || !this.hero || !sameView(hero, this.hero)) this.heroSince = this.serial;
    this.hero = hero;
    for (const v of views) {
      const age = this.ages.get(v.id);
      if (!age)
        this.ages.set(v.id, { wanted: v, since: this.serial, at: performance.now(), shown: 0 });
      else if (!sameView(age.wanted, v))
        Object.assign(age, {
          wanted: v,
          since: this.serial,
          ...(age.shown >= age.since && { at: performance.now() }),
        });
    }
    if (views.some((v) => this.ages.get(v.id)!.since === this.serial))
      this.ageWatchers.forEach((f) => f());
    setTimeout(() => this.ageWatchers.forEach((f) => f()), TIMEOUT_MS + 20);
    if (this.generation) Atomics.store(new Int32Array(this.generation), 0, this.serial);
    this.post({ kind: 'request', serial: this.serial, views, scopes, ahead });
    return this.serial;
  }

  /** Whether a view does not show its current content yet. */
  isBusy(view: string): boolean {
    const age = this.ages.get(view);
    return age !== undefined && age.shown < age.since;
  }
  /** Whether a view has shown outdated content for a noticeable time. */
  isOld(view: string): boolean {
    const age = this.ages.get(view);
    return (
      age !== undefined &&
      age.shown > 0 &&
      age.shown < age.since &&
      performance.now() - age.at > TIMEOUT_MS
    );
  }
  /** Calls back when views may have become busy, old or current. */
  onAges(f: () => void): () => void {
    this.ageWatchers.add(f);
    return () => {
      this.ageWatchers.delete(f);
    };
  }
  /**
   * Calls back with each picture of a view, starting with the latest. The first listener may take
   * the bitmap.
   */
  on(view: string, f: Listener): () => void {
    const all = this.listeners.get(view) ?? this.listeners.set(view, new Set()).get(view)!;
    all.add(f);
    if (this.computed.has(view)) this.post({ kind: 'again', view });
    return () => {
      all.delete(f);
    };
  }
  onScopes(f: (s: ScopesMade) => void): () => void {
    this.scopeListeners.add(f);
    return () => {
      this.scopeListeners.delete(f);
    };
  }
  /** Asks for the hero's values; each question gets its own answer. */
  probe(
    region: Region,
    f: (p: Probed) => void,
    of?: { readonly layer?: string | undefined; readonly side: 'before' | 'after' },
  ): void {
    const id = this.probing.add(f);
    const at: Probe['at'] =
      of?.layer === undefined ? undefined : { layer: of.layer, side: of.side };
    this.post({ kind: 'probe', id, region, at });
  }
  /** The goal figures of a clip under several looks. */
  survey(wanted: Omit<Survey, 'kind' | 'id'>): Promise<readonly GoalFigures[]> {
    const id = ++this.questions;
    return new Promise((resolve) => {
      this.surveying.set(id, resolve);
      this.post({ kind: 'survey', id, ...wanted });
    });
  }
  /**
   * Which frames of a view are available as finished pictures; only the latest question is
   * answered.
   */
  atHand(
    view: View,
    frames: readonly number[],
    kiln: ForKiln,
    hear: (a: AtHandFound) => void,
  ): void {
    const id = ++this.questions;
    this.atHandAsked = { id, hear };
    this.post({ kind: 'at-hand', id, view, frames, kiln });
  }
  /** Bakes frames of a view. `hear` is called after each, and at the end. */
  bake(view: View, frames: readonly number[], hear: (b: BakingAt) => void): void {
    const id = ++this.questions;
    this.baking = { id, hear };
    this.post({ kind: 'bake', id, view, frames });
  }
  stopBaking(): void {
    this.post({ kind: 'stop-baking' });
  }
  /** Removes all pictures baked in this browser. */
  clearBaked(): void {
    this.post({ kind: 'clear-baked' });
  }
  /**
   * Corners of the hole of footage with coverage, in shares of its picture; null if there is none.
   */
  hole(clip: string): Promise<Corners | null> {
    const id = ++this.questions;
    return new Promise((resolve) => {
      this.seekingHoles.set(id, resolve);
      this.post({ kind: 'hole', id, clip });
    });
  }
  /** Finds parts of a look without effect; only the latest question is answered. */
  ask(shot: Shot, width: number, height: number, f: (idle: Answered['idle']) => void): void {
    const id = this.asking.add(f);
    this.post({ kind: 'ask', id, shot, width, height });
  }
  onDone(f: (serial: number) => void): () => void {
    this.idle.add(f);
    return () => {
      this.idle.delete(f);
    };
  }
  onStatus(f: () => void): () => void {
    this.watchers.add(f);
    return () => {
      this.watchers.delete(f);
    };
  }
  close(): void {
    this.worker.terminate();
  }

  private take(m: FromEngine): void {
    if (m.kind === 'ready') this.say({ ...this.status, ready: m });
    else if (m.kind === 'done') this.idle.forEach((f) => f(m.serial));
    else if (m.kind === 'trouble') this.say({ ...this.status, trouble: m.message });
    else if (m.kind === 'scopes') this.scopeListeners.forEach((f) => f(m));
    else if (m.kind === 'probed') this.probing.answer(m.id, m);
    else if (m.kind === 'answered') this.asking.answer(m.id, m.idle);
    else if (m.kind === 'at-hand') {
      if (this.atHandAsked?.id === m.id) this.atHandAsked.hear(m);
    } else if (m.kind === 'baking') {
      if (this.baking?.id === m.id) this.baking.hear(m);
    } else if (m.kind === 'hole') {
      this.seekingHoles.get(m.id)?.(m.corners);
      this.seekingHoles.delete(m.id);
    } else if (m.kind === 'surveyed') {
      this.surveying.get(m.id)?.(m.figures);
      this.surveying.delete(m.id);
    } else {
      this.computed.add(m.view);
      const busy = this.isBusy(m.view),
        age = this.ages.get(m.view);
      if (age) age.shown = Math.max(age.shown, m.serial);
      const listeners = this.listeners.get(m.view);
      if (!listeners?.size) m.bitmap.close();
      listeners?.forEach((f) => f(m));
      if (busy) this.ageWatchers.forEach((f) => f());
      if (m.view === 'hero' && (m.serial <= this.heroSince || m.computed > 0))
        this.say({
          ...this.status,
          milliseconds: m.milliseconds,
          computed: m.computed,
          found: m.found,
          trouble: null,
        });
    }
  }
  private say(status: Status): void {
    this.status = status;
    this.watchers.forEach((f) => f());
  }
}
