/** The command line: the same core as the page and the renders, needing no database. */
import { SHIPPED, STEPS } from '../core';
import { NotFootage } from '../server/media/footage';
import { probe } from '../server/media/probe';
import { needed, readWords, Usage } from './args';
import { BAKE_WORDS, bakeLut } from './bake-lut';
import { inspect, INSPECT_WORDS, inspectedInWords } from './inspect';
import { render, RENDER_WORDS } from './render';

const HELP = `Wabisabi
  render --look <shipped name or file.json> --in <video, picture or folder> --out <file or folder>
         [--frames 0-23] [--size 960x540] [--fit fit|fill] [--reframe x,y,closer] [--balance file.cc [--balance-on clip|srgb|acescct] [--balance-hold on|off]]
         [--in-out 20-59] [--cuts 31,47] [--retime frame:speed[:seconds],…[,backwards] [--between nearest|mix|motion]]
         [--encoding …] [--out-encoding …] [--rate 25]
         [--depth 8|16] [--effort quick|usual|small] [--coverage] [--dial name=value]… [--pin name=x,y]… [--plate name=file]… [--seed n] [--threads n] [--quiet]
         instead of --look: --step '<id> <parameter>=<value> …', any number of times
  bake-lut --look … --out x.cube [--size 33] [--takes srgb] [--gives srgb] [--dial name=value]…
         a look of colour steps alone, as a cube, with its largest error
  inspect --look … --in <video, picture or folder> [--encoding …] [--dial name=value]… [--json]
         what is crushed, clipped, outside or flashes too often, with frame ranges
  steps [--json]      every step and its parameters
  looks [--json]      the shipped looks and their dials
  probe --in <file> [--json] [--strict]
         what a file is; with --strict, exit status 3 where anything about it is doubtful`;

/** Exit status of `probe --strict` where a file can be read and is doubtful. */
const DOUBTFUL = 3;

const print = (v: unknown): void => {
  process.stdout.write(typeof v === 'string' ? `${v}\n` : `${JSON.stringify(v, null, 2)}\n`);
};

async function main(argv: readonly string[]): Promise<void> {
  const [command, ...rest] = argv;
  switch (command) {
    case 'render':
      return print(await render(readWords(rest, RENDER_WORDS)));
    case 'bake-lut':
      return print(await bakeLut(readWords(rest, BAKE_WORDS)));
    case 'inspect': {
      const w = readWords(rest, INSPECT_WORDS);
      const found = await inspect(w);
      return print(w.flags.has('json') ? found : inspectedInWords(found));
    }
    case 'steps': {
      const steps = STEPS.map(({ id, family, label, help, domain, parameters }) => ({ id, family, label, help, domain, parameters }));
      return print(
        readWords(rest, { values: [], switches: ['json'] }).flags.has('json') ? steps : steps.map((s) => `${s.id.padEnd(14)} ${s.help}`).join('\n'),
      );
    }
    case 'looks': {
      const looks = SHIPPED.map(({ id, help, look }) => ({ id, name: look.name, help, dials: look.dials }));
      return print(
        readWords(rest, { values: [], switches: ['json'] }).flags.has('json') ? looks : looks.map((l) => `${l.id.padEnd(14)} ${l.help}`).join('\n'),
      );
    }
    case 'probe': {
      const w = readWords(rest, { values: ['in'], switches: ['json', 'strict'] });
      const { index, slots, ...footage } = await probe(needed(w, 'in'));
      for (const warning of footage.warnings ?? []) process.stderr.write(`look at this file: ${warning}\n`);
      if (w.flags.has('strict') && footage.warnings) process.exitCode = DOUBTFUL;
      if (w.flags.has('json')) return print({ ...footage, uneven: slots !== undefined, sourceFrames: index.hashes.length });
      return print(
        `${footage.kind} ${footage.codec}, ${footage.format.width}x${footage.format.height}, ${footage.frames} frames at ${footage.rate.join('/')}, ${footage.guess}, ${footage.sound ? `sound ${footage.sound.codec}` : 'no sound'}`,
      );
    }
    case undefined:
    case 'help':
    case '--help':
      return print(HELP);
    default:
      throw new Usage(`there is no command "${command}"; there are render, bake-lut, inspect, steps, looks, probe`);
  }
}

main(process.argv.slice(2)).catch((e: unknown) => {
  const known = e instanceof Usage || e instanceof NotFootage;
  process.stderr.write(`${e instanceof Error ? (known ? e.message : `failed: ${e.message.split('\n')[0]}`) : String(e)}\n`);
  if (process.env['WABISABI_TRACE'] && e instanceof Error) process.stderr.write(`${e.stack}\n`);
  process.exitCode = known ? 2 : 1;
});
