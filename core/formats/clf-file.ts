/**
 * CLF, the common LUT format (SMPTE ST 2136-1): a list of nodes, each from colour to colour. Reads
 * Matrix, Range, LUT1D, LUT3D, ASC_CDL, Log and Exponent in all their styles; anything else is
 * reported by name.
 */
import {
  floatsAsText,
  MOST_PROCESS_NODES,
  MOST_TABLE_LENGTH,
  MOST_TABLE_SIDE,
  type ProcessNode,
} from '../parameters';
import { type ColourFunction, processInDouble } from '../steps';
import { cdlNode, exponentNode, logNode } from './clf-curves';
import { NodeFault, wrong } from './clf-node';
import { fault, numberOf, type Parsed } from './parsed';
import { childOf, type Element, readXml } from './xml';

/** A process list as it was read. */
export interface Process {
  readonly name: string;
  readonly nodes: readonly ProcessNode[];
  /** The whole list applied to one colour, in double precision. */
  readonly apply: ColourFunction;
}

/** Most words of text that a file may hold: a cube of 129 entries a side, and the rest. */
export const MOST_WORDS = 129 ** 3 * 3 + 10_000;
const DEPTHS: Record<string, number> = {
  '8i': 255,
  '10i': 1023,
  '12i': 4095,
  '16i': 65535,
  '16f': 1,
  '32f': 1,
};

/** The value of 1.0 in a node's own numbers, at its input or output. */
function scaleOf(e: Element, end: 'inBitDepth' | 'outBitDepth'): number {
  const depth = e.attributes[end];
  return depth === undefined
    ? wrong(e, `${end} is missing`)
    : (DEPTHS[depth] ??
        wrong(e, `${end} "${depth.slice(0, 20)}" is none of ${Object.keys(DEPTHS).join(', ')}`));
}

function arrayOf(e: Element): { dim: number[]; numbers: number[] } {
  const array = childOf(e, 'Array') ?? wrong(e, 'it has no Array');
  const dim = (array.attributes['dim'] ?? '').trim().split(/\s+/).map(Number);
  if (dim.length < 2 || dim.some((d) => !Number.isInteger(d) || d < 1))
    wrong(array, 'dim must be whole numbers');
  const count =
    dim.reduce((a, b) => a * b, 1) / (e.name === 'Matrix' && dim.length === 3 ? dim[2]! : 1);
  if (!(count <= MOST_WORDS)) wrong(array, `dim ${dim.join(' ')} is larger than can be read`);
  if (array.words.length !== count)
    wrong(array, `dim ${dim.join(' ')} needs ${count} numbers, there are ${array.words.length}`);
  const numbers = array.words.map(
    (w) => numberOf(w) ?? wrong(array, `"${w.slice(0, 40)}" is no number`),
  );
  return { dim, numbers };
}

function matrixNode(e: Element): ProcessNode {
  const { dim, numbers } = arrayOf(e);
  const [rows, columns] = dim as [number, number];
  if (rows !== 3 || (columns !== 3 && columns !== 4))
    wrong(e, 'a matrix has 3 rows and 3 or 4 columns');
  const gain = scaleOf(e, 'inBitDepth') / scaleOf(e, 'outBitDepth'),
    shift = 1 / scaleOf(e, 'outBitDepth');
  const at = (r: number, c: number): number => numbers[r * columns + c]!;
  const offset = (r: number): number => (columns === 4 ? at(r, 3) * shift : 0);
  return {
    node: 'matrix',
    rows: [0, 1, 2].flatMap((r) => [0, 1, 2].map((c) => at(r, c) * gain)),
    offset: [offset(0), offset(1), offset(2)],
  };
}

function rangeNode(e: Element): ProcessNode {
  const at = (name: string, end: 'inBitDepth' | 'outBitDepth'): number | undefined => {
    const child = childOf(e, name);
    if (!child) return undefined;
    const v = child.words.length === 1 ? numberOf(child.words[0]!) : undefined;
    return v === undefined ? wrong(child, 'it must be one number') : v / scaleOf(e, end);
  };
  const minIn = at('minInValue', 'inBitDepth'),
    maxIn = at('maxInValue', 'inBitDepth'),
    minOut = at('minOutValue', 'outBitDepth'),
    maxOut = at('maxOutValue', 'outBitDepth');
  if (
    (minIn === undefined) !== (minOut === undefined) ||
    (maxIn === undefined) !== (maxOut === undefined)
  )
    wrong(e, 'each minimum and maximum is given for in and out, or for neither');
  const style = e.attributes['style'] ?? 'Clamp';
  if (style !== 'Clamp' && style !== 'noClamp')
    wrong(e, `the style "${style.slice(0, 40)}" is not read`);
  if (minIn !== undefined && maxIn !== undefined && minIn >= maxIn)
    wrong(e, 'minInValue must lie below maxInValue');
  const scale =
    minIn !== undefined && maxIn !== undefined ? (maxOut! - minOut!) / (maxIn - minIn) : 1;
  const offset =
    minIn !== undefined ? minOut! - minIn * scale : maxIn !== undefined ? maxOut! - maxIn : 0;
  const hold = style === 'Clamp';
  return {
    node: 'range',
    scale,
    offset,
    ...(hold && minOut !== undefined && { min: minOut }),
    ...(hold && maxOut !== undefined && { max: maxOut }),
  };
}

/** The number that the bits of a half float stand for; undefined if it is not finite. */
function halfOf(bits: number): number | undefined {
  const exponent = (bits >> 10) & 31,
    fraction = bits & 1023;
  if (!Number.isInteger(bits) || bits < 0 || bits > 0xffff || exponent === 31) return undefined;
  const size = exponent === 0 ? fraction * 2 ** -24 : (1024 + fraction) * 2 ** (exponent - 25);
  return bits & 0x8000 ? -size : size;
}

function lut1dNode(e: Element): ProcessNode {
  linear(e);
  const half = e.attributes['halfDomain'] === 'true',
    raw = e.attributes['rawHalfs'] === 'true';
  const { dim, numbers } = arrayOf(e);
  const [n, columns] = dim as [number, number];
  if (n < 2 || n > MOST_TABLE_LENGTH || (columns !== 1 && columns !== 3))
    wrong(e, `dim must be a length from 2 to ${MOST_TABLE_LENGTH}, and 1 or 3`);
  if (half && n !== 65536) wrong(e, 'a table over half floats has 65536 entries');
  const hue = e.attributes['hueAdjust'] ?? 'none';
  if (hue !== 'none' && hue !== 'dw3')
    wrong(e, `hueAdjust "${hue.slice(0, 40)}" is not read; read are none and dw3`);
  const out = scaleOf(e, 'outBitDepth');
  scaleOf(e, 'inBitDepth');
  // Entries for NaN and infinity are never looked up, so any value will do.
  const of = (v: number, i: number): number => {
    const reached = !half || ((Math.floor(i / columns) >> 10) & 31) !== 31;
    const value = raw
      ? (halfOf(v) ?? (reached ? wrong(e, `${v} are not the bits of a finite half float`) : 0))
      : v / out;
    return reached || Number.isFinite(value) ? value : 0;
  };
  return {
    node: 'table1d',
    domain: half ? 'half' : 'unit',
    channels: columns as 1 | 3,
    size: n,
    keepHue: hue === 'dw3',
    data: floatsAsText(Float32Array.from(numbers, of)),
  };
}

function linear(e: Element): void {
  const how = e.attributes['interpolation'] ?? 'linear';
  if (how !== 'linear') wrong(e, `interpolation "${how.slice(0, 40)}" is not read; read is linear`);
}

function lut3dNode(e: Element): ProcessNode {
  const { dim, numbers } = arrayOf(e);
  const [n] = dim as [number];
  if (
    dim.length !== 4 ||
    n < 2 ||
    n > MOST_TABLE_SIDE ||
    dim[1] !== n ||
    dim[2] !== n ||
    dim[3] !== 3
  )
    wrong(e, `dim must be n n n 3 with n from 2 to ${MOST_TABLE_SIDE}`);
  const how = e.attributes['interpolation'] ?? 'trilinear';
  if (how !== 'trilinear' && how !== 'tetrahedral')
    wrong(e, `interpolation "${how.slice(0, 40)}" is not read; read are trilinear and tetrahedral`);
  const out = scaleOf(e, 'outBitDepth');
  scaleOf(e, 'inBitDepth');
  // Blue changes fastest in the file, red in our cubes.
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
  return { node: 'table3d', size: n, trilinear: how === 'trilinear', data: floatsAsText(colours) };
}

interface Reader {
  readonly read: (e: Element) => ProcessNode;
  /**
   * Allowed attributes and children besides descriptions. Anything else is reported, not dropped.
   */
  readonly attributes: readonly string[];
  readonly children: readonly string[];
}
const ENDS = ['minInValue', 'maxInValue', 'minOutValue', 'maxOutValue'];
const NODES: Record<string, Reader> = {
  Matrix: { read: matrixNode, attributes: [], children: ['Array'] },
  Range: { read: rangeNode, attributes: ['style'], children: ENDS },
  LUT1D: {
    read: lut1dNode,
    attributes: ['interpolation', 'halfDomain', 'rawHalfs', 'hueAdjust'],
    children: ['Array'],
  },
  LUT3D: { read: lut3dNode, attributes: ['interpolation'], children: ['Array'] },
  ASC_CDL: { read: cdlNode, attributes: ['style'], children: ['SOPNode', 'SatNode'] },
  Log: { read: logNode, attributes: ['style'], children: ['LogParams'] },
  Exponent: { read: exponentNode, attributes: ['style'], children: ['ExponentParams'] },
};
const OF_ALL = new Set(['id', 'name', 'inBitDepth', 'outBitDepth', 'xmlns']);
/** Throws if a node holds something that would change its result and is not read. */
function checked(e: Element, { attributes, children }: Reader): void {
  const attribute = Object.keys(e.attributes).find(
    (a) => !OF_ALL.has(a) && !a.startsWith('xmlns:') && !attributes.includes(a),
  );
  if (attribute) wrong(e, `${attribute} is not read`);
  const child = e.children.find((c) => c.name !== 'Description' && !children.includes(c.name));
  if (child) wrong(child, `it is not read in ${e.name}`);
}
const SILENT = new Set(['Description', 'InputDescriptor', 'OutputDescriptor', 'Info']);

/** Reads a process list of at least one node. */
export function parseClf(text: string, name = 'CLF'): Parsed<Process> {
  const read = readXml(text, MOST_WORDS);
  if ('fault' in read) return read;
  const root = read.value;
  if (root.name !== 'ProcessList')
    return fault(root.line, `"${root.name.slice(0, 40)}" is not the root of a process list`);
  const nodes: ProcessNode[] = [];
  try {
    for (const e of root.children) {
      if (SILENT.has(e.name)) continue;
      const node = NODES[e.name];
      if (!node)
        return fault(
          e.line,
          `the node "${e.name.slice(0, 40)}" is not read; read are ${Object.keys(NODES).join(', ')}`,
        );
      checked(e, node);
      nodes.push(node.read(e));
      if (nodes.length > MOST_PROCESS_NODES)
        return fault(e.line, `a list of more than ${MOST_PROCESS_NODES} nodes is not read`);
    }
  } catch (e) {
    if (e instanceof NodeFault) return { fault: e.at };
    throw e;
  }
  if (nodes.length === 0) return fault(root.line, 'the process list holds no node');
  return { value: { name: root.attributes['name'] ?? name, nodes, apply: processInDouble(nodes) } };
}
