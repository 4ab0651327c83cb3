/** The simd back end's loops: their counters, and what one copy of the body has computed so far. */
import type { Node } from './node';

/** Locals that hold the current row, the current column, and the column in bytes. */
export interface Place {
  readonly y: number;
  readonly x: number;
  readonly xBytes: number;
}

/**
 * Address of one row of one plane of one input, less `bias` bytes so that every tap has a positive
 * offset.
 */
export interface RowAddress {
  readonly local: number;
  readonly bias: number;
}

/**
 * One copy of the body, with the values computed so far. `vector`: index of its group of four
 * pixels, from the current column on.
 */
export class Body {
  readonly made: Map<Node, number>;
  readonly entries: Map<string, readonly number[]>;
  constructor(
    readonly edge: boolean,
    readonly vector: number,
    /** Addresses at the current column, shared by the bodies of one turn of the loop. */
    readonly pointers: Map<string, number>,
    outer?: Body,
  ) {
    this.made = new Map(outer?.made);
    this.entries = new Map(outer?.entries);
  }
  /**
   * A nested loop: it can use what was computed before, and nothing after it can use what it
   * computes.
   */
  inner(): Body {
    return new Body(this.edge, this.vector, new Map(this.pointers), this);
  }
}

/** Key of the row that a tap or input reads. */
export const rowKey = (n: Node): string =>
  n.op === 'input'
    ? `${n.imm[0]}:${n.imm[1]}:0:1`
    : `${n.imm[0]}:${n.imm[1]}:${n.imm[3]}:${n.imm[6]}`;
