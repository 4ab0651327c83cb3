/** Child processes with argument arrays, never a shell; inputs are local files only. */
import { type ChildProcessWithoutNullStreams, spawn } from 'node:child_process';

export class ToolFailed extends Error {
  constructor(
    readonly tool: string,
    readonly code: number | null,
    readonly said: string,
  ) {
    super(`${tool} ended with ${code ?? 'a signal'}: ${said.trim().split('\n').slice(-3).join('; ')}`);
  }
}

export interface Ran {
  readonly out: Buffer;
  readonly said: string;
}

/** Runs a tool to its end. Throws `ToolFailed` when it does not end with 0. */
export function run(tool: 'ffmpeg' | 'ffprobe', args: readonly string[], onLine?: (line: string) => void, signal?: AbortSignal): Promise<Ran> {
  return new Promise((resolve, reject) => {
    const child = spawn(tool, [...GUARD[tool], ...args], { stdio: ['ignore', 'pipe', 'pipe'], ...(signal && { signal }) });
    const out: Buffer[] = [];
    let said = '',
      rest = '';
    child.stdout.on('data', (b: Buffer) => {
      if (!onLine) {
        out.push(b);
        return;
      }
      const lines = (rest + b.toString()).split('\n');
      rest = lines.pop()!;
      lines.forEach(onLine);
    });
    child.stderr.on('data', (b: Buffer) => {
      said = (said + b.toString()).slice(-20_000);
    });
    child.on('error', reject);
    child.on('close', (code) => {
      if (rest && onLine) onLine(rest);
      if (code === 0) resolve({ out: Buffer.concat(out), said });
      else reject(new ToolFailed(tool, code, said));
    });
  });
}

const LOCAL = ['-protocol_whitelist', 'file,pipe,concat'];
const GUARD = { ffmpeg: ['-hide_banner', '-nostdin', '-y', '-v', 'error'], ffprobe: ['-v', 'error', ...LOCAL] };
/** Goes before each input. */
export const input = (file: string, ...options: string[]): string[] => [...LOCAL, ...options, '-i', file.startsWith('-') ? `./${file}` : file];

/** ffmpeg fed frame by frame; `end` waits for it and throws what it said. */
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
  }
  async write(b: Uint8Array): Promise<void> {
    if (this.broken) return this.end();
    if (!this.child.stdin.write(b)) await Promise.race([new Promise((r) => this.child.stdin.once('drain', r)), this.closed]);
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
