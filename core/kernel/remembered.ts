/** The latest results of a function that is dear and gives the same for the same. */
export class Remembered<V> {
  private readonly made = new Map<string, V>();

  /** At most so many are kept; the one that was not asked for longest goes first. */
  constructor(private readonly most: number) {}

  /** What `make` gives, made once for a key. */
  of(key: string, make: () => V): V {
    const known = this.made.get(key);
    const value = known ?? make();
    this.made.delete(key);
    this.made.set(key, value);
    if (this.made.size > this.most) this.made.delete(this.made.keys().next().value!);
    return value;
  }
}
