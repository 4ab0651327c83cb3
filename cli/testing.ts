/**
 * The command line for tests, in their own process: a process of its own takes seconds to begin.
 */
import { run } from './commands';

/** How a command ended, and what it wrote. */
export interface Ended {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

export async function cli(...args: string[]): Promise<Ended> {
  let out = '',
    err = '';
  const code = await run(args, { print: (text) => (out += text), say: (text) => (err += text) });
  return { code, out, err };
}
