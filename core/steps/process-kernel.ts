/** A list of nodes as a kernel expression, with its numbers as constants. */
import {
  type CurveTable,
  exp2,
  exp2d,
  float,
  log2,
  log2d,
  type Node,
  type Pixel,
  pow,
  Remembered,
  select,
  type TableSpec,
} from '../kernel';
import {
  exponentOf,
  floatsIn,
  type FormulaCurve,
  type ProcessNode,
  type ProcessValue,
} from '../parameters';
import type { PixelTools } from './declare';

const LEAST = 2 ** -126;
const held = (x: Node): Node => x.clamp(0, 1);

function curve(x: Node, c: FormulaCurve): Node {
  switch (c.f) {
    case 'log': {
      const lin = c.linSlope === 1 && c.linOffset === 0 ? x : x.mul(c.linSlope).add(c.linOffset);
      const logged = log2(lin.max(LEAST))
        .mul(c.logSlope / log2d(c.base))
        .add(c.logOffset);
      return c.line
        ? select(x.le(c.line.edge), x.mul(c.line.slope).add(c.line.shift), logged)
        : logged;
    }
    case 'antilog': {
      const lit = exp2(x.sub(c.logOffset).mul(log2d(c.base) / c.logSlope))
        .sub(c.linOffset)
        .mul(1 / c.linSlope);
      return c.line ? select(x.le(c.line.edge), x.mul(c.line.slope).add(c.line.shift), lit) : lit;
    }
    case 'power': {
      const up = pow(x, c.exponent);
      if (c.below === 'zero') return up;
      return select(x.lt(0), c.below === 'pass' ? x : pow(x.neg(), c.exponent).neg(), up);
    }
    case 'monitor':
    case 'monitor-back': {
      const one = (v: Node): Node =>
        c.f === 'monitor'
          ? select(
              v.lt(c.edge),
              v.mul(c.slope),
              pow(v.add(c.offset).mul(1 / (1 + c.offset)), c.exponent),
            )
          : select(
              v.lt(c.edge * c.slope),
              v.mul(1 / c.slope),
              pow(v, 1 / c.exponent)
                .mul(1 + c.offset)
                .sub(c.offset),
            );
      if (!c.mirror) return one(x);
      const size = one(x.abs());
      return select(x.lt(0), size.neg(), size);
    }
  }
}

const luma = (c: Pixel): Node => c[0]!.mul(0.2126).add(c[1]!.mul(0.7152)).add(c[2]!.mul(0.0722));
const saturated = (c: Pixel, s: number): Pixel => {
  const y = luma(c);
  return s === 1 ? c : c.map((x) => y.add(x.sub(y).mul(s)));
};

function cdl(c: Pixel, n: Extract<ProcessNode, { node: 'cdl' }>): Pixel {
  const clamp = n.hold ? held : (x: Node) => x;
  const toPower = (x: Node, p: number): Node => (p === 1 ? x : select(x.lt(0), x, pow(x, p)));
  if (!n.back)
    return saturated(
      c.map((x, i) => toPower(clamp(x.mul(n.slope[i]!).add(n.offset[i]!)), n.power[i]!)),
      n.saturation,
    ).map(clamp);
  return saturated(c.map(clamp), 1 / n.saturation).map((x, i) =>
    clamp(
      toPower(clamp(x), 1 / n.power[i]!)
        .sub(n.offset[i]!)
        .mul(1 / n.slope[i]!),
    ),
  );
}

/**
 * Puts the middle channel at its original relative position between the other two; of equal
 * channels the first counts as lower.
 */
function withHue(c: Pixel, out: Pixel): Pixel {
  const below = (i: number, j: number): Node => (i < j ? c[i]!.le(c[j]!) : c[i]!.lt(c[j]!));
  const [least, most] = [c[0]!.min(c[1]!).min(c[2]!), c[0]!.max(c[1]!).max(c[2]!)];
  const chroma = most.sub(least);
  const others = (i: number): [number, number] => [(i + 1) % 3, (i + 2) % 3];
  return out.map((v, i) => {
    const [j, k] = others(i);
    // The middle channel has one of the others below and the other above.
    const jBelow = below(j, i),
      kBelow = below(k, i);
    const [low, high] = [select(jBelow, out[j]!, out[k]!), select(jBelow, out[k]!, out[j]!)];
    const share = select(chroma.le(0), 0, c[i]!.sub(least).div(chroma));
    const middle = low.add(high.sub(low).mul(share));
    return select(jBelow.and(kBelow).or(jBelow.or(kBelow).not()), v, middle);
  });
}

/** Tables of a node, in the order its expression uses them. */
function tablesOf(n: ProcessNode, key: string): TableSpec[] {
  if (n.node === 'table3d')
    return [
      {
        key,
        layout: { kind: 'cube', n: n.size, trilinear: n.trilinear },
        colours: floatsIn(n.data, n.size * n.size * n.size * 3)!,
      },
    ];
  if (n.node !== 'table1d') return [];
  const data = floatsIn(n.data, n.size * n.channels)!;
  const channels = Array.from({ length: n.channels }, (_, channel) => channel);
  return channels.flatMap((channel): CurveTable[] => {
    const at = (i: number): number => data[i * n.channels + channel]!;
    if (n.domain === 'unit')
      return [
        {
          key: `${key}-${channel}`,
          layout: { kind: 'uniform', lo: 0, hi: 1, n: n.size },
          fn: (x) => between(x * (n.size - 1), n.size, at),
        },
      ];
    return halfTables(`${key}-${channel}`, at);
  });
}
function between(place: number, size: number, at: (i: number) => number): number {
  const i = Math.max(0, Math.min(size - 2, Math.floor(place)));
  return at(i) + (at(i + 1) - at(i)) * (place - i);
}

/** A table over half floats in three parts: around 0 (equal steps), above, and below. */
function halfTables(key: string, at: (bits: number) => number): CurveTable[] {
  const side = (sign: 0 | 0x8000): CurveTable => ({
    key: `${key}-${sign ? 'below' : 'above'}`,
    layout: {
      kind: 'floatbits',
      eMin: -14,
      eMax: 16,
      odd: false,
      low: [0, at(sign + 0x400)],
      bits: 10,
    },
    fn: (x) => {
      const size = Math.max(2 ** -14, Math.min(65504, x));
      const exponent = exponentOf(size),
        place = size / exp2d(exponent - 10);
      const bits = ((exponent + 15) << 10) + (Math.floor(place) - 1024);
      return between(Math.min(0x7bff, bits + (place - Math.floor(place))), 0x7c00, (i) =>
        at(sign + i),
      );
    },
  });
  const small = 1024;
  return [
    {
      key: `${key}-about`,
      layout: { kind: 'uniform', lo: -(2 ** -14), hi: 2 ** -14, n: 2 * small + 1 },
      fn: (x) =>
        between(x * 2 ** 24 + small, 2 * small + 1, (i) =>
          at(i >= small ? i - small : 0x8000 + small - i),
        ),
    },
    side(0),
    side(0x8000),
  ];
}

function table1d(
  c: Pixel,
  n: Extract<ProcessNode, { node: 'table1d' }>,
  first: number,
  t: PixelTools,
): Pixel {
  const each = n.domain === 'unit' ? 1 : 3;
  const looked = c.map((x, channel) => {
    const slot = first + (n.channels === 1 ? 0 : channel * each);
    if (n.domain === 'unit') return t.curve(slot, held(x));
    const sided = select(x.lt(0), t.curve(slot + 2, x.neg()), t.curve(slot + 1, x));
    return select(x.abs().lt(2 ** -14), t.curve(slot, x), sided);
  });
  return n.keepHue ? withHue(c, looked) : looked;
}

function step(c: Pixel, n: ProcessNode, first: number, t: PixelTools): Pixel {
  switch (n.node) {
    case 'matrix':
      return [0, 1, 2].map((r) =>
        c[0]!
          .mul(n.rows[3 * r]!)
          .add(c[1]!.mul(n.rows[3 * r + 1]!))
          .add(c[2]!.mul(n.rows[3 * r + 2]!))
          .add(n.offset[r]!),
      );
    case 'range':
      return c.map((x) => {
        let y = n.scale === 1 && n.offset === 0 ? x : x.mul(n.scale).add(n.offset);
        if (n.min !== undefined) y = y.max(n.min);
        return n.max === undefined ? y : y.min(n.max);
      });
    case 'curves':
      return c.map((x, i) => curve(x, n.curves[i]!));
    case 'table1d':
      return table1d(c, n, first, t);
    case 'table3d':
      return t.cube(
        first,
        c.map((x) => float(x)),
      );
    case 'cdl':
      return cdl(c, n);
  }
}

const made = new Remembered<readonly (readonly TableSpec[])[]>(12);
/** Tables of all nodes, node by node; cached by the list's key. */
const tablesByNode = (p: ProcessValue): readonly (readonly TableSpec[])[] =>
  made.of(p.key, () => p.nodes.map((n, i) => tablesOf(n, `process-${p.key}-${i}`)));
/** Tables of all nodes. */
export const processTables = (p: ProcessValue): TableSpec[] => tablesByNode(p).flat();

/** A colour through the list. `first`: index of its first table among the step's. */
export function processed(c: Pixel, p: ProcessValue, first: number, t: PixelTools): Pixel {
  let at = first;
  return p.nodes.reduce<Pixel>((x, n, i) => {
    const out = step(x, n, at, t);
    at += tablesByNode(p)[i]!.length;
    return out;
  }, c);
}
