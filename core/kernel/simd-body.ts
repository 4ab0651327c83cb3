/**
 * Where the loops of the simd back end stand, and what one copy of their body has computed already.
 */
import type { Node } from './expr';

/** Where the loops stand: locals of the row, of the column, and of the column in bytes. */
export interface Place {
  readonly y: number;
  readonly x: number;
  readonly xBytes: number;
}

/**
 * One row of one plane of one input: its address (less `bias` bytes, so that every tap lies at a
 * positive offset).
 */
export interface RowAddress {
  readonly local: number;
  readonly bias: number;
}

/**
 * One copy of the body: what it has computed already. `vector` counts the groups of four pixels
 * from the column on.
 */
export class Body {
  readonly made: Map<Node, number>;
  readonly entries: Map<string, readonly number[]>;
  constructor(
    readonly edge: boolean,
    readonly vector: number,
    /** Addresses at the present column, shared by the bodies of one turn of the loop. */
    readonly pointers: Map<string, number>,
    outer?: Body,
  ) {
    this.made = new Map(outer?.made);
    this.entries = new Map(outer?.entries);
  }
  /** A loop inside: it knows what was computed before, and what it computes is not known after. */
  inner(): Body {
    return new Body(this.edge, this.vector, new Map(this.pointers), this);
  }
}

export const rowKey = (n: Node): string =>
  n.op === 'input'
    ? `${n.imm[0]}:${n.imm[1]}:0:1`
    : `${n.imm[0]}:${n.imm[1]}:${n.imm[3]}:${n.imm[6]}`;
