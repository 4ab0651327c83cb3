/** Time after which it is asked again whether anything is baked, ms. */
const AGAIN = 2000;
/** Pictures that the server's workers baked from originals: which exist, and their files. */
export class ServerBakes {
  private there: ReadonlySet<string> = new Set();
  /** Whether any of the last asked ones existed. */
  get any(): boolean {
    return this.there.size > 0;
  }
  has(name: string): boolean {
    return this.there.has(name);
  }
  /** Whether anything is baked; if not, keys need not be computed. */
  async some(): Promise<boolean> {
    return (await asked([])).any;
  }
  private looked = { at: -Infinity, any: false };
  /** The same, as it was a short while ago at the earliest. */
  async mayHave(): Promise<boolean> {
    if (!this.looked.any && performance.now() - this.looked.at > AGAIN)
      this.looked = { at: performance.now(), any: await this.some() };
    return this.looked.any;
  }
  /** Asks which of these exist. */
  async ask(names: readonly string[]): Promise<void> {
    this.there = new Set(names.length > 0 ? (await asked(names)).there : []);
  }
  /** A picture; undefined if it was removed meanwhile. */
  async file(name: string): Promise<Blob | undefined> {
    const answer = await fetch(`/api/baked/${name}`).catch(() => undefined);
    return answer?.ok ? answer.blob() : undefined;
  }
}

/** Empty if the server cannot be reached. */
async function asked(
  names: readonly string[],
): Promise<{ readonly there: readonly string[]; readonly any: boolean }> {
  const answer = await fetch('/api/baked', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ names }),
  }).catch(() => undefined);
  return answer?.ok
    ? ((await answer.json()) as { there: string[]; any: boolean })
    : { there: [], any: false };
}
