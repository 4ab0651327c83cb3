/** Runs the command line inside tests' own process, because starting one takes seconds. */
import { run } from './commands';

/** Exit status and output of a command. */
export interface Ended {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

/** Runs a command. */
export async function cli(...args: string[]): Promise<Ended> {
  let out = '',
    err = '';
  const code = await run(args, { print: (text) => (out += text), say: (text) => (err += text) });
  return { code, out, err };
}
