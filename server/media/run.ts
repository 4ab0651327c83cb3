/**
 * Runs child processes with argument arrays and without a shell. Inputs are local files of known
 * formats only.
 */
import { type ChildProcessWithoutNullStreams, spawn } from 'node:child_process';
import { join } from 'node:path';

/** A tool's messages without memory addresses and local paths. */
export const inPlainWords = (said: string): string =>
  said
    .replace(/\[[^\]\n]* @ 0x[0-9a-f]+\]\s*/gi, '')
    .replace(/(?:file:)?(?:\/[^\s/:'"]+)+\/([^\s/:'"]*)/g, '$1')
    .trim();

/** A tool ended with an error. `said`: its last messages. */
export class ToolFailed extends Error {
  constructor(
    readonly tool: string,
    readonly code: number | null,
    readonly said: string,
  ) {
    super(
      `${tool} ended with ${code ?? 'a signal'}: ${inPlainWords(said).split('\n').slice(-3).join('; ')}`,
    );
  }
}
/** A tool was ended after too long a silence. */
export class ToolHung extends ToolFailed {}

const FULL = 'No space left on device';
/** Whether an error means that a disk is full. */
export const isDiskFull = (e: unknown): boolean =>
  (e instanceof ToolFailed && e.said.includes(FULL)) ||
  (e instanceof Error && (e as NodeJS.ErrnoException).code === 'ENOSPC');

/** The output of a tool. */
export interface Ran {
  readonly out: Buffer;
  readonly said: string;
}

/** Longest silence of a tool before it counts as hung, ms. */
const QUIET = 60_000;

/**
 * Runs a tool to its end. Throws `ToolFailed` if its status is not 0, `ToolHung` after too long a
 * silence. The signal ends it.
 */
export function run(
  tool: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  onLine?: (line: string) => void,
  signal?: AbortSignal,
  quiet = QUIET,
): Promise<Ran> {
  return new Promise((resolve, reject) => {
    const child = spawn(tool, [...GUARD[tool], ...args], {
      stdio: ['ignore', 'pipe', 'pipe'],
      killSignal: 'SIGKILL',
      ...(signal && { signal }),
    });
    const out: Buffer[] = [];
    let said = '',
      rest = '',
      hung = false;
    const end = () => {
      hung = true;
      child.kill('SIGKILL');
    };
    let timer = setTimeout(end, quiet);
    const alive = () => {
      clearTimeout(timer);
      timer = setTimeout(end, quiet);
    };
    child.stdout.on('data', (b: Buffer) => {
      alive();
      if (!onLine) {
        out.push(b);
        return;
      }
      const lines = (rest + b.toString()).split('\n');
      rest = lines.pop()!;
      lines.forEach(onLine);
    });
    child.stderr.on('data', (b: Buffer) => {
      alive();
      said = (said + b.toString()).slice(-20_000);
    });
    child.on('error', (e) => {
      clearTimeout(timer);
      reject(e);
    });
    child.on('close', (code) => {
      clearTimeout(timer);
      if (rest && onLine) onLine(rest);
      if (hung)
        reject(new ToolHung(tool, code, `${said}\nit said nothing for ${quiet / 1000} seconds`));
      else if (code === 0) resolve({ out: Buffer.concat(out), said });
      else reject(new ToolFailed(tool, code, said));
    });
  });
}

/**
 * ffmpeg's standard output in pieces of `size` bytes, each in its own memory. Ends ffmpeg when the
 * caller stops iterating. `rest`: also what is left at its end, which is shorter. Throws
 * `ToolFailed` if its status is not 0.
 */
export async function* streamed(
  args: readonly string[],
  size: number,
  signal?: AbortSignal,
  rest = false,
): AsyncGenerator<Buffer> {
  const child = spawn('ffmpeg', [...GUARD.ffmpeg, ...args], {
    stdio: ['ignore', 'pipe', 'pipe'],
    killSignal: 'SIGKILL',
    ...(signal && { signal }),
  });
  let said = '',
    failed: Error | undefined;
  child.stderr.on('data', (b: Buffer) => {
    said = (said + b.toString()).slice(-4000);
  });
  const ended = new Promise<number | null>((resolve) => {
    child.on('error', (e) => {
      failed = e;
      resolve(null);
    });
    child.on('close', resolve);
  });
  // Each piece is allocated at its final size, so nothing is copied twice and little garbage
  // remains.
  let piece = Buffer.allocUnsafeSlow(size),
    filled = 0,
    whole = false;
  try {
    for await (const chunk of child.stdout as AsyncIterable<Buffer>)
      for (let at = 0; at < chunk.length;) {
        const copied = chunk.copy(piece, filled, at);
        at += copied;
        filled += copied;
        if (filled < size) continue;
        yield piece;
        piece = Buffer.allocUnsafeSlow(size);
        filled = 0;
      }
    if (rest && filled > 0) yield piece.subarray(0, filled);
    whole = true;
  } finally {
    if (!whole) child.kill('SIGKILL');
  }
  const code = await ended;
  if (failed) throw failed;
  if (code !== 0) throw new ToolFailed('ffmpeg', code, said);
}

const GUARD = {
  ffmpeg: ['-hide_banner', '-nostdin', '-y', '-v', 'error'],
  ffprobe: ['-v', 'error'],
};
/**
 * Containers and picture formats that are read. Playlists and scripts, which can name other files,
 * are not.
 */
const FORMATS = [
  ...[
    'mov',
    'matroska',
    'avi',
    'mpegts',
    'mpeg',
    'mpegvideo',
    'mxf',
    'ogg',
    'asf',
    'flv',
    'nut',
    'ivf',
    'dv',
    'obu',
  ],
  ...['h264', 'hevc', 'm4v', 'mjpeg', 'yuv4mpegpipe', 'gif', 'apng', 'image2'],
  ...['png', 'jpeg', 'tiff', 'webp', 'bmp', 'exr', 'dpx'].map((f) => `${f}_pipe`),
  ...['wav', 'w64', 'aiff', 'au', 'caf', 'flac', 'mp3', 'aac', 'ac3', 'eac3', 'wv', 'tta', 'ape'],
].join();
const LOCAL = ['-protocol_whitelist', 'file,pipe', '-format_whitelist', FORMATS];
/** Options before each input. File names are taken literally: no options, protocols or patterns. */
export const input = (file: string, ...options: string[]): string[] => [
  ...LOCAL,
  ...options,
  '-i',
  `file:${file}`,
];
/** A file's name as an output: no protocol is read from it. */
export const output = (file: string): string => `file:${file}`;
/** A pattern of numbered files in a folder, whatever its name holds. */
export const patternIn = (folder: string, pattern: string): string =>
  join(folder.replaceAll('%', '%%'), pattern);
/** The same as an output. */
export const numberedIn = (folder: string, pattern: string): string =>
  output(patternIn(folder, pattern));
/** A line of a list of files to concatenate. */
export const listed = (file: string): string => `file 'file:${file.replaceAll("'", "'\\''")}'\n`;
/** An input that concatenates our own files. */
export const joined = (list: string, ...options: string[]): string[] => [
  '-protocol_whitelist',
  'file',
  '-f',
  'concat',
  '-safe',
  '0',
  ...options,
  '-i',
  output(list),
];

/** ffmpeg, fed frame by frame. `end` waits for it and throws its errors. */
export class Sink {
  private readonly child: ChildProcessWithoutNullStreams;
  private said = '';
  private readonly closed: Promise<number | null>;
  private broken = false;

  constructor(args: readonly string[]) {
    this.child = spawn('ffmpeg', ['-hide_banner', '-y', '-v', 'error', ...args]);
    this.child.stderr.on('data', (b: Buffer) => {
      this.said += b.toString();
    });
    this.child.stdin.on('error', () => {
      this.broken = true;
    });
    this.closed = new Promise((resolve, reject) => {
      this.child.on('close', resolve);
      this.child.on('error', reject);
    });
    // Awaited later by `end`; without this an early failure would be unhandled.
    this.closed.catch(() => {});
  }
  async write(b: Uint8Array): Promise<void> {
    if (this.broken) return this.end();
    if (!this.child.stdin.write(b))
      await Promise.race([new Promise((r) => this.child.stdin.once('drain', r)), this.closed]);
  }
  async end(): Promise<void> {
    this.child.stdin.end();
    const code = await this.closed;
    if (code !== 0) throw new ToolFailed('ffmpeg', code, this.said);
  }
  kill(): void {
    this.child.kill('SIGKILL');
  }
}
