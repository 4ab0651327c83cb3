/** One vector per pixel, in pixels of its own size. */
export interface Vectors {
  readonly width: number;
  readonly height: number;
  readonly u: Float32Array;
  readonly v: Float32Array;
}
