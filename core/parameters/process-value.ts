/**
 * A list of nodes from colour to colour, as in CLF (SMPTE ST 2136-1): what a LUT step holds for
 * such a file.
 */
import { Hasher } from '../graph';
import { floatsIn } from './cube-value';

type Three<T> = readonly [T, T, T];
/**
 * A function of one channel. `log`: logSlope · log(linSlope · x + linOffset) + logOffset; `antilog`
 * is its inverse; both have a straight line `slope` · x + `shift` up to `edge` (on the input side),
 * if given. `power`: negative input becomes 0, is mirrored, or passes. `monitor`: ((x + offset) ÷
 * (1 + offset))^exponent from `edge` on, below a line of `slope`.
 */
export type FormulaCurve =
  | {
      readonly f: 'log' | 'antilog';
      readonly base: number;
      readonly logSlope: number;
      readonly logOffset: number;
      readonly linSlope: number;
      readonly linOffset: number;
      readonly line?: { readonly edge: number; readonly slope: number; readonly shift: number };
    }
  | { readonly f: 'power'; readonly exponent: number; readonly below: 'zero' | 'mirror' | 'pass' }
  | {
      readonly f: 'monitor' | 'monitor-back';
      readonly exponent: number;
      readonly offset: number;
      readonly edge: number;
      readonly slope: number;
      readonly mirror: boolean;
    };

/** A node of a list. */
export type ProcessNode =
  | { readonly node: 'matrix'; readonly rows: readonly number[]; readonly offset: Three<number> }
  /** x · scale + offset, then clamped to the ends that are given. */
  | {
      readonly node: 'range';
      readonly scale: number;
      readonly offset: number;
      readonly min?: number;
      readonly max?: number;
    }
  | { readonly node: 'curves'; readonly curves: Three<FormulaCurve> }
  | {
      readonly node: 'table1d';
      /** Over 0…1, or over all half floats by their bits. */
      readonly domain: 'unit' | 'half';
      readonly channels: 1 | 3;
      readonly size: number;
      /** Keeps the hue: the middle channel keeps its relative position between the other two. */
      readonly keepHue: boolean;
      readonly data: string;
    }
  | {
      readonly node: 'table3d';
      readonly size: number;
      readonly trilinear: boolean;
      readonly data: string;
    }
  | {
      readonly node: 'cdl';
      readonly back: boolean;
      readonly hold: boolean;
      readonly slope: Three<number>;
      readonly offset: Three<number>;
      readonly power: Three<number>;
      readonly saturation: number;
    };

/** A list of nodes. */
export interface ProcessValue {
  readonly name: string;
  readonly kind: 'process';
  /** Content key. */
  readonly key: string;
  readonly nodes: readonly ProcessNode[];
}

const keyOf = (nodes: readonly ProcessNode[]): string =>
  new Hasher().text(JSON.stringify(nodes)).hex();
/** A list of nodes as a parameter's value. */
export const processValue = (name: string, nodes: readonly ProcessNode[]): ProcessValue => ({
  name,
  kind: 'process',
  key: keyOf(nodes),
  nodes,
});

/** Most nodes of a list, and the largest sizes of its tables. */
export const MOST_PROCESS_NODES = 32,
  MOST_TABLE_SIDE = 65,
  MOST_TABLE_LENGTH = 65536;

/** The exponent of the largest power of two that is not above x > 0. */
export const exponentOf = (x: number): number => {
  const view = new DataView(new ArrayBuffer(8));
  view.setFloat64(0, x);
  return ((view.getUint32(0) >> 20) & 0x7ff) - 1023;
};

const isNumber = (v: unknown): v is number => typeof v === 'number' && Number.isFinite(v);
const areNumbers = (v: unknown, n: number): boolean =>
  Array.isArray(v) && v.length === n && v.every(isNumber);
const isTable = (
  size: unknown,
  most: number,
  count: (n: number) => number,
  data: unknown,
): boolean =>
  Number.isInteger(size) &&
  (size as number) >= 2 &&
  (size as number) <= most &&
  typeof data === 'string' &&
  floatsIn(data, count(size as number)) !== undefined;

function isCurve(v: unknown): boolean {
  const c = v as FormulaCurve;
  switch (c?.f) {
    case 'log':
    case 'antilog':
      return (
        [c.base, c.logSlope, c.logOffset, c.linSlope, c.linOffset].every(isNumber) &&
        c.base > 0 &&
        (c.line === undefined || [c.line.edge, c.line.slope, c.line.shift].every(isNumber))
      );
    case 'power':
      return isNumber(c.exponent) && ['zero', 'mirror', 'pass'].includes(c.below);
    case 'monitor':
    case 'monitor-back':
      return (
        [c.exponent, c.offset, c.edge, c.slope].every(isNumber) && typeof c.mirror === 'boolean'
      );
    default:
      return false;
  }
}

function isNode(v: unknown): boolean {
  const n = v as ProcessNode;
  switch (n?.node) {
    case 'matrix':
      return areNumbers(n.rows, 9) && areNumbers(n.offset, 3);
    case 'range':
      return (
        isNumber(n.scale) &&
        isNumber(n.offset) &&
        [n.min, n.max].every((e) => e === undefined || isNumber(e))
      );
    case 'curves':
      return Array.isArray(n.curves) && n.curves.length === 3 && n.curves.every(isCurve);
    case 'table1d':
      return (
        (n.channels === 1 || n.channels === 3) &&
        typeof n.keepHue === 'boolean' &&
        (n.domain === 'unit' || (n.domain === 'half' && n.size === 65536)) &&
        isTable(n.size, MOST_TABLE_LENGTH, (s) => s * n.channels, n.data)
      );
    case 'table3d':
      return (
        typeof n.trilinear === 'boolean' &&
        isTable(n.size, MOST_TABLE_SIDE, (s) => s * s * s * 3, n.data)
      );
    case 'cdl':
      return (
        typeof n.back === 'boolean' &&
        typeof n.hold === 'boolean' &&
        [n.slope, n.offset, n.power].every((t) => areNumbers(t, 3)) &&
        isNumber(n.saturation)
      );
    default:
      return false;
  }
}

/** Whether a value is a valid list of nodes that matches its key. */
export function isProcess(v: unknown): v is ProcessValue {
  if (v === null || typeof v !== 'object') return false;
  const p = v as Partial<ProcessValue>;
  return (
    p.kind === 'process' &&
    typeof p.name === 'string' &&
    p.name.length <= 200 &&
    Array.isArray(p.nodes) &&
    p.nodes.length >= 1 &&
    p.nodes.length <= MOST_PROCESS_NODES &&
    p.nodes.every(isNode) &&
    p.key === keyOf(p.nodes)
  );
}
