import { execFile } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { STEPS } from '../core';
import { made, scratch, sweep } from '../server/testing/awkward';
import { cli } from './testing';

const folder = scratch();
afterAll(() => sweep(folder));
let clip: string;
beforeAll(async () => {
  clip = await made(
    folder,
    'clip.mkv',
    ['-c:v', 'libx264', '-qp', '0', '-pix_fmt', 'yuv420p', '-c:a', 'flac'],
    {
      size: '122x70',
      rate: '30000/1001',
      sound: true,
    },
  );
});

const run = promisify(execFile);
const hashes = async (file: string): Promise<string> =>
  (
    await run('ffmpeg', ['-v', 'error', '-i', file, '-map', '0:v', '-f', 'framemd5', '-'])
  ).stdout.replace(/^#.*\n/gm, '');

describe('render', () => {
  it('keeps rate, count and sound, and gives identical pixels twice and on one or two threads', async () => {
    const out = (n: string) => join(folder, n);
    for (const [name, threads] of [
      ['a.mkv', '1'],
      ['b.mkv', '2'],
      ['c.mkv', '2'],
    ] as const)
      expect(
        (
          await cli(
            'render',
            '--look',
            'soft-lens',
            '--in',
            clip,
            '--out',
            out(name),
            '--threads',
            threads,
          )
        ).code,
      ).toBe(0);
    const first = await hashes(out('a.mkv'));
    expect(first.split('\n').length).toBeGreaterThan(59);
    expect(await hashes(out('b.mkv'))).toBe(first);
    expect(await hashes(out('c.mkv'))).toBe(first);
    const facts = JSON.parse((await cli('probe', '--in', out('a.mkv'), '--json')).out) as Record<
      string,
      unknown
    >;
    expect(facts).toMatchObject({
      frames: 60,
      rate: [30000, 1001],
      codec: 'ffv1',
      sound: { codec: 'flac' },
    });
  });

  it.each(['attic-reel', 'third-dub', 'spool-back', 'ghost-tide', 'slow-breath'])(
    'gives frames of %s the same in one piece and in parts, with all that happens on them',
    async (look) => {
      const [whole, part] = ['whole', 'part'].map((n) => join(folder, `${look}-${n}`)) as [
        string,
        string,
      ];
      // At its own speed, so that the clip keeps its length.
      const still = look === 'spool-back' ? ['--dial', 'speed=100'] : [];
      const asked = ['--look', look, '--in', clip, '--size', '160x120', ...still];
      expect((await cli('render', ...asked, '--out', whole, '--frames', '20-29')).code).toBe(0);
      expect(
        (await cli('render', ...asked, '--out', part, '--frames', '26-29', '--threads', '1')).code,
      ).toBe(0);
      const seen = new Set<string>();
      for (const n of [26, 27, 28, 29]) {
        const name = `${String(n).padStart(6, '0')}.png`;
        const hash = await hashes(join(part, name));
        expect(await hashes(join(whole, name))).toBe(hash);
        seen.add(hash);
      }
      expect(seen.size).toBe(4);
    },
  );

  it('renders a stretch of a file as a clip of its own, whose past is the file’s', async () => {
    const [part, cut, whole] = ['stretch', 'cut', 'stretch-of-whole'].map((n) =>
      join(folder, n),
    ) as [string, string, string];
    const asked = ['--step', 'trail count=2 spacing=3', '--in', clip, '--size', '160x120'];
    expect((await cli('render', ...asked, '--out', whole, '--frames', '20-29')).code).toBe(0);
    expect((await cli('render', ...asked, '--out', part, '--in-out', '20-29')).code).toBe(0);
    expect(
      (await cli('render', ...asked, '--out', cut, '--in-out', '20-29', '--cuts', '20')).code,
    ).toBe(0);
    const at = (folder: string, n: number) =>
      hashes(join(folder, `${String(n).padStart(6, '0')}.png`));
    for (const n of [0, 2, 9]) expect(await at(part, n)).toBe(await at(whole, 20 + n));
    // A trail does not reach across a cut. Three frames after it, the frames before lie in the same
    // shot.
    expect(await at(cut, 1)).not.toBe(await at(part, 1));
    expect(await at(cut, 3)).toBe(await at(part, 3));
    expect((await cli('render', ...asked, '--out', part, '--in-out', '20-60')).err).toMatch(
      /--in-out ends at 60, but the footage has frames 0-59/,
    );
  });

  it('returns 16-bit pictures unchanged through a neutral step', async () => {
    const pictures = join(folder, 'in');
    await cli(
      'render',
      '--step',
      'exposure stops=0',
      '--in',
      clip,
      '--out',
      pictures,
      '--frames',
      '3-5',
      '--out-encoding',
      'srgb',
    );
    expect(readdirSync(pictures)).toEqual(['000003.png', '000004.png', '000005.png']);
    const again = join(folder, 'again');
    expect(
      (await cli('render', '--step', 'exposure stops=0', '--in', pictures, '--out', again)).code,
    ).toBe(0);
    expect(await hashes(join(again, '000000.png'))).toBe(
      await hashes(join(pictures, '000003.png')),
    );
  });

  it.each([
    ['png', 0],
    // FFmpeg converts this to 8 bits for the test, and FFmpeg truncates.
    ['mkv', 1],
    ['webm', 6],
  ] as const)(
    'keeps a half-covering picture half covering in %s, counted once, where it is asked to',
    async (kind, off) => {
      const half = join(folder, 'half.png');
      await run('ffmpeg', [
        '-y',
        '-f',
        'lavfi',
        '-i',
        'color=0xff8000@0.5:s=64x32,format=rgba',
        '-frames:v',
        '1',
        half,
      ]);
      const out = join(folder, kind === 'png' ? 'half-kept' : `half-kept.${kind}`);
      const done = await cli(
        'render',
        '--step',
        'exposure stops=0',
        '--in',
        half,
        '--out',
        out,
        '--coverage',
        ...(kind === 'png' ? ['--depth', '8'] : []),
      );
      expect(done.err).toBe('');
      const decoder = kind === 'webm' ? ['-c:v', 'libvpx-vp9'] : [];
      const read = [
        '-v',
        'error',
        ...decoder,
        '-i',
        kind === 'png' ? join(out, '000000.png') : out,
        '-frames:v',
        '1',
        '-f',
        'rawvideo',
        '-pix_fmt',
        'rgba',
        '-',
      ];
      const { stdout } = await run('ffmpeg', read, { encoding: 'buffer' });
      const pixel = [
        ...(stdout as unknown as Buffer).subarray(4 * (16 * 64 + 32), 4 * (16 * 64 + 33)),
      ];
      [255, 128, 0, 127.5].forEach((v, i) =>
        expect(Math.abs(pixel[i]! - v)).toBeLessThanOrEqual(off + 0.5),
      );
    },
  );

  it('says which files cannot carry coverage', async () => {
    const { code, err } = await cli(
      'render',
      '--step',
      'exposure stops=0',
      '--in',
      clip,
      '--out',
      join(folder, 'no.mp4'),
      '--coverage',
    );
    expect([code, err]).toEqual([2, expect.stringMatching(/mp4 cannot carry coverage/)]);
  });

  it('takes dials, seeds and sizes, and a look from a file', async () => {
    const look = join(folder, 'look.json');
    writeFileSync(look, readFileSync('core/look/shipped/silt.json'));
    const out = join(folder, 'small.mp4');
    expect(
      (
        await cli(
          'render',
          '--look',
          look,
          '--in',
          clip,
          '--out',
          out,
          '--size',
          '64x64',
          '--dial',
          'drain=20',
          '--seed',
          '5',
          '--frames',
          '0-9',
        )
      ).code,
    ).toBe(0);
    const facts = JSON.parse((await cli('probe', '--in', out, '--json')).out) as Record<
      string,
      unknown
    >;
    expect(facts).toMatchObject({
      frames: 10,
      codec: 'h264',
      format: { width: 64, height: 64 },
      sound: { codec: 'aac' },
    });
  });
});

describe('wrong input', () => {
  it.each([
    ['an unknown step', ['--step', 'sparkle'], /no step "sparkle".*exposure/],
    ['an unknown parameter', ['--step', 'exposure ev=1'], /no parameter "ev".*stops/],
    ['a value out of range', ['--step', 'exposure stops=99'], /from -10 to 10/],
    ['an unknown look', ['--look', 'nope'], /no look "nope".*soft-lens/],
    ['an unknown dial', ['--look', 'silt', '--dial', 'sparkle=1'], /no dial "sparkle"/],
    ['a range beyond the end', ['--look', 'silt', '--frames', '0-60'], /frames 0-59/],
    ['neither look nor step', [], /either --look or/],
    ['an unknown option', ['--look', 'silt', '--sparkle', '1'], /unknown option '--sparkle'/],
  ] as const)('%s ends in one line and code 2, leaving nothing', async (_, args, message) => {
    const out = join(folder, 'never.mkv');
    const ended = await cli('render', '--in', clip, '--out', out, ...args);
    expect(ended.code).toBe(2);
    expect(ended.err.trim().split('\n')).toHaveLength(1);
    expect(ended.err).toMatch(message);
    expect(existsSync(out)).toBe(false);
    expect(readdirSync(folder).filter((n) => n.includes('never'))).toEqual([]);
  });
});

describe('footage beside, and framing', () => {
  it('counts the start of other footage from a cue, and leaves the clip alone before it', async () => {
    const strength = {
      key: 'strength',
      label: 'Strength',
      kind: 'number',
      min: 0,
      max: 100,
      unit: '%',
      value: 100,
    };
    const layer = {
      key: 'a',
      name: 'a',
      on: true,
      source: 'footage',
      from: 'other',
      blend: 'normal',
      opacity: { value: 100 },
      steps: [],
    };
    const pins = [
      { key: 'strike', label: 'Strike', kind: 'cue', many: false },
      { key: 'other', label: 'Other', kind: 'footage', many: false },
    ];
    const look = join(folder, 'beside.json');
    writeFileSync(
      look,
      JSON.stringify({
        schema: 2,
        name: 'Beside',
        seed: 1,
        bedrock: true,
        layers: [layer],
        dials: [strength],
        pins,
      }),
    );
    const frames = async (out: string, ...words: string[]): Promise<string[]> => {
      const ended = await cli(
        'render',
        '--in',
        clip,
        '--out',
        join(folder, out),
        '--frames',
        '0-3',
        ...words,
      );
      expect(ended.err).toBe('');
      return (await hashes(join(folder, out)))
        .trim()
        .split('\n')
        .map((l) => l.split(',').at(-1)!.trim());
    };
    // Without a value for the pin the clip itself is used.
    const own = await frames('own.mkv', '--look', look);
    const beside = await frames(
      'beside.mkv',
      '--look',
      look,
      '--pin',
      'strike=2',
      '--pin',
      `other=${clip},end,at=strike`,
    );
    expect(new Set(own).size).toBe(4);
    const clear = await frames('clear.mkv', '--look', look, '--pin', `other=${clip}@999,end`);
    expect(beside).toEqual([clear[0], clear[1], own[0], own[1]]);
    // The footage is placed as the clip's own pin says.
    const near = await frames('near.mkv', '--look', look, '--pin', `other=${clip},lies=40:50:150`);
    expect(near).toEqual(
      await frames('own-near.mkv', '--look', look, '--fit', 'fill', '--reframe', '40,50,150'),
    );
    // Reframed to its own centre at its own size, a clip stays as it is.
    expect(await frames('same.mkv', '--look', look, '--fit', 'fill', '--reframe', '50,50')).toEqual(
      own,
    );
    expect((await frames('closer.mkv', '--look', look, '--reframe', '40,50,150'))[0]).not.toBe(
      own[0],
    );
  });
  it.each([
    [['--reframe', '50'], /^--reframe must be like 40,50/],
    [['--reframe', '50,50,5'], /^--reframe must be like 40,50/],
    [
      ['--look', 'two-shores', '--pin', 'second=x.mp4,sideways'],
      /^--pin second: "sideways" is none of again/,
    ],
    [
      ['--look', 'two-shores', '--pin', 'second=x.mp4,lies=40:50:5'],
      /^--pin second: "lies=40:50:5" is none of again/,
    ],
  ])('refuses %j in one line', async (words, message) => {
    const out = join(folder, 'refused.mkv');
    const look = words.includes('--look') ? [] : ['--look', 'silt'];
    const ended = await cli('render', ...look, '--in', clip, '--out', out, ...words);
    expect(ended.code).toBe(2);
    expect(ended.err).toMatch(message);
    expect(ended.err.trim().split('\n')).toHaveLength(1);
    expect(existsSync(out)).toBe(false);
  });
});

it('lists every step as JSON', async () => {
  expect(
    (JSON.parse((await cli('steps', '--json')).out) as { id: string }[]).map((s) => s.id),
  ).toEqual(STEPS.map((s) => s.id));
});

describe('inspect', () => {
  it('flags a strobe of five flashes a second in a real file, and what a look clips', async () => {
    const strobe = join(folder, 'strobe.mkv');
    await run('ffmpeg', [
      ...[
        '-v',
        'error',
        '-f',
        'lavfi',
        '-i',
        "color=gray:s=64x36:r=25:d=2,geq=lum='if(lt(mod(T*5,1),0.5),30,220)':cb=128:cr=128",
      ],
      ...['-c:v', 'ffv1', strobe],
    ]);
    const plain = await cli('inspect', '--step', 'exposure stops=0', '--in', strobe, '--json');
    expect(plain.code).toBe(0);
    const { frames, flags } = JSON.parse(plain.out) as {
      frames: number;
      flags: { kind: string; worst: number; last: number }[];
    };
    expect(frames).toBe(50);
    expect(flags).toEqual([expect.objectContaining({ kind: 'general-flashes', worst: 5 })]);
    const bright = await cli('inspect', '--step', 'exposure stops=4', '--in', strobe);
    expect(bright.out).toMatch(/^clipped +frames \d+-\d+, up to 100\.0 % of the picture/m);
    const calm = await cli('inspect', '--step', 'monochrome', '--in', clip);
    expect(calm.out).not.toContain('flashes');
  });

  it('answers wrong words in one line', async () => {
    const wrong = await cli('inspect', '--look', 'silt', '--in', clip, '--encoding', 'sepia');
    expect(wrong).toMatchObject({ code: 2, err: 'there is no encoding "sepia"\n' });
  });
});
