/** Declares the command line's options and reads what was given. Mistakes end in one clear line. */
import { type Command, Option } from 'commander';

/** The arguments cannot be used as given. */
export class Usage extends Error {}

/** The options given, by name without dashes, with their values in order; switches have none. */
export interface Words {
  readonly flags: ReadonlyMap<string, readonly string[]>;
}

/** An option `--name <what>`, which may be repeated. */
export const value = (name: string, what: string, help: string): Option =>
  new Option(`--${name} <${what}>`, help).argParser((v: string, all: string[] | undefined) => [
    ...(all ?? []),
    v,
  ]);

/** A switch `--name`. */
export const flag = (name: string, help: string): Option => new Option(`--${name}`, help);

/** The options that a command was given. */
export function wordsOf(command: Command): Words {
  const given = command.opts<Record<string, string[] | true>>();
  const flags = command.options.flatMap((o): [string, readonly string[]][] => {
    const v = given[o.attributeName()];
    return v === undefined ? [] : [[o.long!.slice(2), v === true ? [] : v]];
  });
  return { flags: new Map(flags) };
}

/** The value of an option. Throws `Usage` if it was given more than once. */
export function one(w: Words, name: string): string | undefined {
  const all = w.flags.get(name);
  if (all && all.length > 1)
    throw new Usage(`--${name} is given ${all.length} times: once is enough`);
  return all?.[0];
}

/** The value of a required option. Throws `Usage` if it is missing. */
export function needed(w: Words, name: string): string {
  const v = one(w, name);
  if (v === undefined) throw new Usage(`--${name} is missing`);
  return v;
}
