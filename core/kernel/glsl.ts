/**
 * The glsl back end: lowered expressions as one fragment shader (GLSL ES 3.00). A picture of up to
 * four planes is one float texture, read by `texelFetch` alone. Tables share one atlas of entries
 * of four numbers.
 */
import { inOrder, type Node, type Type } from './node';
import { turningNodes } from './reference';

/** Entries per row of the table atlas. */
export const ATLAS_WIDTH = 2048;

/** Number of arguments of each kind. The ints are followed by the tables' first entries. */
export interface GlslCounts {
  readonly inputs: number;
  readonly params: number;
  readonly ints: number;
  readonly tables: number;
}

const KEYWORD: Record<Type, string> = { f32: 'float', i32: 'int', mask: 'bool' };
const PART = ['x', 'y', 'z', 'w'] as const;

function floatText(v: number): string {
  if (!Number.isFinite(v))
    return v !== v
      ? 'intBitsToFloat(0x7fc00000)'
      : `intBitsToFloat(${v > 0 ? '0x7f800000' : 'int(0xff800000u)'})`;
  const text = Object.is(v, -0) ? '-0.0' : String(v);
  return /[.e]/.test(text) ? `(${text})` : `(${text}.0)`;
}
const intText = (v: number): string => (v < 0 ? `int(${v >>> 0}u)` : String(v));

/** Element `i` of an array that is packed into vectors of four. */
const packed = (array: string, i: number): string => `${array}[${i >> 2}].${PART[i & 3]!}`;

const BINARY: Readonly<Record<string, string>> = {
  add: '+',
  sub: '-',
  mul: '*',
  div: '/',
  iadd: '+',
  isub: '-',
  imul: '*',
  iand: '&',
  ior: '|',
  ixor: '^',
  lt: '<',
  le: '<=',
  eq: '==',
  ilt: '<',
  and: '&&',
  or: '||',
};
const CALLED: Readonly<Record<string, string>> = {
  abs: 'abs',
  sqrt: 'sqrt',
  floor: 'floor',
  toFloat: 'float',
  asFloat: 'intBitsToFloat',
  asInt: 'floatBitsToInt',
  imin: 'min',
  imax: 'max',
  toInt: 'toInt',
};

function tapText(imm: readonly number[]): string {
  const [image, plane, dx, dy, clear, sx, sy] = imm as readonly [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const along = (v: string, scale: number, d: number): string => {
    const scaled = scale === 2 ? `${v} * 2` : scale === 0.5 ? `${v} >> 1` : v;
    return `(${scaled}) + ${intText(d)}`;
  };
  return `${clear ? 'tapClear' : 'tap'}(i${image}, ivec2(${along('at.x', sx, dx)}, ${along('at.y', sy, dy)})).${PART[plane]!}`;
}

class Writer {
  private readonly lines: string[] = [];
  private readonly names = new Map<Node, string>();
  private readonly looped = new Set<string>();
  private readonly turning: ReadonlyMap<Node, readonly Node[]>;

  constructor(
    outputs: readonly Node[],
    private readonly counts: GlslCounts,
  ) {
    const order = inOrder(outputs);
    this.turning = new Map(
      order.filter((n) => n.op === 'reduce').map((n) => [n, turningNodes(n, order)]),
    );
    this.statements(order);
    this.lines.push(
      `o = vec4(${[0, 1, 2, 3].map((k) => (outputs[k] ? this.names.get(outputs[k])! : '0.0')).join(', ')});`,
    );
  }

  text(): string {
    const { inputs, params, ints, tables } = this.counts;
    const vectors = (n: number) => Math.max(1, Math.ceil(n / 4));
    return [
      '#version 300 es',
      'precision highp float; precision highp int; precision highp sampler2D;',
      ...Array.from({ length: inputs }, (_, i) => `uniform sampler2D i${i};`),
      `uniform sampler2D atlas; uniform vec4 params[${vectors(params)}]; uniform ivec4 ints[${vectors(ints + tables)}];`,
      'out vec4 o;',
      'vec4 tap(sampler2D s, ivec2 p) { return texelFetch(s, clamp(p, ivec2(0), textureSize(s, 0) - 1), 0); }',
      'vec4 tapClear(sampler2D s, ivec2 p) { return any(lessThan(p, ivec2(0))) || any(greaterThanEqual(p, textureSize(s, 0))) ? vec4(0.0) : texelFetch(s, p, 0); }',
      `vec4 entry(int i) { return texelFetch(atlas, ivec2(i & ${ATLAS_WIDTH - 1}, i / ${ATLAS_WIDTH}), 0); }`,
      'int toInt(float x) { return x >= 2147483648.0 ? 2147483647 : x < -2147483648.0 ? int(0x80000000u) : int(x); }',
      'void main() {',
      'ivec2 at = ivec2(gl_FragCoord.xy);',
      ...this.lines,
      '}',
    ].join('\n');
  }

  /** Writes those of `nodes` that no loop among them writes. */
  private statements(nodes: readonly Node[]): void {
    const inner = new Set(nodes.flatMap((n) => this.turning.get(n) ?? []));
    for (const n of nodes) if (!inner.has(n)) this.statement(n);
  }

  private statement(n: Node): void {
    if (this.names.has(n)) return;
    if (n.op === 'reduce') return this.loop(n);
    const text = this.value(n);
    if (n.args.length === 0 && !['input', 'tap'].includes(n.op)) {
      this.names.set(n, text);
      return;
    }
    const name = `v${n.id}`;
    this.lines.push(`${KEYWORD[n.type]} ${name} = ${text};`);
    this.names.set(n, name);
  }

  private loop(n: Node): void {
    const [id, which, sums] = n.imm as readonly [number, number, number];
    const sum = (k: number): string => `s${id}_${k}`;
    const of = (i: number): string => this.names.get(n.args[i]!)!;
    if (!this.looped.has(`${id}`)) {
      this.looped.add(`${id}`);
      for (let k = 0; k < sums; k++) this.lines.push(`float ${sum(k)} = ${of(1 + k)};`);
      this.lines.push(`for (int t${id} = 0; t${id} < ${of(0)}; t${id}++) {`);
      this.statements(this.turning.get(n)!);
      for (let k = 0; k < sums; k++) this.lines.push(`float n${id}_${k} = ${of(1 + sums + k)};`);
      for (let k = 0; k < sums; k++) this.lines.push(`${sum(k)} = n${id}_${k};`);
      this.lines.push('}');
    }
    this.names.set(n, sum(which));
  }

  private value(n: Node): string {
    const [p, q, r] = n.args.map((a) => this.names.get(a)!);
    const { imm, op } = n;
    const infix = BINARY[op];
    if (infix) return `${p!} ${infix} ${q!}`;
    const called = CALLED[op];
    if (called) return `${called}(${n.args.map((a) => this.names.get(a)!).join(', ')})`;
    switch (op) {
      case 'const':
        return floatText(imm[0]!);
      case 'iconst':
        return intText(imm[0]!);
      case 'param':
        return packed('params', imm[0]!);
      case 'iparam':
        return packed('ints', imm[0]!);
      case 'ix':
        return 'at.x';
      case 'iy':
        return 'at.y';
      case 'turn':
        return `t${imm[0]!}`;
      case 'sum':
        return `s${imm[0]!}_${imm[1]!}`;
      case 'input':
        return `texelFetch(i${imm[0]!}, at, 0).${PART[imm[1]!]!}`;
      case 'tap':
        return tapText(imm);
      case 'fetch':
        return `texelFetch(i${imm[0]!}, ivec2(${p!}, ${q!}), 0).${PART[imm[1]!]!}`;
      case 'corner':
        return p!;
      case 'lookup':
        return `entry(${packed('ints', this.counts.ints + imm[0]!)} + ${p!}).${PART[imm[1]!]!}`;
      case 'neg':
        return `-${p!}`;
      case 'not':
        return `!${p!}`;
      case 'min':
        return `${q!} < ${p!} ? ${q!} : ${p!}`;
      case 'max':
        return `${p!} < ${q!} ? ${q!} : ${p!}`;
      case 'select':
        return `${p!} ? ${q!} : ${r!}`;
      case 'ishl':
        return `${p!} << ${imm[0]!}`;
      case 'ishr':
        return `int(uint(${p!}) >> ${imm[0]!})`;
      default:
        throw new Error(`${op} is to be lowered before it becomes a shader`);
    }
  }
}

/**
 * The fragment shader for lowered `outputs` (one to four). Call it inside the `building` scope of
 * the nodes.
 */
export const emitGlsl = (outputs: readonly Node[], counts: GlslCounts): string =>
  new Writer(outputs, counts).text();
