/** A 128-bit content hash for keys (four lanes of multiply and rotate; not for secrets). */
const PRIMES = [0x9e3779b1, 0x85ebca77, 0xc2b2ae3d, 0x27d4eb2f] as const;
const floatView = new Float32Array(1);
const bitsView = new Int32Array(floatView.buffer);

export class Hasher {
  private readonly lanes = new Int32Array([0x243f6a88, 0x85a308d3 | 0, 0x13198a2e, 0x03707344]);

  int(v: number): this {
    const { lanes } = this;
    for (let i = 0; i < 4; i++) {
      let h = Math.imul(lanes[i]! ^ v, PRIMES[i]!);
      h = (h << (13 + i)) | (h >>> (19 - i));
      lanes[i] = (Math.imul(h, PRIMES[(i + 1) & 3]!) + lanes[(i + 1) & 3]!) | 0;
    }
    return this;
  }
  /** By the bits of the f32 that the kernel will see. */
  float(v: number): this {
    floatView[0] = v;
    return this.int(bitsView[0]!);
  }
  text(s: string): this {
    for (let i = 0; i < s.length; i++) this.int(s.charCodeAt(i));
    return this.int(s.length);
  }
  hex(): string {
    this.int(0x5bd1e995).int(0x1b873593);
    return [...this.lanes].map((v) => (v >>> 0).toString(16).padStart(8, '0')).join('');
  }
}

/** A seed of 32 bits from names: the look's seed, a layer's key, a step's key, the clip's content hash. */
export function seedOf(...parts: (string | number)[]): number {
  const h = new Hasher();
  for (const p of parts) h.text(String(p));
  return parseInt(h.hex().slice(0, 8), 16) | 0;
}
