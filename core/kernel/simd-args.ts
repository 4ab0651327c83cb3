/** What a kernel of the simd back end is called with. */

/** How many inputs, numbers and tables a kernel's argument block holds, and where (bytes). */
export const ARGS = {
  width: 0,
  outStride: 4,
  out: 8,
  /** Each input: four plane addresses, stride in bytes, width, height. */
  input: (i: number) => 24 + i * 28,
  params: (inputs: number) => 24 + inputs * 28,
} as const;

export interface Counts {
  readonly inputs: number;
  readonly params: number;
  readonly ints: number;
  readonly tables: number;
}

/** The function's parameters. */
export const RUN_ARGS = 0,
  RUN_Y0 = 1,
  RUN_Y1 = 2;
