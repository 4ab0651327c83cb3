/** What the command line writes: never over what it reads, whole pictures, sound in step, true tags. */
import { execFile } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  copyFileSync,
  existsSync,
  linkSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  symlinkSync,
} from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { made, scratch, sweep } from '../server/testing/awkward';
import { rateFrom } from './render-options';
import { cli } from './testing';

const folder = scratch();
afterAll(() => sweep(folder));
const at = (name: string): string => join(folder, name);
const run = promisify(execFile);
const digest = (file: string) => createHash('sha256').update(readFileSync(file)).digest('hex');
const PLAIN = ['--step', 'exposure stops=1'];
/** What ffprobe says of a file's streams. */
const streams = async (file: string): Promise<Record<string, string>[]> =>
  (
    JSON.parse(
      (await run('ffprobe', ['-v', 'error', '-show_streams', '-of', 'json', file])).stdout,
    ) as { streams: Record<string, string>[] }
  ).streams;

let clip: string;
beforeAll(async () => {
  const checked = ['-c:v', 'ffv1', '-level', '3', '-slicecrc', '1', '-c:a', 'flac'];
  clip = await made(folder, 'clip.mkv', checked, {
    size: '64x36',
    seconds: 0.6,
    sound: true,
  });
});

describe('footage is never replaced', () => {
  it('by its own name, a symbolic link to it, or a second name of it', async () => {
    const before = digest(clip);
    symlinkSync(clip, at('link.mkv'));
    linkSync(clip, at('twin.mkv'));
    for (const out of [clip, at('link.mkv'), at('twin.mkv')]) {
      const { code, err } = await cli('render', ...PLAIN, '--in', clip, '--out', out);
      expect([code, err]).toEqual([2, expect.stringMatching(/which is read: give another name/)]);
    }
    const through = await cli('render', ...PLAIN, '--in', at('link.mkv'), '--out', clip);
    expect(through.code).toBe(2);
    expect(digest(clip)).toBe(before);
  });

  it('by pictures written among those that are read, or among a plate’s', async () => {
    const pictures = at('pictures');
    await cli('render', ...PLAIN, '--in', clip, '--out', pictures, '--frames', '0-2');
    const before = readdirSync(pictures).map((n) => digest(join(pictures, n)));
    symlinkSync(pictures, at('elsewhere'));
    const refused = /holds "00000\d\.png", which is read: give another folder/;
    for (const [read, out] of [
      [pictures, pictures],
      [pictures, at('elsewhere')],
      [join(pictures, '000001.png'), pictures],
    ] as const) {
      const { code, err } = await cli('render', ...PLAIN, '--in', read, '--out', out);
      expect([code, err]).toEqual([2, expect.stringMatching(refused)]);
    }
    const shores = ['--look', 'two-shores', '--in', clip, '--out', pictures];
    const plate = await cli('render', ...shores, '--pin', `second=${join(pictures, '000000.png')}`);
    expect([plate.code, plate.err]).toEqual([2, expect.stringMatching(refused)]);
    expect(readdirSync(pictures).map((n) => digest(join(pictures, n)))).toEqual(before);
  });

  it('by a folder whose pictures are links to it', async () => {
    const still = at('still.png');
    await run('ffmpeg', ['-v', 'error', '-i', clip, '-frames:v', '1', still]);
    mkdirSync(at('links'));
    symlinkSync(still, at('links/000000.png'));
    const { code } = await cli('render', ...PLAIN, '--in', still, '--out', at('links'));
    expect(code).toBe(2);
  });
});

it('writes to names with quotes, per cent signs and spaces', async () => {
  const dir = at("o'brien 50%d data");
  mkdirSync(dir);
  copyFileSync(clip, join(dir, "it's 5%.mkv"));
  const read = join(dir, "it's 5%.mkv");
  for (const name of ["out 100%d's.mkv", "pictures %02d o'clock"]) {
    const out = join(dir, name);
    const done = await cli('render', ...PLAIN, '--in', read, '--out', out, '--frames', '0-2');
    expect(done).toMatchObject({ code: 0, err: '' });
    expect(existsSync(out)).toBe(true);
  }
  expect(readdirSync(join(dir, "pictures %02d o'clock"))).toHaveLength(3);
  const again = await cli(
    'render',
    ...PLAIN,
    '--in',
    join(dir, "pictures %02d o'clock"),
    '--out',
    at('again.mkv'),
  );
  expect(again.out).toMatch(/^3 frames/);
});

it('writes anamorphic footage in square pixels, with every row and column', async () => {
  for (const [size, sar, out] of [
    ['72x58', '64/45', '102x58'],
    ['72x58', '8/9', '72x66'],
  ] as const) {
    const wide = await made(folder, `sar-${size}.mkv`, ['-vf', `setsar=${sar}`, '-c:v', 'ffv1'], {
      size,
      seconds: 0.2,
    });
    const done = await cli('render', ...PLAIN, '--in', wide, '--out', at('square.mp4'));
    expect(done.out).toMatch(new RegExp(`of ${out} written`));
    // No bars: the first column and the first row hold picture.
    const args = ['-v', 'error', '-i', at('square.mp4'), '-frames:v', '1', '-pix_fmt', 'gray'];
    const { stdout } = await run('ffmpeg', [...args, '-f', 'rawvideo', '-'], {
      encoding: 'buffer',
    });
    const [w, h] = out.split('x').map(Number) as [number, number];
    const picture = stdout as unknown as Buffer;
    const bright = (all: number[]) => Math.max(...all);
    expect(bright(Array.from({ length: h }, (_, y) => picture[y * w]!))).toBeGreaterThan(40);
    expect(bright(Array.from({ length: w }, (_, x) => picture[x]!))).toBeGreaterThan(40);
  }
});

describe('rates', () => {
  it('are whole, fractions, or their common names', () => {
    expect(rateFrom('25')).toEqual([25, 1]);
    expect(rateFrom('24000/1001')).toEqual([24000, 1001]);
    expect(rateFrom('23.976')).toEqual([24000, 1001]);
    expect(rateFrom('29.97')).toEqual([30000, 1001]);
    expect(rateFrom('12.5')).toEqual([12500, 1000]);
    for (const wrong of ['0', '300', 'fast', '1/0', '-25']) expect(() => rateFrom(wrong)).toThrow();
  });
});

describe('ten bits', () => {
  it.each([
    ['pq', 'smpte2084'],
    ['hlg', 'arib-std-b67'],
  ] as const)(
    'are what %s has in H.264 and VP9, by the matrix of BT.2020, and the tags agree',
    async (encoding, transfer) => {
      for (const name of ['deep.mp4', 'deep.webm']) {
        const out = at(name);
        const asked = ['--encoding', encoding, '--out-encoding', encoding, '--frames', '0-2'];
        const grey = await made(
          folder,
          'grey.mkv',
          ['-vf', 'geq=r=X*4:g=128:b=Y*4', '-c:v', 'ffv1', '-pix_fmt', 'gbrp'],
          { size: '64x64', seconds: 0.2 },
        );
        expect(
          (await cli('render', '--step', 'exposure stops=0', '--in', grey, '--out', out, ...asked))
            .code,
        ).toBe(0);
        expect((await streams(out))[0]).toMatchObject({
          ...{ pix_fmt: 'yuv420p10le', color_transfer: transfer },
          ...{ color_primaries: 'bt2020', color_space: 'bt2020nc' },
        });
        // Read back by FFmpeg with its tags, the picture is the one that went in.
        const read = [
          '-v',
          'error',
          '-i',
          out,
          '-frames:v',
          '1',
          '-vf',
          'scale=in_color_matrix=bt2020:in_range=tv:out_range=pc,format=gbrp',
          '-f',
          'rawvideo',
          '-',
        ];
        const { stdout } = await run('ffmpeg', read, { encoding: 'buffer' });
        const [g, b, r] = [0, 1, 2].map(
          (p) => (stdout as unknown as Buffer)[p * 4096 + 20 * 64 + 32]!,
        );
        expect(Math.abs(r! - 128)).toBeLessThanOrEqual(4);
        expect(Math.abs(g! - 128)).toBeLessThanOrEqual(4);
        expect(Math.abs(b! - 80)).toBeLessThanOrEqual(4);
      }
    },
  );

  it('with coverage are refused in WebM, with what to choose', async () => {
    const words = ['--in', clip, '--encoding', 'pq', '--coverage', '--out', at('no.webm')];
    const { code, err } = await cli('render', ...PLAIN, ...words);
    expect([code, err]).toEqual([2, expect.stringMatching(/choose mkv or png/)]);
  });
});

describe('sound', () => {
  it('of 5.1 channels beside the listener goes into every container', async () => {
    const source = at('around.mkv');
    await run('ffmpeg', [
      ...['-v', 'error', '-i', clip, '-f', 'lavfi', '-i', 'anoisesrc=d=0.6:a=0.1'],
      ...['-filter_complex', '[1:a]pan=5.1(side)|FL=c0|FR=c0|FC=c0|LFE=c0|SL=c0|SR=c0[a]'],
      ...['-map', '0:v', '-map', '[a]', '-c:v', 'copy', '-c:a', 'flac', source],
    ]);
    for (const name of ['a.webm', 'a.mkv', 'a.mp4']) {
      const done = await cli(
        'render',
        ...PLAIN,
        '--in',
        source,
        '--out',
        at(name),
        '--frames',
        '0-9',
      );
      expect(done).toMatchObject({ code: 0, err: '' });
      expect((await streams(at(name)))[1]).toMatchObject({ codec_type: 'audio', channels: 6 });
    }
  });

  it('that is left out is said: all tracks but the first', async () => {
    const two = at('two.mkv');
    await run('ffmpeg', ['-v', 'error', '-i', clip, '-map', '0', '-map', '0:a', '-c', 'copy', two]);
    const render = (...words: string[]) =>
      cli('render', ...PLAIN, '--in', two, '--out', at('said.mkv'), ...words);
    expect((await render()).err).toMatch(/of 2 tracks of sound the first is taken/);
  });

  it('of a retimed clip goes along, to the sample, also of a part of it and after an in point', async () => {
    const HZ = 48_000,
      TONE = 1000;
    const hum = at('hum.mkv');
    await run('ffmpeg', [
      ...['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=s=96x54:r=25:d=2'],
      ...['-f', 'lavfi', '-i', `aevalsrc=0.5*sin(2*PI*${TONE}*t):s=${HZ}:d=2`],
      ...['-c:v', 'ffv1', '-c:a', 'pcm_f32le', hum],
    ]);
    const heard = async (name: string, ...words: string[]): Promise<Float32Array> => {
      const done = await cli('render', ...PLAIN, '--in', hum, '--out', at(name), ...words);
      expect(done.code, done.err).toBe(0);
      const { stdout } = await run(
        'ffmpeg',
        ['-v', 'error', '-i', at(name), '-map', '0:a', '-f', 'f32le', '-'],
        { encoding: 'buffer', maxBuffer: 1 << 26 },
      );
      const bytes = stdout as unknown as Buffer;
      return new Float32Array(
        bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length),
      );
    };
    const off = (sound: Float32Array, at: (n: number) => number): number => {
      let most = 0;
      for (let n = 500; n < sound.length - 500; n++)
        most = Math.max(most, Math.abs(sound[n]! - 0.5 * Math.sin(2 * Math.PI * at(n))));
      return most;
    };
    const half = (n: number) => (TONE * n) / 2 / HZ;
    const slow = await heard('slow.mkv', '--retime', '0:50');
    expect(slow).toHaveLength(4 * HZ);
    expect(off(slow, half)).toBeLessThan(1e-4);
    // Frames 10 to 29 begin 10 frames later.
    const part = await heard('part.mkv', '--retime', '0:50', '--frames', '10-29');
    expect(part).toHaveLength((20 * HZ) / 25);
    expect(off(part, (n) => half(n + (10 * HZ) / 25))).toBeLessThan(1e-4);
    // From frame 12 of the footage, at its double speed.
    const fast = await heard('fast.mkv', '--in-out', '12-49', '--retime', '12:200');
    expect(fast).toHaveLength((19 * HZ) / 25);
    expect(off(fast, (n) => TONE * (12 / 25 + (2 * n) / HZ))).toBeLessThan(1e-4);
  });

  it('has a loudness, also in a file that holds nothing else', async () => {
    const tone = at('tone.flac');
    await run('ffmpeg', [
      ...['-v', 'error', '-f', 'lavfi', '-i', 'sine=f=1000:r=44100:d=6'],
      ...['-af', 'volume=-5dB', '-ac', '2', tone],
    ]);
    // The source's amplitude is an eighth: −18.06 dB, of which a spread over two takes 3 dB off each.
    const found = await cli('loudness', '--in', tone, '--json');
    const { integrated, truePeak } = JSON.parse(found.out) as Record<string, number>;
    expect(Math.abs(integrated! + 26.07)).toBeLessThan(0.15);
    expect(Math.abs(truePeak! + 26.07)).toBeLessThan(0.15);
    expect((await cli('loudness', '--in', tone)).out).toMatch(/^−26\.\d LUFS, at most −26/);
    const none = await cli('loudness', '--in', 'demo/footage/gulls.mp4');
    expect([none.code, none.err]).toEqual([2, expect.stringContaining('has no sound')]);
  });

  it('has beats, counted as asked', async () => {
    const song = ['beats', '--in', 'demo/sounds/harbour-static.flac'];
    expect((await cli(...song, '--counted', 'half')).out).toMatch(
      /^100\.0 a minute, \d+ beats in \d+ bars, the first at 0\.\d+ s/,
    );
    const found = await cli(...song, '--json');
    const { tempo, beats } = JSON.parse(found.out) as { tempo: number; beats: number[] };
    expect(tempo).toBeCloseTo(60 / (beats[1]! - beats[0]!), 0);
    const silent = at('silent.wav');
    await run('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'anullsrc=d=5', silent]);
    expect((await cli('beats', '--in', silent)).out).toContain('no beats are found');
    const wrong = await cli(...song, '--counted', 'twice');
    expect([wrong.code, wrong.err]).toEqual([2, expect.stringContaining('half, each, double')]);
  });

  it('of AAC leaves the picture of a Matroska file at its first moment', async () => {
    const aac = at('aac.mp4');
    await run('ffmpeg', ['-v', 'error', '-i', clip, '-c:v', 'libx264', '-c:a', 'aac', aac]);
    expect((await cli('render', ...PLAIN, '--in', aac, '--out', at('aac.mkv'))).code).toBe(0);
    const [video, audio] = await streams(at('aac.mkv'));
    expect([Number(video!['start_time']), Number(audio!['start_time'])]).toEqual([0, 0]);
  });
});

it('finds cuts by itself, so that nothing between frames reaches over one', async () => {
  const cut = await made(
    folder,
    'cut.mkv',
    [
      '-vf',
      "geq=lum='if(lt(N,12),40+20*sin(X/3+N),200-40*sin(Y/2+N))':cb=128:cr=128",
      '-c:v',
      'ffv1',
    ],
    { size: '96x54', seconds: 1 },
  );
  const render = async (name: string, ...words: string[]) => {
    const asked = ['--retime', '0:50', '--between', 'motion', '--frames', '20-26', ...words];
    expect((await cli('render', ...PLAIN, '--in', cut, '--out', at(name), ...asked)).code).toBe(0);
    return readdirSync(at(name)).map((n) => digest(join(at(name), n)));
  };
  const found = await render('found');
  expect(found).toEqual(await render('given', '--cuts', '12'));
  expect(found).not.toEqual(await render('none', '--cuts', 'none'));
});
