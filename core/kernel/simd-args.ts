/** The arguments of a kernel of the simd back end. */

/** Byte offsets inside a kernel's argument block. */
export const ARGS = {
  width: 0,
  outStride: 4,
  out: 8,
  /** Per input: four plane addresses, stride in bytes, width, height. */
  input: (i: number) => 24 + i * 28,
  params: (inputs: number) => 24 + inputs * 28,
} as const;

/** Number of arguments of each kind. */
export interface Counts {
  readonly inputs: number;
  readonly params: number;
  readonly ints: number;
  readonly tables: number;
}

/** Indices of the parameters of `run`. */
export const RUN_ARGS = 0,
  RUN_Y0 = 1,
  RUN_Y1 = 2;
