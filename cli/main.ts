/** Entry point of the command line: the process's arguments, streams and exit status. */
import { run } from './commands';

process.exitCode = await run(process.argv.slice(2), {
  print: (text) => void process.stdout.write(text),
  say: (text) => void process.stderr.write(text),
});
