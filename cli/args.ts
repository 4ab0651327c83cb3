/**
 * Options of the command line as they are declared, and what was given of them: what is wrong ends
 * in one clear line.
 */
import { type Command, Option } from 'commander';

/** The words cannot be used as they were given. */
export class Usage extends Error {}

/**
 * Each option that was given, by its name without dashes, with its values in order; a switch has
 * none.
 */
export interface Words {
  readonly flags: ReadonlyMap<string, readonly string[]>;
}

/** `--name <what>`; kept as often as it is given. */
export const value = (name: string, what: string, help: string): Option =>
  new Option(`--${name} <${what}>`, help).argParser((v: string, all: string[] | undefined) => [
    ...(all ?? []),
    v,
  ]);

/** `--name`, alone. */
export const flag = (name: string, help: string): Option => new Option(`--${name}`, help);

/** What a command was given. */
export function wordsOf(command: Command): Words {
  const given = command.opts<Record<string, string[] | true>>();
  const flags = command.options.flatMap((o): [string, readonly string[]][] => {
    const v = given[o.attributeName()];
    return v === undefined ? [] : [[o.long!.slice(2), v === true ? [] : v]];
  });
  return { flags: new Map(flags) };
}

/** The value of an option; throws `Usage` where it was given more than once. */
export function one(w: Words, name: string): string | undefined {
  const all = w.flags.get(name);
  if (all && all.length > 1)
    throw new Usage(`--${name} is given ${all.length} times: once is enough`);
  return all?.[0];
}

/** The value of an option; throws `Usage` without one. */
export function needed(w: Words, name: string): string {
  const v = one(w, name);
  if (v === undefined) throw new Usage(`--${name} is missing`);
  return v;
}
