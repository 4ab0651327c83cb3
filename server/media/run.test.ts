import { describe, expect, it } from 'vitest';
import { inPlainWords, isDiskFull, run, ToolFailed, ToolHung } from './run';

describe('what a tool says', () => {
  it('is told without addresses in memory and without paths of the machine', () => {
    const said =
      "[mov,mp4,m4a @ 0x55dc80e1bb80] moov atom not found\nfile:/work/data/incoming/3f/000000.mp4: Invalid data found\n'/var/lib/x/y.mkv' is short";
    expect(inPlainWords(said)).toBe(
      "moov atom not found\n000000.mp4: Invalid data found\n'y.mkv' is short",
    );
    expect(new ToolFailed('ffmpeg', 1, said).message).not.toMatch(/0x|\/work|\/var/);
  });
  it('of a full disk is known, from a tool or from the system', () => {
    expect(
      isDiskFull(
        new ToolFailed('ffmpeg', 1, 'av_interleaved_write_frame(): No space left on device'),
      ),
    ).toBe(true);
    expect(isDiskFull(Object.assign(new Error('write'), { code: 'ENOSPC' }))).toBe(true);
    expect(isDiskFull(new ToolFailed('ffmpeg', 1, 'moov atom not found'))).toBe(false);
  });
});

describe('running a tool', () => {
  it('that says nothing for too long is ended, and told so', async () => {
    const endless = ['-re', '-f', 'lavfi', '-i', 'anullsrc', '-f', 'null', '-'];
    await expect(run('ffmpeg', endless, undefined, undefined, 400)).rejects.toBeInstanceOf(
      ToolHung,
    );
  });
  it('ends with its signal', async () => {
    const stop = new AbortController();
    setTimeout(() => stop.abort(), 200);
    await expect(
      run(
        'ffmpeg',
        ['-re', '-f', 'lavfi', '-i', 'anullsrc', '-f', 'null', '-'],
        undefined,
        stop.signal,
      ),
    ).rejects.toThrow(/abort/i);
  });
  it('reads no more kinds of file than are known, nor other protocols', async () => {
    const { input } = await import('./run');
    await expect(run('ffprobe', [...input('/dev/null', '-f', 'hls')])).rejects.toBeInstanceOf(
      ToolFailed,
    );
    expect(input('a:b.mp4').at(-1)).toBe('file:a:b.mp4');
    expect(input('-x.mp4').at(-1)).toBe('file:-x.mp4');
  });
});
