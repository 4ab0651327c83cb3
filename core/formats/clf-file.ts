/**
 * CLF, the common LUT format (SMPTE ST 2136-1): a list of nodes, each from colour to colour. Read are Matrix, Range,
 * LUT1D, LUT3D, ASC_CDL, Log and Exponent in all their styles; what is not read is named.
 */
import { tetrahedral } from '../kernel';
import { fault, type FormatFault, numberOf, type Parsed } from './parsed';
import { cdlNode, exponentNode, logNode } from './clf-curves';
import { childOf, type Element, readXml } from './xml';

export type Rgb = readonly [number, number, number];
export type ColourFunction = (c: Rgb) => Rgb;

export interface Process {
  readonly name: string;
  readonly nodes: readonly ColourFunction[];
  readonly apply: ColourFunction;
}

export class NodeFault extends Error {
  constructor(readonly at: FormatFault) {
    super(at.message);
  }
}
export const wrong = (e: Element, message: string): never => {
  throw new NodeFault({ line: e.line, message: `${e.name}: ${message}` });
};

const MOST_WORDS = 129 ** 3 * 3 + 10_000;
const DEPTHS: Record<string, number> = { '8i': 255, '10i': 1023, '12i': 4095, '16i': 65535, '16f': 1, '32f': 1 };

/** What 1.0 is in a node's own numbers, on the way in or out. */
function scaleOf(e: Element, end: 'inBitDepth' | 'outBitDepth'): number {
  const depth = e.attributes[end];
  return depth === undefined
    ? wrong(e, `${end} is missing`)
    : (DEPTHS[depth] ?? wrong(e, `${end} "${depth.slice(0, 20)}" is none of ${Object.keys(DEPTHS).join(', ')}`));
}

export function numberIn(e: Element, name: string, standard?: number): number {
  const text = e.attributes[name];
  if (text === undefined) return standard ?? wrong(e, `${name} is missing`);
  return numberOf(text.trim()) ?? wrong(e, `${name} "${text.slice(0, 40)}" is no number`);
}

function arrayOf(e: Element): { dim: number[]; numbers: number[] } {
  const array = childOf(e, 'Array') ?? wrong(e, 'it has no Array');
  const dim = (array.attributes['dim'] ?? '').trim().split(/\s+/).map(Number);
  if (dim.length < 2 || dim.some((d) => !Number.isInteger(d) || d < 1)) wrong(array, 'dim must be whole numbers');
  const count = dim.reduce((a, b) => a * b, 1) / (e.name === 'Matrix' && dim.length === 3 ? dim[2]! : 1);
  if (!(count <= MOST_WORDS)) wrong(array, `dim ${dim.join(' ')} is larger than can be read`);
  if (array.words.length !== count) wrong(array, `dim ${dim.join(' ')} needs ${count} numbers, there are ${array.words.length}`);
  const numbers = array.words.map((w) => numberOf(w) ?? wrong(array, `"${w.slice(0, 40)}" is no number`));
  return { dim, numbers };
}

function matrixNode(e: Element): ColourFunction {
  const { dim, numbers } = arrayOf(e);
  const [rows, columns] = dim as [number, number];
  if (rows !== 3 || (columns !== 3 && columns !== 4)) wrong(e, 'a matrix has 3 rows and 3 or 4 columns');
  const gain = scaleOf(e, 'inBitDepth') / scaleOf(e, 'outBitDepth'),
    shift = 1 / scaleOf(e, 'outBitDepth');
  const row = (r: number, c: Rgb) =>
    [0, 1, 2].reduce((sum, i) => sum + numbers[r * columns + i]! * gain * c[i]!, columns === 4 ? numbers[r * columns + 3]! * shift : 0);
  return (c) => [row(0, c), row(1, c), row(2, c)];
}

function rangeNode(e: Element): ColourFunction {
  const at = (name: string, end: 'inBitDepth' | 'outBitDepth'): number | undefined => {
    const child = childOf(e, name);
    if (!child) return undefined;
    const v = child.words.length === 1 ? numberOf(child.words[0]!) : undefined;
    return v === undefined ? wrong(child, 'it must be one number') : v / scaleOf(e, end);
  };
  const ends = {
    minIn: at('minInValue', 'inBitDepth'),
    maxIn: at('maxInValue', 'inBitDepth'),
    minOut: at('minOutValue', 'outBitDepth'),
    maxOut: at('maxOutValue', 'outBitDepth'),
  };
  if ((ends.minIn === undefined) !== (ends.minOut === undefined) || (ends.maxIn === undefined) !== (ends.maxOut === undefined))
    wrong(e, 'each minimum and maximum is given for in and out, or for neither');
  const { minIn, maxIn, minOut, maxOut } = ends;
  const hold = e.attributes['style'] !== 'noClamp';
  if (minIn !== undefined && maxIn !== undefined && minIn >= maxIn) wrong(e, 'minInValue must lie below maxInValue');
  const scale = minIn !== undefined && maxIn !== undefined ? (maxOut! - minOut!) / (maxIn - minIn) : 1;
  const one = (x: number): number => {
    const y = minIn !== undefined ? (x - minIn) * scale + minOut! : maxIn !== undefined ? x - maxIn + maxOut! : x;
    if (!hold) return y;
    return Math.min(maxOut ?? Infinity, Math.max(minOut ?? -Infinity, y));
  };
  return (c) => [one(c[0]), one(c[1]), one(c[2])];
}

function lut1dNode(e: Element): ColourFunction {
  if (e.attributes['halfDomain'] === 'true' || e.attributes['rawHalfs'] === 'true') wrong(e, 'tables over half floats are not read');
  const { dim, numbers } = arrayOf(e);
  const [n, columns] = dim as [number, number];
  if (n < 2 || (columns !== 1 && columns !== 3)) wrong(e, 'dim must be a length of at least 2, and 1 or 3');
  const out = scaleOf(e, 'outBitDepth');
  scaleOf(e, 'inBitDepth');
  const one = (x: number, channel: number): number => {
    const at = Math.max(0, Math.min(1, x)) * (n - 1),
      i = Math.min(n - 2, Math.floor(at)),
      k = columns === 1 ? 0 : channel;
    const a = numbers[i * columns + k]! / out,
      b = numbers[(i + 1) * columns + k]! / out;
    return a + (b - a) * (at - i);
  };
  return (c) => [one(c[0], 0), one(c[1], 1), one(c[2], 2)];
}

function lut3dNode(e: Element): ColourFunction {
  const { dim, numbers } = arrayOf(e);
  const [n] = dim as [number];
  if (dim.length !== 4 || n < 2 || n > 129 || dim[1] !== n || dim[2] !== n || dim[3] !== 3) wrong(e, 'dim must be n n n 3 with n from 2 to 129');
  const out = scaleOf(e, 'outBitDepth');
  scaleOf(e, 'inBitDepth');
  // Blue changes fastest here, red in our cubes.
  const colours = new Float32Array(numbers.length);
  for (let r = 0; r < n; r++)
    for (let g = 0; g < n; g++)
      for (let b = 0; b < n; b++) {
        const from = ((r * n + g) * n + b) * 3;
        colours.set(
          numbers.slice(from, from + 3).map((v) => v / out),
          ((b * n + g) * n + r) * 3,
        );
      }
  const cube = { layout: { kind: 'cube', n }, colours } as const;
  return (c) => [0, 1, 2].map((channel) => tetrahedral(cube, c, channel)) as unknown as Rgb;
}

const NODES: Record<string, (e: Element) => ColourFunction> = {
  Matrix: matrixNode,
  Range: rangeNode,
  LUT1D: lut1dNode,
  LUT3D: lut3dNode,
  ASC_CDL: cdlNode,
  Log: logNode,
  Exponent: exponentNode,
};
const SILENT = new Set(['Description', 'InputDescriptor', 'OutputDescriptor', 'Info']);

/** Reads a process list: at least one node. */
export function parseClf(text: string, name = 'CLF'): Parsed<Process> {
  const read = readXml(text, MOST_WORDS);
  if ('fault' in read) return read;
  const root = read.value;
  if (root.name !== 'ProcessList') return fault(root.line, `"${root.name.slice(0, 40)}" is not the root of a process list`);
  const nodes: ColourFunction[] = [];
  try {
    for (const e of root.children) {
      if (SILENT.has(e.name)) continue;
      const node = NODES[e.name];
      if (!node) return fault(e.line, `the node "${e.name.slice(0, 40)}" is not read; read are ${Object.keys(NODES).join(', ')}`);
      nodes.push(node(e));
    }
  } catch (e) {
    if (e instanceof NodeFault) return { fault: e.at };
    throw e;
  }
  if (nodes.length === 0) return fault(root.line, 'the process list holds no node');
  return { value: { name: root.attributes['name'] ?? name, nodes, apply: (c) => nodes.reduce((x, f) => f(x), c) } };
}
