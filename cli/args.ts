/** The command line's words, read strictly: what is wrong ends in one clear line. */
export class Usage extends Error {}

export interface Words {
  readonly flags: ReadonlyMap<string, readonly string[]>;
}

/** `--name value` pairs and bare `--name` switches; anything else is refused by name. */
export function readWords(argv: readonly string[], known: { readonly values: readonly string[]; readonly switches: readonly string[] }): Words {
  const flags = new Map<string, string[]>();
  for (let i = 0; i < argv.length; i++) {
    const word = argv[i]!;
    if (!word.startsWith('--')) throw new Usage(`"${word}" stands alone: options look like --name value`);
    const [name, inline] = word.slice(2).split(/=(.*)/s) as [string, string | undefined];
    if (known.switches.includes(name)) {
      flags.set(name, []);
      continue;
    }
    if (!known.values.includes(name))
      throw new Usage(`there is no option --${name}; there are ${[...known.values, ...known.switches].map((k) => `--${k}`).join(', ')}`);
    const value = inline ?? argv[++i];
    if (value === undefined) throw new Usage(`--${name} needs a value`);
    flags.set(name, [...(flags.get(name) ?? []), value]);
  }
  return { flags };
}

export function one(w: Words, name: string): string | undefined {
  const all = w.flags.get(name);
  if (all && all.length > 1) throw new Usage(`--${name} is given ${all.length} times: once is enough`);
  return all?.[0];
}
export function needed(w: Words, name: string): string {
  const v = one(w, name);
  if (v === undefined) throw new Usage(`--${name} is missing`);
  return v;
}
