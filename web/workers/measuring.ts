/** Measures the hero for the page: scopes, figures before and after the look, values at a place. */
import {
  type CodePlanes,
  type EncodingId,
  type Figures,
  figuresOf,
  inDomain,
  keep,
  type Picturing,
  type Region,
  scopesOf,
  toCodes,
} from '../../core';
import type { Engine, Image } from '../../core/engine';
import type { Probe, Probed, ScopesMade, ScopesWanted } from '../engine/protocol';

interface Hero {
  readonly bedrock: Picturing;
  readonly result: Picturing;
  readonly out: EncodingId;
}

/** Scopes count at most about so many pixels: every second column and row of a larger picture. */
const MOST_PIXELS = 200_000;

const planesOf = (engine: Engine, image: Image): CodePlanes => ({
  width: image.width,
  height: image.height,
  stride: image.stride / 4,
  planes: [0, 1, 2].map((p) => engine.memory.floats(image.address + p * image.stride * image.height, (image.stride / 4) * image.height)) as never,
});

export class Measuring {
  /** The hero as it was asked for last. */
  hero: Hero | undefined;
  private known: { readonly key: string; readonly figures: Figures } | undefined;

  scopes(engine: Engine, wanted: ScopesWanted): ScopesMade | undefined {
    const { hero } = this;
    if (!hero) return undefined;
    const codes = (p: Picturing) => planesOf(engine, engine.compute(keep(toCodes(p, hero.out)), { keepMarked: true }));
    const { width, height } = hero.result;
    const step = Math.ceil(Math.sqrt((width * height) / MOST_PIXELS));
    const region = inPixels(wanted.region, width, height);
    if (this.known?.key !== hero.bedrock.key) this.known = { key: hero.bedrock.key, figures: figuresOf(codes(hero.bedrock), undefined, step) };
    const after = codes(hero.result);
    const figures = figuresOf(after, undefined, step);
    const scopes = scopesOf(wanted.of === 'after' ? after : codes(hero.bedrock), region, step);
    return { kind: 'scopes', scopes, before: this.known.figures, after: figures };
  }

  probe(engine: Engine, { x, y, size }: Probe): Probed | undefined {
    const { hero } = this;
    if (!hero) return undefined;
    const { width, height } = hero.result;
    const centre = [Math.min(width - 1, Math.floor(x * width)), Math.min(height - 1, Math.floor(y * height))] as const;
    const half = Math.floor(size / 2);
    const region = {
      x0: Math.max(0, centre[0] - half),
      y0: Math.max(0, centre[1] - half),
      x1: Math.min(width, centre[0] + half + 1),
      y1: Math.min(height, centre[1] + half + 1),
    };
    const mean = (p: Picturing) => meanOf(planesOf(engine, engine.compute(keep(p), { keepMarked: true })), region);
    return {
      kind: 'probed',
      light: mean(inDomain(hero.result, 'light')),
      encoded: mean(inDomain(hero.result, 'encoded')),
      codes: mean(toCodes(hero.result, hero.out)),
    };
  }
}

const inPixels = (r: Region | null, width: number, height: number): Region | undefined =>
  r
    ? {
        x0: Math.floor(r.x0 * width),
        y0: Math.floor(r.y0 * height),
        x1: Math.max(Math.floor(r.x0 * width) + 1, Math.ceil(r.x1 * width)),
        y1: Math.max(Math.floor(r.y0 * height) + 1, Math.ceil(r.y1 * height)),
      }
    : undefined;

function meanOf(p: CodePlanes, r: Region): readonly [number, number, number] {
  const n = (r.x1 - r.x0) * (r.y1 - r.y0);
  return p.planes.map((plane) => {
    let sum = 0;
    for (let y = r.y0; y < r.y1; y++) for (let x = r.x0; x < r.x1; x++) sum += plane[y * p.stride + x]!;
    return sum / n;
  }) as unknown as readonly [number, number, number];
}
