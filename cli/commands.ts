/** The commands. They use the same core as the pages and renders, and need no database. */
import { Command, CommanderError, type Option } from 'commander';
import { loudnessInWords, SHIPPED, STEPS } from '../core';
import { NotFootage } from '../server/media/footage';
import { probe } from '../server/media/probe';
import { flag, needed, Usage, value, type Words, wordsOf } from './args';
import { BAKE_OPTIONS, bakeLut } from './bake-lut';
import { BEATS_OPTIONS, beatsInWords, foundBeats } from './beats';
import { CUT_OPTIONS, renderCut } from './cut';
import { inspect, INSPECT_OPTIONS, inspectedInWords } from './inspect';
import { LOUDNESS_OPTIONS, measuredLoudness } from './loudness';
import { render } from './render';
import { RENDER_OPTIONS } from './render-options';
import { cutOut, CUT_OUT_OPTIONS } from './cut-out';
import { trace, TRACE_OPTIONS } from './trace';

/** Where results and remarks are written. */
export interface Streams {
  readonly print: (text: string) => void;
  readonly say: (text: string) => void;
}

/**
 * Exit statuses: bad arguments or footage, an internal failure, a file that `probe --strict` can
 * read but doubts.
 */
const USAGE = 2,
  FAILED = 1,
  DOUBTFUL = 3;

const JSON_TOO = flag('json', 'as JSON');

interface Outcome {
  /** Printed as text, or as JSON. */
  readonly shown: unknown;
  readonly status?: number;
}
interface Task {
  readonly name: string;
  readonly help: string;
  readonly options: readonly Option[];
  readonly run: (w: Words, say: Streams['say']) => Promise<Outcome>;
}

const listed = <T>(w: Words, all: readonly T[], line: (t: T) => string): Promise<Outcome> =>
  Promise.resolve({ shown: w.flags.has('json') ? all : all.map(line).join('\n') });

async function probed(w: Words, say: Streams['say']): Promise<Outcome> {
  const { index, slots, ...footage } = await probe(needed(w, 'in'));
  for (const warning of footage.warnings ?? []) say(`look at this file: ${warning}\n`);
  const status = w.flags.has('strict') && footage.warnings ? DOUBTFUL : 0;
  if (w.flags.has('json'))
    return {
      shown: { ...footage, uneven: slots !== undefined, sourceFrames: index.hashes.length },
      status,
    };
  const { kind, codec, format, frames, rate, guess, sound } = footage;
  const size = `${format.width}x${format.height}`;
  const heard = sound ? `sound ${sound.codec}` : 'no sound';
  const shown = `${kind} ${codec}, ${size}, ${frames} frames at ${rate.join('/')}, ${guess}, ${heard}`;
  return { shown, status };
}

const TASKS: readonly Task[] = [
  {
    name: 'render',
    help: 'a look over one piece of footage, to a video or a folder of pictures',
    options: RENDER_OPTIONS,
    run: async (w, say) => ({ shown: await render(w, say) }),
  },
  {
    name: 'cut',
    help: 'a whole cut with its transitions and its sound, to one video',
    options: CUT_OPTIONS,
    run: async (w) => ({ shown: await renderCut(w) }),
  },
  {
    name: 'trace',
    help: 'where what lies under marks goes, frame by frame, for --pin',
    options: TRACE_OPTIONS,
    run: async (w) => ({ shown: await trace(w) }),
  },
  {
    name: 'cut-out',
    help: 'a subject’s matte from strokes on a few frames, for a matte pin',
    options: CUT_OUT_OPTIONS,
    run: async (w) => ({ shown: await cutOut(w) }),
  },
  {
    name: 'bake-lut',
    help: 'a look of colour steps alone, as a cube, with the largest error found',
    options: BAKE_OPTIONS,
    run: async (w) => ({ shown: await bakeLut(w) }),
  },
  {
    name: 'inspect',
    help: 'what is crushed, clipped, outside or flashes too often, with frame ranges',
    options: INSPECT_OPTIONS,
    async run(w) {
      const found = await inspect(w);
      return { shown: w.flags.has('json') ? found : inspectedInWords(found) };
    },
  },
  {
    name: 'loudness',
    help: 'how loud a file’s sound is: integrated, short-term, true peak',
    options: LOUDNESS_OPTIONS,
    async run(w) {
      const found = await measuredLoudness(w);
      return { shown: w.flags.has('json') ? found : loudnessInWords(found) };
    },
  },
  {
    name: 'beats',
    help: 'the beats of a file’s sound, and how many a minute',
    options: BEATS_OPTIONS,
    async run(w) {
      const found = await foundBeats(w);
      return { shown: w.flags.has('json') ? found : beatsInWords(found) };
    },
  },
  {
    name: 'steps',
    help: 'every step and its parameters',
    options: [JSON_TOO],
    run: (w) => {
      const all = STEPS.map(({ id, family, label, help, domain, parameters }) => ({
        ...{ id, family, label, help, domain, parameters },
      }));
      return listed(w, all, (s) => `${s.id.padEnd(14)} ${s.help}`);
    },
  },
  {
    name: 'looks',
    help: 'the shipped looks and their dials',
    options: [JSON_TOO],
    run: (w) => {
      const all = SHIPPED.map(({ id, help, look }) => ({
        id,
        name: look.name,
        help,
        dials: look.dials,
      }));
      return listed(w, all, (l) => `${l.id.padEnd(14)} ${l.help}`);
    },
  },
  {
    name: 'probe',
    help: 'what a file is',
    options: [
      value('in', 'file', 'a video, a picture or a folder of pictures'),
      JSON_TOO,
      flag('strict', `exit status ${DOUBTFUL} where anything about it is doubtful`),
    ],
    run: probed,
  },
];

function program(streams: Streams, done: (status: number) => void): Command {
  const all = new Command('wabisabi').description('Looks over footage, from a terminal.');
  for (const task of TASKS) {
    const command = all.command(task.name).description(task.help);
    task.options.forEach((o) => command.addOption(o));
    command.action(async () => {
      const { shown, status = 0 } = await task.run(wordsOf(command), streams.say);
      streams.print(`${typeof shown === 'string' ? shown : JSON.stringify(shown, null, 2)}\n`);
      done(status);
    });
  }
  for (const c of [all, ...all.commands])
    c.exitOverride().configureOutput({
      writeOut: streams.print,
      writeErr: streams.say,
      outputError: () => {},
    });
  return all;
}

/** Commander's messages as one line, without its prefix. */
const inOneLine = (message: string): string =>
  message.replace(/^error: /, '').replaceAll('\n', ' ');

/** Runs a command and returns its exit status. Never throws. */
export async function run(argv: readonly string[], streams: Streams): Promise<number> {
  let status = 0;
  try {
    const words = argv.length === 0 ? ['help'] : [...argv];
    await program(streams, (s) => (status = s)).parseAsync(words, { from: 'user' });
    return status;
  } catch (e) {
    // Help was requested and has been written.
    if (e instanceof CommanderError && e.exitCode === 0) return 0;
    if (e instanceof CommanderError) {
      streams.say(`${inOneLine(e.message)}\n`);
      return USAGE;
    }
    const known = e instanceof Usage || e instanceof NotFootage;
    const words = e instanceof Error ? e.message : String(e);
    streams.say(`${known ? words : `failed: ${words.split('\n')[0]}`}\n`);
    if (process.env['WABISABI_TRACE'] && e instanceof Error) streams.say(`${e.stack}\n`);
    return known ? USAGE : FAILED;
  }
}
