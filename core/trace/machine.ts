/** The WebAssembly module for motion, its memory, and planes in it. */
import { PAD } from './luma';
import { MOTION_WASM } from './motion-wasm';

type Kernel = (...numbers: readonly number[]) => void;
interface Kernels {
  readonly setPad: Kernel;
  readonly searchPatches: Kernel;
  readonly refine: Kernel;
  readonly doubled: Kernel;
  readonly doubts: Kernel;
  readonly between: Kernel;
}
let machine: { readonly memory: WebAssembly.Memory; readonly kernels: Kernels } | undefined;
function running(): NonNullable<typeof machine> {
  if (machine) return machine;
  const bytes = Uint8Array.from(atob(MOTION_WASM), (c) => c.charCodeAt(0));
  const memory = new WebAssembly.Memory({ initial: 16 });
  const { exports } = new WebAssembly.Instance(new WebAssembly.Module(bytes), { env: { memory } });
  machine = { memory, kernels: exports as unknown as Kernels };
  machine.kernels.setPad(PAD);
  return machine;
}

/** Start of the memory available for work; the module's own data is below. */
const FIRST = 1024;

/**
 * The kernels and a memory with blocks of the given bytes: the address of each block, and views of
 * the memory. Earlier contents are lost.
 */
export function withRoom<K extends string>(sizes: Readonly<Record<K, number>>) {
  const { memory, kernels } = running();
  const at: Record<K, number> = { ...sizes };
  let end = FIRST;
  for (const name of Object.keys(sizes) as K[]) {
    at[name] = end;
    // Whole vectors and four more values, because reads may pass a block's end.
    end += (sizes[name] + 79) & ~15;
  }
  const lacking = Math.ceil((end - memory.buffer.byteLength) / 65536);
  if (lacking > 0) memory.grow(lacking);
  return { kernels, at, floats: new Float32Array(memory.buffer) };
}

/**
 * Distance between rows of a plane: a multiple of four plus four, so that four values can be read
 * anywhere.
 */
export const rowLength = (width: number): number => (width + 7) & ~3;

/** Copies tightly packed rows into a plane. */
export function laid(floats: Float32Array, plane: number, from: Float32Array, width: number): void {
  const row = rowLength(width);
  for (let o = 0, to = plane / 4; o < from.length; o += width, to += row)
    floats.set(from.subarray(o, o + width), to);
}
/** Copies a plane's rows, tightly packed. */
export function taken(
  floats: Float32Array,
  plane: number,
  width: number,
  height: number,
): Float32Array {
  const out = new Float32Array(width * height),
    row = rowLength(width);
  for (let o = 0, from = plane / 4; o < out.length; o += width, from += row)
    out.set(floats.subarray(from, from + width), o);
  return out;
}
