/** Measures the hero for the page: scopes, figures before and after the look, values at a place. */
import {
  type CodePlanes,
  type EncodingId,
  type Figures,
  figuresOf,
  inDomain,
  checkpoint,
  type ImageNode,
  type Region,
  scopesOf,
  toCodes,
} from '../../../core';
import type { Computer } from '../../../core/engine';
import type { Probe, Probed, ScopesMade, ScopesWanted } from '../protocol';

interface Hero {
  readonly bedrock: ImageNode;
  readonly result: ImageNode;
  /** Result of each layer, and the layers from the bedrock up. */
  readonly strata: ReadonlyMap<string, ImageNode>;
  readonly layers: readonly string[];
  readonly out: EncodingId;
}

/** Largest number of pixels for scopes; larger pictures are read at every second column and row. */
const MOST_PIXELS = 200_000;

type Computing = Pick<Computer<unknown>, 'compute' | 'planes'>;
const planesOf = (c: Computing, p: ImageNode): CodePlanes =>
  c.planes(c.compute(checkpoint(p), { keepCheckpoints: true })) as CodePlanes;

/** Measurements of the hero. */
export class Measuring {
  /** The hero as last requested. */
  hero: Hero | undefined;
  private known: { readonly key: string; readonly figures: Figures } | undefined;

  scopes(computer: Computing, wanted: ScopesWanted): ScopesMade | undefined {
    const { hero } = this;
    if (!hero) return undefined;
    const codes = (p: ImageNode) => planesOf(computer, toCodes(p, hero.out));
    const { width, height } = hero.result;
    const step = Math.ceil(Math.sqrt((width * height) / MOST_PIXELS));
    const region = wanted.region ? inPixels(wanted.region, width, height) : undefined;
    if (this.known?.key !== hero.bedrock.key)
      this.known = {
        key: hero.bedrock.key,
        figures: figuresOf(codes(hero.bedrock), undefined, step),
      };
    const after = codes(hero.result);
    const figures = figuresOf(after, undefined, step);
    const scopes = scopesOf(wanted.of === 'after' ? after : codes(hero.bedrock), region, step);
    return { kind: 'scopes', scopes, before: this.known.figures, after: figures };
  }

  probe(computer: Computing, { id, region, at }: Probe): Probed | undefined {
    const { hero } = this;
    if (!hero) return undefined;
    const picture = at ? stratumOf(hero, at.layer, at.side) : hero.result;
    const place = inPixels(region, picture.width, picture.height);
    const mean = (p: ImageNode) => meanOf(planesOf(computer, p), place);
    return {
      kind: 'probed',
      id,
      light: mean(inDomain(picture, 'light')),
      encoded: mean(inDomain(picture, 'encoded')),
      codes: mean(toCodes(picture, hero.out)),
    };
  }
}

/** The input of a layer (everything below it) or its result. */
function stratumOf(hero: Hero, layer: string, side: 'before' | 'after'): ImageNode {
  const at = hero.layers.indexOf(layer) - (side === 'before' ? 1 : 0);
  return hero.strata.get(hero.layers[at] ?? '') ?? hero.bedrock;
}

/** First pixel and end of a range of shares; at least one pixel. */
function span(from: number, to: number, size: number): readonly [number, number] {
  const first = Math.min(size - 1, Math.floor(from * size));
  return [first, Math.min(size, Math.max(first + 1, Math.ceil(to * size)))];
}

function inPixels(r: Region, width: number, height: number): Region {
  const [x0, x1] = span(r.x0, r.x1, width),
    [y0, y1] = span(r.y0, r.y1, height);
  return { x0, y0, x1, y1 };
}

function meanOf(p: CodePlanes, r: Region): readonly [number, number, number] {
  const n = (r.x1 - r.x0) * (r.y1 - r.y0);
  return p.planes.slice(0, 3).map((plane) => {
    let sum = 0;
    for (let y = r.y0; y < r.y1; y++)
      for (let x = r.x0; x < r.x1; x++) sum += plane[y * p.stride + x]!;
    return sum / n;
  }) as unknown as readonly [number, number, number];
}
