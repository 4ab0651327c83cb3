/** A 128-bit content hash for keys: four lanes of multiply and rotate. Not cryptographic. */
const P0 = 0x9e3779b1,
  P1 = 0x85ebca77,
  P2 = 0xc2b2ae3d,
  P3 = 0x27d4eb2f;
const floatView = new Float32Array(1);
const bitsView = new Int32Array(floatView.buffer);
const HEX = Array.from({ length: 256 }, (_, v) => v.toString(16).padStart(2, '0'));
const hexOf = (v: number): string =>
  HEX[v >>> 24]! + HEX[(v >>> 16) & 255]! + HEX[(v >>> 8) & 255]! + HEX[v & 255]!;

/** Value of a hexadecimal digit by its character code. */
const DIGITS = new Uint8Array(128);
for (let v = 0; v < 16; v++) DIGITS[v.toString(16).charCodeAt(0)] = v;
/** The 32 bits of eight hexadecimal digits from index `i` on. */
function wordAt(hex: string, i: number): number {
  let word = 0;
  for (let k = i; k < i + 8; k++) word = (word << 4) | DIGITS[hex.charCodeAt(k)]!;
  return word;
}
/** Digests of texts that recur; begun anew when there are too many. */
const digests = new Map<string, readonly number[]>();
const MOST_DIGESTS = 4096;
/** The 128 bits of a key made by `hex`. */
const wordsOf = (hex: string): number[] => [0, 8, 16, 24].map((i) => wordAt(hex, i));

/** Accumulates values into a hash. */
export class Hasher {
  private a = 0x243f6a88;
  private b = 0x85a308d3 | 0;
  private c = 0x13198a2e;
  private d = 0x03707344;

  int(v: number): this {
    // Unrolled: planning a frame hashes thousands of numbers.
    let h = Math.imul(this.a ^ v, P0);
    h = (h << 13) | (h >>> 19);
    this.a = (Math.imul(h, P1) + this.b) | 0;
    h = Math.imul(this.b ^ v, P1);
    h = (h << 14) | (h >>> 18);
    this.b = (Math.imul(h, P2) + this.c) | 0;
    h = Math.imul(this.c ^ v, P2);
    h = (h << 15) | (h >>> 17);
    this.c = (Math.imul(h, P3) + this.d) | 0;
    h = Math.imul(this.d ^ v, P3);
    h = (h << 16) | (h >>> 16);
    this.d = (Math.imul(h, P0) + this.a) | 0;
    return this;
  }
  /** Hashes the bits of the f32 that the kernel will see. */
  float(v: number): this {
    floatView[0] = v;
    return this.int(bitsView[0]!);
  }
  text(s: string): this {
    for (let i = 0; i < s.length; i++) this.int(s.charCodeAt(i));
    return this.int(s.length);
  }
  /** Hashes a key made by `hex` by its 128 bits. */
  key(hex: string): this {
    for (let i = 0; i < 32; i += 8) this.int(wordAt(hex, i));
    return this;
  }
  /** Hashes a text that recurs (a shape, the key of a table) by its digest, which is kept. */
  name(s: string): this {
    let words = digests.get(s);
    if (!words) {
      words = wordsOf(new Hasher().text(s).hex());
      if (digests.size >= MOST_DIGESTS) digests.clear();
      digests.set(s, words);
    }
    return this.int(words[0]!).int(words[1]!).int(words[2]!).int(words[3]!);
  }
  hex(): string {
    this.int(0x5bd1e995).int(0x1b873593);
    return hexOf(this.a) + hexOf(this.b) + hexOf(this.c) + hexOf(this.d);
  }
}

/**
 * A 32-bit seed from names: the look's seed, a layer's key, a step's key, the clip's content hash.
 */
export function seedOf(...parts: (string | number)[]): number {
  const h = new Hasher();
  for (const p of parts) h.text(String(p));
  return parseInt(h.hex().slice(0, 8), 16) | 0;
}
