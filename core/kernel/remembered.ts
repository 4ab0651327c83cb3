/**
 * A bounded cache of the latest results of an expensive pure function (least recently used out).
 */
export class Remembered<V> {
  private readonly made = new Map<string, V>();

  /** `most`: number of results that are kept. */
  constructor(private readonly most: number) {}

  /** The result for a key; `make` runs if it is not in the cache. */
  of(key: string, make: () => V): V {
    const known = this.made.get(key);
    const value = known ?? make();
    this.made.delete(key);
    this.made.set(key, value);
    if (this.made.size > this.most) this.made.delete(this.made.keys().next().value!);
    return value;
  }
}
