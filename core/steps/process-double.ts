/** A list of nodes applied to one colour in double precision: the reference for the kernels. */
import { exp2d, log2d, powd, tetrahedral, trilinear } from '../kernel';
import { exponentOf, floatsIn, type FormulaCurve, type ProcessNode } from '../parameters';

/** Red, green and blue. */
export type Rgb = readonly [number, number, number];
/** A function from colour to colour. */
export type ColourFunction = (c: Rgb) => Rgb;

const held = (x: number): number => Math.max(0, Math.min(1, x));
const three = (f: (i: 0 | 1 | 2) => number): Rgb => [f(0), f(1), f(2)];
/** The smallest number that has a logarithm. */
const LEAST = 2 ** -126;

/** A formula curve as a function. */
export function curveInDouble(c: FormulaCurve): (x: number) => number {
  switch (c.f) {
    case 'log': {
      const per = c.logSlope / log2d(c.base);
      return (x) =>
        c.line && x <= c.line.edge
          ? c.line.slope * x + c.line.shift
          : per * log2d(Math.max(c.linSlope * x + c.linOffset, LEAST)) + c.logOffset;
    }
    case 'antilog':
      return (y) =>
        c.line && y <= c.line.edge
          ? c.line.slope * y + c.line.shift
          : (powd(c.base, (y - c.logOffset) / c.logSlope) - c.linOffset) / c.linSlope;
    case 'power':
      return (x) => {
        if (x >= 0) return powd(x, c.exponent);
        return c.below === 'zero' ? 0 : c.below === 'pass' ? x : -powd(-x, c.exponent);
      };
    case 'monitor':
    case 'monitor-back': {
      const one = (x: number): number => {
        if (c.f === 'monitor')
          return x >= c.edge ? powd((x + c.offset) / (1 + c.offset), c.exponent) : x * c.slope;
        return x >= c.edge * c.slope
          ? (1 + c.offset) * powd(x, 1 / c.exponent) - c.offset
          : x / c.slope;
      };
      return (x) => (c.mirror && x < 0 ? -one(-x) : one(x));
    }
  }
}

/**
 * A number's position among the half floats: the bits of its lower and upper neighbours, and the
 * fraction between them.
 */
function amongHalfs(x: number): { below: number; above: number; part: number } {
  const size = Math.min(Math.abs(x), 65504),
    sign = x < 0 ? 0x8000 : 0;
  const exponent = size < 2 ** -14 ? -14 : exponentOf(size),
    step = exp2d(exponent - 10);
  const whole = Math.floor(size / step);
  const bits = size < 2 ** -14 ? whole : ((exponent + 15) << 10) + (whole - 1024);
  const above = Math.min(0x7bff, bits + 1);
  return {
    below: sign + bits,
    above: sign + above,
    part: above === bits ? 0 : size / step - whole,
  };
}

function table1dInDouble(n: Extract<ProcessNode, { node: 'table1d' }>): ColourFunction {
  const data = floatsIn(n.data, n.size * n.channels)!;
  const at = (i: number, channel: number): number =>
    data[i * n.channels + (n.channels === 1 ? 0 : channel)]!;
  const one = (x: number, channel: number): number => {
    if (n.domain === 'half') {
      const { below, above, part } = amongHalfs(x);
      return at(below, channel) + (at(above, channel) - at(below, channel)) * part;
    }
    const place = held(x) * (n.size - 1),
      i = Math.min(n.size - 2, Math.floor(place));
    return at(i, channel) + (at(i + 1, channel) - at(i, channel)) * (place - i);
  };
  const looked: ColourFunction = (c) => three((i) => one(c[i], i));
  if (!n.keepHue) return looked;
  return (c) => {
    const out = looked(c);
    const [least, middle, most] = [0, 1, 2].sort((a, b) => c[a]! - c[b]! || a - b) as [
      0 | 1 | 2,
      0 | 1 | 2,
      0 | 1 | 2,
    ];
    const chroma = c[most] - c[least];
    const share = chroma === 0 ? 0 : (c[middle] - c[least]) / chroma;
    return three((i) => (i === middle ? out[least] + share * (out[most] - out[least]) : out[i]));
  };
}

function cdlInDouble(n: Extract<ProcessNode, { node: 'cdl' }>): ColourFunction {
  const clamp = n.hold ? held : (x: number) => x;
  const toPower = (x: number, p: number): number => (x < 0 ? x : powd(x, p));
  const saturate = (c: Rgb, s: number): Rgb => {
    const y = 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2];
    return three((i) => y + s * (c[i] - y));
  };
  if (!n.back)
    return (c) => {
      const out = saturate(
        three((i) => toPower(clamp(c[i] * n.slope[i] + n.offset[i]), n.power[i])),
        n.saturation,
      );
      return three((i) => clamp(out[i]));
    };
  return (c) => {
    const flat = saturate(
      three((i) => clamp(c[i])),
      1 / n.saturation,
    );
    return three((i) =>
      clamp((toPower(clamp(flat[i]), 1 / n.power[i]) - n.offset[i]) / n.slope[i]),
    );
  };
}

/** A node as a function. */
export function nodeInDouble(n: ProcessNode): ColourFunction {
  switch (n.node) {
    case 'matrix':
      return (c) =>
        three(
          (r) =>
            n.rows[3 * r]! * c[0] +
            n.rows[3 * r + 1]! * c[1] +
            n.rows[3 * r + 2]! * c[2] +
            n.offset[r],
        );
    case 'range':
      return (c) =>
        three((i) =>
          Math.min(n.max ?? Infinity, Math.max(n.min ?? -Infinity, c[i] * n.scale + n.offset)),
        );
    case 'curves': {
      const curves = n.curves.map(curveInDouble);
      return (c) => three((i) => curves[i]!(c[i]));
    }
    case 'table1d':
      return table1dInDouble(n);
    case 'table3d': {
      const cube = {
        layout: { kind: 'cube', n: n.size },
        colours: floatsIn(n.data, n.size * n.size * n.size * 3)!,
      } as const;
      return (c) => three((channel) => (n.trilinear ? trilinear : tetrahedral)(cube, c, channel));
    }
    case 'cdl':
      return cdlInDouble(n);
  }
}
/** A list of nodes as a function. */
export function processInDouble(nodes: readonly ProcessNode[]): ColourFunction {
  let each: ColourFunction[] | undefined;
  return (c) => (each ??= nodes.map(nodeInDouble)).reduce((x, f) => f(x), c);
}
