import { execFile, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, describe, expect, it } from 'vitest';
import { cubeValue, stepOf, withDefaults } from '../core';
import { Engine } from '../core/engine';
import { leafOf, randomFrom } from '../core/testing';
import { parseCube, writeCube } from '../core/formats';
import { lowerStep } from '../core/steps';
import { scratch, sweep } from '../server/testing/awkward';
import { cli } from './testing';

const folder = scratch();
afterAll(() => sweep(folder));
const run = promisify(execFile);

describe('a cube', () => {
  it('applied here and by ffmpeg in floats differs by less than 1e-5', () => {
    const random = randomFrom(8);
    const n = 33,
      [w, h] = [96, 64];
    const colours = Float32Array.from({ length: n ** 3 * 3 }, random);
    const cube = cubeValue('random', '3d', n, colours);
    const file = join(folder, 'random.cube');
    writeFileSync(file, writeCube(cube, colours));
    const [r, g, b] = [0, 1, 2].map(() => Float32Array.from({ length: w * h }, random)) as [
      Float32Array,
      Float32Array,
      Float32Array,
    ];
    // ffmpeg keeps planes in the order green, blue, red.
    const raw = (planes: Float32Array[]) => Buffer.concat(planes.map((p) => Buffer.from(p.buffer)));
    const shape = ['-f', 'rawvideo', '-pix_fmt', 'gbrpf32le'];
    const made = spawnSync(
      'ffmpeg',
      [
        '-v',
        'error',
        ...shape,
        '-s',
        `${w}x${h}`,
        '-i',
        '-',
        '-vf',
        `lut3d=file=${file}:interp=tetrahedral`,
        ...shape,
        '-',
      ],
      { input: raw([g, b, r]), maxBuffer: 1 << 26 },
    );
    expect(made.stderr.toString()).toBe('');
    const theirs = new Float32Array(new Uint8Array(made.stdout).buffer);
    const engine = new Engine({ limit: 1 << 27, helpers: 0 });
    const lut = stepOf('lut')!;
    const image = engine.compute(
      lowerStep(lut, leafOf([r, g, b], w, h, 'encoded'), withDefaults(lut, { lut: cube }), 1, {
        frame: 0,
        seconds: 0,
        rate: [25, 1] as const,
        seed: 1,
        width: w,
        height: h,
      }),
    );
    [2, 0, 1].forEach((theirPlane, p) =>
      engine.memory
        .plane(image, p)
        .forEach((v, i) =>
          expect(Math.abs(v - theirs[theirPlane * w * h + i]!)).toBeLessThan(1e-5),
        ),
    );
  });
});

describe('bake-lut', () => {
  const grade = ['--step', 'contrast amount=20', '--step', 'saturation amount=80'];

  it('writes a cube of the size asked for and says how exact it is', async () => {
    const out = join(folder, 'grade.cube');
    const { code, out: said } = await cli('bake-lut', ...grade, '--size', '17', '--out', out);
    expect(code).toBe(0);
    expect(said).toMatch(
      /17×17×17, largest error found at \d{6} places 0\.0000\d of the code range/,
    );
    const read = parseCube(readFileSync(out, 'utf8'));
    expect('value' in read && read.value.size).toBe(17);
  });

  it('and rendered through the LUT step gives the look itself within a code value', async () => {
    const picture = join(folder, 'in.png'),
      cube = join(folder, 'again.cube');
    await run('ffmpeg', [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=64x36',
      '-frames:v',
      '1',
      '-pix_fmt',
      'rgb24',
      picture,
    ]);
    await cli('bake-lut', ...grade, '--out', cube);
    const pixels = async (name: string, ...steps: string[]): Promise<Buffer> => {
      const out = join(folder, name);
      expect(
        await cli('render', ...steps, '--in', picture, '--out', out, '--depth', '16'),
      ).toMatchObject({ code: 0 });
      return (
        await run(
          'ffmpeg',
          [
            '-v',
            'error',
            '-i',
            join(out, '000000.png'),
            '-f',
            'rawvideo',
            '-pix_fmt',
            'rgb48le',
            '-',
          ],
          { encoding: 'buffer' },
        )
      ).stdout;
    };
    const [direct, through] = [
      await pixels('direct', ...grade),
      await pixels('through', '--step', `lut lut=${cube}`),
    ];
    let most = 0;
    for (let i = 0; i < direct.length; i += 2)
      most = Math.max(most, Math.abs(direct.readUInt16LE(i) - through.readUInt16LE(i)));
    expect(direct.length).toBe(64 * 36 * 6);
    expect(most).toBeLessThan(257);
  });

  it('names the steps that look at more than a colour, and writes nothing', async () => {
    const out = join(folder, 'not.cube');
    const { code, err } = await cli('bake-lut', '--look', 'soft-lens', '--out', out);
    expect(code).toBe(2);
    expect(err).toMatch(
      /Soft Lens cannot be baked to a cube: glass: Blur, glass: Lens bend, bloom: Glow, .*frame: Vignette, frame: Grain, bars: its mattes look at more/,
    );
    expect(existsSync(out)).toBe(false);
  });

  it('refuses a damaged table in one line that names the line', async () => {
    const bad = join(folder, 'bad.cube');
    writeFileSync(bad, 'LUT_3D_SIZE 2\n0 0 0\n1 oops 0\n');
    const { code, err } = await cli(
      'bake-lut',
      '--step',
      `lut lut=${bad}`,
      '--out',
      join(folder, 'x.cube'),
    );
    expect(code).toBe(2);
    expect(err.trim()).toBe(`${bad}, line 3: "oops" is no number`);
  });
});
