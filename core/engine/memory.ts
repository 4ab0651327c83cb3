/** Pictures in one shared WebAssembly memory: a first-fit allocator, and views onto the memory. */
import { OutOfMemory } from './computer';

/** A picture in the shared memory. Addresses and sizes in bytes, width and height in pixels. */
export interface Image {
  readonly address: number;
  readonly width: number;
  readonly height: number;
  readonly planes: number;
  /** Bytes from one row to the next; rows are padded to whole vectors of four numbers. */
  readonly stride: number;
  readonly bytes: number;
}

/** Bytes of a WebAssembly page. */
export const PAGE = 65536;
/** The memory begins with the pool's control words, followed by a kernel's argument block. */
export const CONTROL = 64,
  ARGUMENTS = 4096,
  FIRST_FREE = 2 * PAGE;

/** The allocator. Throws `OutOfMemory` above its limit. */
export class Memory {
  readonly wasm: WebAssembly.Memory;
  private free: { at: number; size: number }[] = [];
  private top = FIRST_FREE;
  private end: number;
  /** Every page below this address has been touched. */
  private present = FIRST_FREE;

  /** `limit` in bytes, at most 4 GiB. */
  constructor(readonly limit: number) {
    const initial = Math.min(16, Math.ceil(limit / PAGE));
    this.wasm = new WebAssembly.Memory({
      initial,
      maximum: Math.min(65536, Math.ceil(limit / PAGE)),
      shared: true,
    });
    this.end = initial * PAGE;
  }

  allocate(size: number): number {
    size = Math.ceil(size / 64) * 64;
    const i = this.free.findIndex((f) => f.size >= size);
    if (i >= 0) {
      const found = this.free[i]!;
      const at = found.at;
      if (found.size === size) this.free.splice(i, 1);
      else {
        found.at += size;
        found.size -= size;
      }
      return at;
    }
    const at = this.top;
    if (at + size > this.limit) throw new OutOfMemory(size);
    this.reach(at + size);
    this.top += size;
    return at;
  }

  /** Grows the memory to at least `to` bytes. */
  private reach(to: number): void {
    if (to <= this.end) return;
    const pages = Math.min(
      Math.max(Math.ceil((to - this.end) / PAGE), 256),
      Math.floor((Math.ceil(this.limit / PAGE) * PAGE - this.end) / PAGE),
    );
    try {
      this.wasm.grow(pages);
    } catch {
      throw new OutOfMemory(to - this.top);
    }
    this.end += pages * PAGE;
  }

  /**
   * Touches the next `bytes` of unused memory, because the first touch of a page costs more than
   * filling it. Returns false when nothing is left. Call it while idle.
   */
  warm(bytes: number): boolean {
    const from = Math.max(this.present, this.top),
      to = Math.min(from + bytes, Math.floor(this.limit / PAGE) * PAGE);
    if (from >= to) return false;
    try {
      this.reach(to);
    } catch {
      return false;
    }
    const words = new Int32Array(this.wasm.buffer);
    for (let at = from; at < to; at += 4096) words[at / 4] = 0;
    this.present = to;
    return true;
  }

  release(at: number, size: number): void {
    size = Math.ceil(size / 64) * 64;
    let i = this.free.findIndex((f) => f.at > at);
    if (i < 0) i = this.free.length;
    this.free.splice(i, 0, { at, size });
    const join = (k: number) => {
      const a = this.free[k],
        b = this.free[k + 1];
      if (a && b && a.at + a.size === b.at) {
        a.size += b.size;
        this.free.splice(k + 1, 1);
      }
    };
    join(i);
    join(i - 1);
    const last = this.free.at(-1);
    if (last && last.at + last.size === this.top) {
      this.top = last.at;
      this.free.pop();
    }
  }

  image(width: number, height: number, planes: number): Image {
    const stride = Math.ceil(width / 4) * 16;
    const bytes = stride * height * planes;
    return { address: this.allocate(bytes), width, height, planes, stride, bytes };
  }

  floats(address: number, length: number): Float32Array {
    return new Float32Array(this.wasm.buffer, address, length);
  }
  ints(address: number, length: number): Int32Array {
    return new Int32Array(this.wasm.buffer, address, length);
  }
  row(image: Image, plane: number, y: number): Float32Array {
    return this.floats(image.address + (plane * image.height + y) * image.stride, image.width);
  }
  /** A copy of one plane with tightly packed rows. */
  plane(image: Image, plane: number): Float32Array {
    const out = new Float32Array(image.width * image.height);
    for (let y = 0; y < image.height; y++) out.set(this.row(image, plane, y), y * image.width);
    return out;
  }
}
