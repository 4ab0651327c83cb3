/**
 * Setup of all unit tests: typed arrays with equal bytes are equal. Vitest compares them element by
 * element, which takes seconds for a picture; it still does so where bytes differ.
 */
import { expect } from 'vitest';

const bytesOf = (v: ArrayBufferView): Uint8Array =>
  new Uint8Array(v.buffer, v.byteOffset, v.byteLength);

expect.addEqualityTesters([
  (a: unknown, b: unknown): boolean | undefined => {
    if (!ArrayBuffer.isView(a) || !ArrayBuffer.isView(b)) return undefined;
    if (a.constructor !== b.constructor || a.byteLength !== b.byteLength) return undefined;
    const [x, y] = [bytesOf(a), bytesOf(b)];
    for (let i = 0; i < x.length; i++) if (x[i] !== y[i]) return undefined;
    return true;
  },
]);
