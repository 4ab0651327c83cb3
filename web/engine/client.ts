/** The page's side of the engine: sends requests, hands pictures to whoever shows them. */
import type { EncodingId } from '../../core';
import type { ClipView } from '../api/views';
import type { EngineClip, FromEngine, Pixels, Probed, ScopesMade, ScopesWanted, View } from './protocol';

const sameView = (a: View, b: View): boolean => (Object.keys(a) as (keyof View)[]).every((k) => a[k] === b[k]);

export type Listener = (p: Pixels) => void;
export interface Status {
  readonly threads: number;
  readonly milliseconds: number;
  readonly computed: number;
  readonly found: number;
  readonly trouble: string | null;
}

export class EngineClient {
  private readonly worker = new Worker(new URL('../workers/engine.ts', import.meta.url), { type: 'module' });
  private readonly generation = typeof SharedArrayBuffer === 'undefined' ? null : new SharedArrayBuffer(4);
  private readonly listeners = new Map<string, Set<Listener>>();
  private readonly computed = new Set<string>();
  private readonly idle = new Set<(serial: number) => void>();
  private readonly watchers = new Set<() => void>();
  private readonly scopeListeners = new Set<(s: ScopesMade) => void>();
  private probed: ((p: Probed) => void) | undefined;
  private serial = 0;
  private hero: View | undefined;
  /** The request that first asked for the present hero. */
  private heroSince = 0;
  status: Status = { threads: 0, milliseconds: 0, computed: 0, found: 0, trouble: null };

  constructor(
    private readonly out: EncodingId,
    private readonly memory = 320 * 2 ** 20,
  ) {
    this.worker.onerror = (e) => this.say({ ...this.status, trouble: `the engine stopped: ${e.message}; reload the page` });
    this.worker.onmessage = (e: MessageEvent<FromEngine>) => this.take(e.data);
  }

  clips(clips: readonly ClipView[]): void {
    const plain: EngineClip[] = clips.map(({ id, hash, format, encoding, fit, pixelAspect, frames, slots, proxies }) => ({
      id,
      hash,
      format,
      encoding,
      fit,
      pixelAspect,
      frames,
      slots,
      proxies,
    }));
    this.worker.postMessage({ kind: 'setup', clips: plain, out: this.out, generation: this.generation, memory: this.memory });
  }

  /** Asks for views; returns the request's number. */
  request(views: readonly View[], scopes?: ScopesWanted): number {
    this.serial++;
    const hero = views.find((v) => v.id === 'hero');
    // The same hero asked for once more is at hand: that says nothing of what its change took.
    if (!hero || !this.hero || !sameView(hero, this.hero)) this.heroSince = this.serial;
    this.hero = hero;
    if (this.generation) Atomics.store(new Int32Array(this.generation), 0, this.serial);
    this.worker.postMessage({ kind: 'request', serial: this.serial, views, scopes });
    return this.serial;
  }

  /** Calls back with each picture of a view, soon with the latest. The first listener may take the bitmap. */
  on(view: string, f: Listener): () => void {
    const all = this.listeners.get(view) ?? this.listeners.set(view, new Set()).get(view)!;
    all.add(f);
    if (this.computed.has(view)) this.worker.postMessage({ kind: 'again', view });
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
  /** Asks for the hero's values at a place; only the latest question is answered. */
  probe(x: number, y: number, size: number, f: (p: Probed) => void): void {
    this.probed = f;
    this.worker.postMessage({ kind: 'probe', x, y, size });
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
    if (m.kind === 'ready') this.say({ ...this.status, threads: m.threads });
    else if (m.kind === 'done') this.idle.forEach((f) => f(m.serial));
    else if (m.kind === 'trouble') this.say({ ...this.status, trouble: m.message });
    else if (m.kind === 'scopes') this.scopeListeners.forEach((f) => f(m));
    else if (m.kind === 'probed') this.probed?.(m);
    else {
      this.computed.add(m.view);
      this.listeners.get(m.view)?.forEach((f) => f(m));
      if (m.view === 'hero' && (m.serial <= this.heroSince || m.computed > 0))
        this.say({ ...this.status, milliseconds: m.milliseconds, computed: m.computed, found: m.found, trouble: null });
    }
  }
  private say(status: Status): void {
    this.status = status;
    this.watchers.forEach((f) => f());
  }
}
