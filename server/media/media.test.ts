import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { Engine } from '../../core/engine';
import { type FrameFormat, frameToLight, toCodes, wholeRgb } from '../../core';
import { cut, made, scratch, sweep } from '../testing/awkward';
import { frameOf, frames } from './decode';
import { type Footage, NotFootage, readAs } from './footage';
import { makeProgressive } from './progressive';
import { leave, placeOf } from './place';
import { probe } from './probe';
import { makeProxies, proxySize } from './proxies';
import { run } from './run';
import { drawVector } from './vector';

const folder = scratch();
afterAll(() => sweep(folder));

/** Hashes of the frames that ffmpeg decodes from the start, as the index has them. */
async function hashesFromStart(file: string, pixelFormat: string): Promise<string[]> {
  const { out } = await run('ffmpeg', [
    '-i',
    file,
    '-map',
    '0:v:0',
    '-fps_mode',
    'passthrough',
    '-pix_fmt',
    pixelFormat,
    '-f',
    'framemd5',
    '-',
  ]);
  return out
    .toString()
    .split('\n')
    .filter((l) => l && !l.startsWith('#'))
    .map((l) => l.split(',')[5]!.trim());
}
const hashOfFrame = (planes: readonly ArrayBufferView[]): string => {
  const h = createHash('md5');
  for (const p of planes) h.update(new Uint8Array(p.buffer, p.byteOffset, p.byteLength));
  return h.digest('hex');
};
async function expectExact(file: string, footage: Footage): Promise<void> {
  const place = await placeOf(file);
  const truth = await hashesFromStart(file, footage.pixelFormat);
  for (const n of [0, 1, 7, footage.frames - 1])
    expect(hashOfFrame((await frameOf(place, footage, n)).planes)).toBe(
      truth[footage.slots?.[n] ?? n],
    );
  await leave(place);
}

describe('footage as it is in the wild', () => {
  it.each([
    [
      'long groups of pictures',
      'long.mp4',
      ['-c:v', 'libx264', '-g', '250', '-bf', '3', '-pix_fmt', 'yuv420p'],
      {},
      [25, 1],
      50,
    ],
    [
      'a fractional rate with sound',
      'ntsc.mkv',
      ['-c:v', 'libx264', '-pix_fmt', 'yuv422p10le', '-c:a', 'flac'],
      { rate: '30000/1001', sound: true },
      [30000, 1001],
      60,
    ],
    [
      'odd sizes',
      'odd.mkv',
      ['-c:v', 'ffv1', '-pix_fmt', 'yuv444p'],
      { size: '97x55' },
      [25, 1],
      50,
    ],
    [
      'no index at all',
      'bare.h264',
      ['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-bf', '0', '-f', 'h264'],
      {},
      [25, 1],
      50,
    ],
    [
      'a transport stream',
      'stream.ts',
      ['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-g', '12', '-f', 'mpegts'],
      {},
      [25, 1],
      50,
    ],
    [
      '12-bit RGB',
      'rgb.mkv',
      ['-c:v', 'ffv1', '-pix_fmt', 'gbrp12le'],
      { size: '33x31' },
      [25, 1],
      50,
    ],
  ] as const)('reads %s frame by frame', async (_, name, output, options, rate, count) => {
    const file = await made(folder, name, output, options);
    const footage = await probe(file);
    expect(footage.frames).toBe(count);
    expect(footage.rate).toEqual(rate);
    expect(footage.sound !== null).toBe('sound' in options);
    if (footage.format.layout !== 'rgb') await expectExact(file, footage);
  });

  it('turns footage with a rotation flag upright', async () => {
    const flat = await made(folder, 'flat.mp4', ['-c:v', 'libx264', '-pix_fmt', 'yuv420p']);
    const turned = join(folder, 'turned.mp4');
    await run('ffmpeg', ['-i', flat, '-c', 'copy', '-metadata:s:v:0', 'rotate=90', turned]);
    const footage = await probe(turned);
    expect([footage.format.width, footage.format.height]).toEqual([64, 96]);
    await expectExact(turned, footage);
  });

  it('lays uneven footage onto a steady rate, each slot showing the latest frame at its centre', async () => {
    const file = await made(folder, 'uneven.mkv', [
      '-vf',
      "select='not(between(n,10,19))'",
      '-fps_mode',
      'vfr',
      '-c:v',
      'ffv1',
      '-pix_fmt',
      'yuv420p',
    ]);
    const footage = await probe(file);
    expect(footage.index.hashes).toHaveLength(40);
    expect(footage.rate).toEqual([25, 1]);
    expect(footage.frames).toBe(50);
    expect(footage.slots!.slice(8, 22)).toEqual([8, 9, 9, 9, 9, 9, 9, 9, 9, 9, 9, 9, 10, 11]);
    const place = await placeOf(file);
    const shown: string[] = [];
    for await (const raw of frames(place, footage, 8, 21)) shown.push(hashOfFrame(raw.planes));
    expect(shown).toEqual(footage.slots!.slice(8, 22).map((s) => footage.index.hashes[s]));
  });

  it('loses no frame of 25 a second whose times shake by 14 ms', async () => {
    const shaken = [
      '-vf',
      "settb=1/90000,setpts='(N/25+0.014*sin(N*1.7))/TB'",
      ...['-fps_mode', 'vfr', '-enc_time_base', '1/90000', '-video_track_timescale', '90000'],
      ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p'],
    ];
    const file = await made(folder, 'shaken.mp4', shaken, { seconds: 1 });
    const footage = await probe(file);
    expect([footage.rate, footage.frames, footage.slots]).toEqual([[25, 1], 25, undefined]);
    footage.index.times.forEach((t, i) =>
      expect(Math.abs(t - (i / 25 + 0.014 * Math.sin(i * 1.7)))).toBeLessThan(1 / 45_000),
    );
    await expectExact(file, footage);
  });

  it('takes a folder of pictures as a sequence in natural order', async () => {
    const pictures = join(folder, 'pictures');
    mkdirSync(pictures);
    await run('ffmpeg', [
      '-f',
      'lavfi',
      '-i',
      'testsrc2=size=320x240:rate=25:duration=0.48',
      '-pix_fmt',
      'rgb48be',
      join(pictures, 'shot_%d.png'),
    ]);
    const footage = await probe(pictures, { rate: [24, 1] });
    expect([footage.kind, footage.frames, footage.format.depth, footage.guess]).toEqual([
      'sequence',
      12,
      16,
      'srgb',
    ]);
    expect(footage.rate).toEqual([24, 1]);
    expect(new Set(footage.index.hashes).size).toBe(12);
  });

  it.each([
    ['a picture', 'cover.png', ['-frames:v', '1', '-pix_fmt', 'rgba']],
    [
      'a film in VP9',
      'cover.webm',
      ['-c:v', 'libvpx-vp9', '-pix_fmt', 'yuva420p', '-lossless', '1'],
    ],
    ['an animated picture', 'cover.apng', ['-f', 'apng', '-pix_fmt', 'rgba']],
    ['lossless film', 'cover.mov', ['-c:v', 'qtrle', '-pix_fmt', 'argb']],
  ] as const)(
    'reads the coverage of %s, and its proxy carries it below the picture',
    async (_, name, output) => {
      // Orange on the left of a line, transparent white on the right; in the proxy the line is
      // within a pixel.
      const inside = (a: number, b: number) => `if(lt(X,101),${a},${b})`;
      const orange = `format=gbrap,geq=r='${inside(220, 255)}':g='${inside(140, 255)}':b='${inside(30, 255)}':a='${inside(255, 0)}'`;
      const file = await made(folder, name, ['-vf', orange, ...output], {
        size: '240x1080',
        seconds: 0.12,
      });
      const footage = await probe(file);
      expect(footage.format.alpha).toBe(true);
      const place = await placeOf(file);
      const cover = (await frameOf(place, footage, footage.frames - 1)).planes[3]!;
      expect([cover[0], cover[100], cover[101], cover[239]]).toEqual([255, 255, 0, 0]);

      await makeProxies(place, footage, folder, () => {});
      const proxy = join(folder, 'proxy-540.webm');
      const { out } = await run('ffmpeg', [
        '-i',
        proxy,
        '-frames:v',
        '1',
        '-f',
        'rawvideo',
        '-pix_fmt',
        'yuv420p',
        '-',
      ]);
      const [w, h] = proxySize(footage, 540);
      expect(out).toHaveLength(w * h * 2 * 1.5);
      const luma = (x: number, y: number) => out[y * w + x]!;
      expect(
        [luma(20, h + 99), luma(80, h + 99)].map((v) => Math.round(((v - 16) / 219) * 10) / 10),
      ).toEqual([1, 0]);
      expect(luma(50, h + 99)).toBeGreaterThan(90);
      expect(luma(50, h + 99)).toBeLessThan(165);
      // Half covered, and as bright as the covering colour.
      expect(Math.abs(luma(50, 99) - luma(20, 99))).toBeLessThan(12);
      // The strip shows it over black.
      const strip = await run('ffmpeg', [
        '-i',
        join(folder, 'strip.jpg'),
        '-f',
        'rawvideo',
        '-pix_fmt',
        'gray',
        '-',
      ]);
      const row = strip.out.subarray(0, 20);
      expect(row[2]).toBeGreaterThan(120);
      expect(row[17]).toBeLessThan(20);
    },
  );

  it('draws a vector picture with its coverage, and lets it reach nothing', async () => {
    const [svg, png] = [join(folder, 'ring.svg'), join(folder, 'ring.png')];
    writeFileSync(
      svg,
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="64" height="36">
        <image xlink:href="file://${join(process.cwd(), 'docs/screenshots/bench-colour.png')}" width="64" height="36"/>
        <circle cx="32" cy="18" r="9" fill="#ff8000"/></svg>`,
    );
    await expect(drawVector(svg, png)).rejects.toThrow(/ring.svg.*not in it.*embed it/);
    writeFileSync(
      svg,
      `<svg xmlns="http://www.w3.org/2000/svg" width="64" height="36">
        <circle cx="32" cy="18" r="9" fill="#ff8000"/></svg>`,
    );
    await drawVector(svg, png);
    const footage = await probe(png);
    expect([footage.format.width, footage.format.height, footage.format.alpha]).toEqual([
      3840,
      2160,
      true,
    ]);
    const { planes } = await frameOf(await placeOf(png), footage, 0);
    const at = (x: number, y: number) => planes.map((p) => p[y * 3840 + x]);
    expect(at(1920, 1080)).toEqual([255, 128, 0, 255]);
    expect(at(100, 100)[3]).toBe(0);
    writeFileSync(svg, '<svg><circle');
    await expect(drawVector(svg, png)).rejects.toThrow(/ring.svg.*bring it as a PNG/);
  });

  it('gives the same hash to the same file under another name', async () => {
    const file = await made(folder, 'one.mkv', ['-c:v', 'ffv1'], { seconds: 0.2 });
    const other = join(folder, 'two.mkv');
    writeFileSync(other, readFileSync(file));
    expect((await probe(other)).hash).toBe((await probe(file)).hash);
  });
});

describe('how samples are read', () => {
  const engine = new Engine({ limit: 1 << 28, helpers: 0 });
  /**
   * The largest difference, in 8-bit codes, between our conversion and FFmpeg's RGB with its finest
   * filter.
   */
  async function apart(
    file: string,
    ours: FrameFormat,
    scale: string,
  ): Promise<{ mean: number; most: number }> {
    const place = await placeOf(file);
    const raw = await frameOf(place, await probe(file), 0);
    const { width, height } = ours;
    const image = engine.compute(
      wholeRgb(toCodes(frameToLight({ ...raw, format: ours }, 'srgb'), 'srgb'), 8),
    );
    const lanczos = `scale=${scale}:flags=lanczos+accurate_rnd+full_chroma_int+full_chroma_inp,format=gbrp`;
    const { out } = await run('ffmpeg', [
      '-i',
      file,
      '-frames:v',
      '1',
      '-vf',
      lanczos,
      '-f',
      'rawvideo',
      '-',
    ]);
    let sum = 0,
      most = 0;
    [1, 2, 0].forEach((p, k) =>
      engine.memory.plane(image, p).forEach((v, i) => {
        const d = Math.abs(v - out[k * width * height + i]!);
        sum += d;
        most = Math.max(most, d);
      }),
    );
    return { mean: sum / out.length, most };
  }
  const zone = (format: string) =>
    `nullsrc=s=320x180,format=gbrp,geq=r='128+110*cos((X*X+Y*Y)*0.001)':g='128+90*cos(((320-X)*(320-X)+Y*Y)*0.001)':b='128+110*cos((X*X+(180-Y)*(180-Y))*0.001)',${format}`;

  it.each([
    ['left', 0, 128],
    ['center', 128, 128],
    ['topleft', 0, 0],
  ] as const)(
    'of a zone plate sited %s they come within three codes of FFmpeg’s Lanczos in the mean, and are further off where they do not lie',
    async (siting, across, down) => {
      const file = join(folder, `zone-${siting}.mkv`);
      const there = `scale=flags=lanczos+accurate_rnd:out_color_matrix=bt709:out_range=tv:out_h_chr_pos=${across}:out_v_chr_pos=${down},format=yuv420p`;
      await run('ffmpeg', [
        '-f',
        'lavfi',
        '-i',
        zone(there),
        '-frames:v',
        '1',
        '-c:v',
        'ffv1',
        '-colorspace',
        'bt709',
        file,
      ]);
      const { format } = await probe(file);
      const back = `in_color_matrix=bt709:in_range=tv:in_h_chr_pos=${across}:in_v_chr_pos=${down}`;
      const right = await apart(file, { ...format, siting }, back);
      const wrong = await apart(
        file,
        { ...format, siting: siting === 'left' ? 'center' : 'left' },
        back,
      );
      expect(right.mean).toBeLessThan(3);
      expect(wrong.mean).toBeGreaterThan(1.8 * right.mean);
    },
  );

  it('a JPEG’s colour lies in the middle, and is read within a code of FFmpeg’s in the mean', async () => {
    const file = join(folder, 'photograph.jpg');
    await run('ffmpeg', [
      '-i',
      'demo/footage/singer-close.mp4',
      '-frames:v',
      '1',
      '-pix_fmt',
      'yuvj420p',
      '-q:v',
      '2',
      file,
    ]);
    const { format, guess } = await probe(file);
    expect([format.siting, format.matrix, format.full, guess]).toEqual([
      'center',
      'bt601',
      true,
      'srgb',
    ]);
    const { mean, most } = await apart(
      file,
      format,
      'in_color_matrix=bt601:in_range=pc:in_h_chr_pos=128:in_v_chr_pos=128',
    );
    expect(mean).toBeLessThan(0.5);
    expect(most).toBeLessThan(12);
  });

  it.each([
    ['720x576', [], 'bt601', 'bt601-625'],
    ['720x480', [], 'bt601', 'bt601-525'],
    ['320x240', [], 'bt601', 'bt601-525'],
    ['960x540', [], 'bt601', 'bt601-625'],
    ['1280x720', [], 'bt709', 'bt709'],
    ['1280x536', [], 'bt709', 'bt709'],
    [
      '720x576',
      ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709'],
      'bt709',
      'bt709',
    ],
    [
      '640x360',
      ['-colorspace', 'smpte170m', '-color_primaries', 'smpte170m'],
      'bt601',
      'bt601-525',
    ],
  ] as const)('film of %s tagged %j is taken as %s, %s', async (size, tags, matrix, guess) => {
    const file = await made(
      folder,
      `sized-${size}-${tags.length}.mkv`,
      ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p', ...tags],
      { size, seconds: 0.04 },
    );
    const footage = await probe(file);
    expect([footage.format.matrix, footage.guess]).toEqual([matrix, guess]);
  });

  it('interlaced film is recognised, and made progressive with one frame a pair or two', async () => {
    const file = await made(
      folder,
      'woven.mp4',
      [
        '-vf',
        'tinterlace=interleave_top,setfield=tff',
        '-c:v',
        'libx264',
        '-flags',
        '+ildct+ilme',
        '-pix_fmt',
        'yuv420p',
      ],
      { rate: '50', seconds: 1 },
    );
    const footage = await probe(file);
    expect(footage.format.fields).toBe('top');
    expect(readAs(footage, { fields: 'none' }).format.fields).toBe('none');
    const place = await placeOf(file);
    for (const each of [1, 2] as const) {
      const to = join(folder, `parted-${each}.mkv`);
      const told: number[] = [];
      await makeProgressive(place, footage, { first: 'top', each }, to, (s) => told.push(s));
      const parted = await probe(to);
      expect([parted.format.fields ?? 'none', parted.frames]).toEqual(['none', 25 * each]);
      expect(parted.rate[0] / parted.rate[1]).toBe(25 * each);
    }
  });
  it.each([576, 480, 486])('interlaced tape of %i lines has proxies', async (lines) => {
    const file = join(folder, `tape-${lines}.mpg`);
    const tape = [
      '-vf',
      'setfield=tff',
      '-c:v',
      'mpeg2video',
      '-b:v',
      '8M',
      '-flags',
      '+ilme+ildct',
      '-pix_fmt',
      'yuv420p',
    ];
    await run('ffmpeg', ['-f', 'lavfi', '-i', `testsrc2=s=720x${lines}:r=25:d=0.4`, ...tape, file]);
    const footage = await probe(file);
    expect(footage.format.fields).toBe('top');
    const to = join(folder, `tape-${lines}`);
    mkdirSync(to);
    await makeProxies(await placeOf(file), footage, to, () => {});
    for (const high of [540, 270])
      expect((await probe(join(to, `proxy-${high}.webm`))).frames).toBe(10);
  });
});

describe('files that mean harm, or met with some', () => {
  it('names are names, whatever stands in them', async () => {
    const picture = await made(folder, '50%d.png', ['-frames:v', '1', '-update', '1'], {
      seconds: 0.04,
    });
    const named = join(folder, 'a:b|c.mp4');
    await run('ffmpeg', [
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=96x64:d=0.2',
      '-c:v',
      'libx264',
      '-pix_fmt',
      'yuv420p',
      `file:${named}`,
    ]);
    expect((await probe(picture)).kind).toBe('still');
    expect((await probe(named)).frames).toBe(5);
    const dash = await made(folder, '-dash.mkv', ['-c:v', 'ffv1'], { seconds: 0.04 });
    expect((await probe(dash)).frames).toBe(1);
  });

  it('playlists and scripts read no other file, also under a false name', async () => {
    const secret = await made(folder, 'secret.mkv', ['-c:v', 'ffv1'], { seconds: 0.04 });
    const lists: Record<string, string> = {
      'list.m3u8': `#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nfile://${secret}\n#EXT-X-ENDLIST\n`,
      'list.mp4': `#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\n${secret}\n#EXT-X-ENDLIST\n`,
      'concat.mkv': `ffconcat version 1.0\nfile '${secret}'\n`,
      'dash.mpd': `<MPD xmlns="urn:mpeg:dash:schema:mpd:2011"><Period><AdaptationSet mimeType="video/webm"><Representation id="1"><BaseURL>${secret}</BaseURL></Representation></AdaptationSet></Period></MPD>`,
    };
    for (const [name, text] of Object.entries(lists)) {
      const file = join(folder, name);
      writeFileSync(file, text);
      const refused = await probe(file).catch((e: Error) => e);
      expect(refused).toBeInstanceOf(NotFootage);
      expect((refused as Error).message).not.toMatch(/\/tmp|0x[0-9a-f]{6}/);
    }
  });

  it('a picture of more pixels than the settings allow is refused before it is decoded', async () => {
    const large = join(folder, 'large.png');
    await run('ffmpeg', [
      '-f',
      'lavfi',
      '-i',
      'color=black:s=9000x9000,format=gray',
      '-frames:v',
      '1',
      large,
    ]);
    await expect(probe(large)).rejects.toThrow(/large.png.*9000×9000.*67 million/);
  });

  it('a vector picture that takes too long is given up, and a cancelled one at once', async () => {
    const slow = join(folder, 'slow.svg');
    const blurs = Array.from(
      { length: 400 },
      (_, i) =>
        `<filter id="f${i}"><feTurbulence baseFrequency="0.9" numOctaves="9" seed="${i}"/></filter><rect width="100%" height="100%" filter="url(#f${i})"/>`,
    );
    writeFileSync(
      slow,
      `<svg xmlns="http://www.w3.org/2000/svg" width="1920" height="1080">${blurs.join('')}</svg>`,
    );
    const stop = new AbortController();
    const began = Date.now();
    setTimeout(() => stop.abort(), 600);
    await expect(
      drawVector(slow, join(folder, 'slow.png'), 'slow.svg', stop.signal),
    ).rejects.toThrow();
    expect(Date.now() - began).toBeLessThan(5000);
  });

  it('a film that holds fewer frames than it claims is taken with a word', async () => {
    const whole = await made(folder, 'whole.webm', ['-c:v', 'libvpx-vp9', '-g', '5'], {});
    const bytes = readFileSync(whole);
    const damaged = join(folder, 'damaged.webm');
    writeFileSync(damaged, bytes.subarray(0, Math.floor(bytes.length * 0.4)));
    const footage = await probe(damaged).catch((e: Error) => e);
    if (footage instanceof Error) expect(footage.message).toMatch(/damaged or cut short/);
    else
      expect(footage.warnings?.join()).toMatch(/frames could be read of the 50|damaged in places/);
    expect((await probe(whole)).warnings).toBeUndefined();
  });

  it('very wide pictures have proxies', async () => {
    const wide = join(folder, 'wide.png');
    await run('ffmpeg', ['-f', 'lavfi', '-i', 'color=red:s=65535x4', '-frames:v', '1', wide]);
    const footage = await probe(wide);
    expect(proxySize(footage, 540)[0]).toBe(4096);
    const proxies = join(folder, 'wide-proxies');
    mkdirSync(proxies);
    await makeProxies(await placeOf(wide), footage, proxies, () => {});
  });
});

describe('what is not footage', () => {
  const refused = (path: string) => expect(probe(path)).rejects.toThrow(NotFootage);
  it('is refused in words that say what to do', async () => {
    const text = join(folder, 'notes.mp4');
    writeFileSync(text, 'this is not a video '.repeat(500));
    await refused(text);
    const empty = join(folder, 'empty.mov');
    writeFileSync(empty, '');
    await expect(probe(empty)).rejects.toThrow(/empty.*copy it again/);
    await expect(probe(join(folder, 'missing.mp4'))).rejects.toThrow(/check the path/);
  });

  it('includes a video that was cut short, with or without an index at its end', async () => {
    const mp4 = await made(folder, 'whole.mp4', ['-c:v', 'libx264', '-pix_fmt', 'yuv420p']);
    await refused(cut(mp4, join(folder, 'cut.mp4'), 0.6));
    const mkv = await made(folder, 'whole.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p']);
    await refused(cut(mkv, join(folder, 'cut.mkv'), 0.53));
  });

  it('includes a file with sound only', async () => {
    const file = join(folder, 'sound.wav');
    await run('ffmpeg', ['-f', 'lavfi', '-i', 'sine=duration=0.3', file]);
    await expect(probe(file)).rejects.toThrow(/no pictures/);
  });
});
